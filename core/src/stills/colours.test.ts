import type { Box } from '../boxes';
import { colourIn, colourOfRgb, isClearlyBetter, looksIn, spreadOver } from '.';

test.each([
  // Values of the colour keywords in CSS Color Module Level 4 (W3C).
  ['black', [0, 0, 0]],
  ['white', [255, 255, 255]],
  ['grey', [128, 128, 128]],
  ['grey', [169, 169, 169]],
  ['red', [255, 0, 0]],
  ['red', [178, 34, 34]],
  ['orange', [255, 165, 0]],
  ['orange', [255, 140, 0]],
  ['yellow', [255, 255, 0]],
  ['green', [0, 128, 0]],
  ['green', [34, 139, 34]],
  ['blue', [0, 0, 255]],
  ['blue', [65, 105, 225]],
  ['blue', [0, 0, 128]],
  ['purple', [128, 0, 128]],
  ['pink', [255, 192, 203]],
  ['pink', [255, 182, 193]],
  ['brown', [139, 69, 19]],
  ['brown', [101, 67, 33]],
] as const)('%s is the name of %j', (name, [r, g, b]) => {
  expect(colourOfRgb(r, g, b)).toBe(name);
});

/** 20×40 pixels: a red coat over blue trousers in the middle, grass around. */
const person = () => {
  const rgb = new Uint8Array(20 * 40 * 3);
  for (let y = 0; y < 40; y++)
    for (let x = 0; x < 20; x++) {
      const isBody = x >= 5 && x < 15;
      rgb.set(isBody ? (y < 8 ? [220, 180, 150] : y < 21 ? [190, 20, 30] : [30, 50, 160]) : [40, 120, 40], (y * 20 + x) * 3);
    }
  return rgb;
};

test('of a person what is worn above and below is told, of anything else its middle', () => {
  expect(looksIn(person(), 20, 40, [0, 0, 1, 1], 'person')).toEqual({ upper: 'red', lower: 'blue' });
  expect(looksIn(person(), 20, 40, [0, 0.6, 1, 0.3], 'vehicle')).toEqual({ colour: 'blue' });
});

test('where no colour has the greater part, or there are too few pixels, none is told', () => {
  const mixed = Uint8Array.from(
    { length: 16 * 16 * 3 },
    (_, i) =>
      [
        [255, 0, 0],
        [0, 200, 0],
        [0, 0, 255],
        [255, 255, 255],
      ][Math.floor(i / 3) % 4]![i % 3]!,
  );
  expect([colourIn(mixed, 16, 16, [0, 0, 1, 1]), colourIn(mixed, 16, 16, [0, 0, 0.1, 0.1])]).toEqual([undefined, undefined]);
});

const snapshots = [1, 5, 2, 9, 3, 4, 8, 1].map((quality, i) => ({ at: i * 1000, quality, box: [0.2, 0.2, 0.1, 0.1] as Box }));

test('several pictures are spread over a track, the best of each part of it', () => {
  expect(spreadOver(snapshots, 4).map((s) => s.quality)).toEqual([5, 9, 4, 8]);
  expect(spreadOver(snapshots, 1).map((s) => s.quality)).toEqual([9]);
  expect(spreadOver(snapshots, 20)).toEqual(snapshots);
  expect(spreadOver([], 3)).toEqual([]);
});

test('of one that came and then stood still, the pictures are of its way', () => {
  const came = [0, 1, 2, 3].map((i) => ({ at: i * 1000, quality: 1 + i, box: [0.1 * i, 0.2, 0.1, 0.1] as Box }));
  const stood = Array.from({ length: 20 }, (_, i) => ({
    at: 4000 + i * 1000,
    quality: 9 + (i % 3),
    box: [0.3 + (i % 2) * 0.002, 0.2, 0.1, 0.1] as Box,
  }));
  expect(spreadOver([...came, ...stood], 3).map((s) => s.at)).toEqual([0, 1000, 6000]);
});

test('only a clearly better picture takes the place of one that was sent', () => {
  expect([isClearlyBetter(1.4, 1), isClearlyBetter(1.6, 1), isClearlyBetter(0.1, 0)]).toEqual([false, true, true]);
});
