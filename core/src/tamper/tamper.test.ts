import { relearn, startTamper, tamperWords, watchTamper, type TamperOutcome } from '.';
import type { Grey } from '../stills';

const [width, height] = [160, 90];
type Paint = (x: number, y: number) => number;
const picture = (paint: Paint): Grey => {
  const data = new Uint8Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) data[y * width + x] = Math.min(255, Math.max(0, Math.round(paint(x, y))));
  return { width, height, data };
};
/** A made-up yard: a wall with windows, a path, a post. */
const yard: Paint = (x, y) =>
  y < 40
    ? x % 37 < 12 && y > 8 && y < 28
      ? 60
      : 150
    : x > 70 && x < 96
      ? 200 - y
      : x > 130 && x < 134
        ? 30
        : 90 + ((x * 13 + y * 7) % 17);
const elsewhere: Paint = (x, y) => ((x + 2 * y) % 61 < 30 ? 180 : 70) + ((x * 5 + y * 3) % 11);
const blurred: Paint = (x, y) => {
  let sum = 0;
  for (let dy = -4; dy <= 4; dy++)
    for (let dx = -4; dx <= 4; dx++) sum += yard(Math.min(width - 1, Math.max(0, x + dx)), Math.min(height - 1, Math.max(0, y + dy)));
  return sum / 81;
};

/** A picture a second: a usual minute, then something else for twenty seconds, then the usual again. */
function run(odd: Paint, isInfrared = false): TamperOutcome[] {
  const state = startTamper();
  const [usual, other] = [picture(yard), picture(odd)];
  return Array.from({ length: 100 }, (_, i) => {
    const isOdd = i >= 60 && i < 80;
    return watchTamper(state, isOdd ? other : usual, isOdd && isInfrared, i * 1000);
  }).flat();
}

test.each<[string, Paint, TamperOutcome['kind']]>([
  ['turned to another place', elsewhere, 'moved'],
  ['knocked to one side', (x, y) => yard(Math.min(width - 1, x + 10), y), 'moved'],
  ['a hand over the lens', (x, y) => 4 + ((x + y) % 5), 'covered'],
  ['a grey cloth over it', () => 120, 'covered'],
  ['a torch into it', (x, y) => (x < 130 ? 255 : yard(x, y)), 'blinded'],
  ['turned out of focus', blurred, 'out-of-focus'],
])('%s', (_name, odd, kind) => {
  const outcomes = run(odd);
  expect(outcomes.map((o) => [o.kind, o.state, o.at])).toEqual([
    [kind, 'begins', 65_000],
    [kind, 'ends', 80_000],
  ]);
  expect(tamperWords(outcomes[0]!)).toMatch(/\d/);
});

test.each<[string, Paint, boolean]>([
  ['dusk, half as bright', (x, y) => yard(x, y) * 0.5, false],
  ['a lamp on one side', (x, y) => yard(x, y) + (x < 60 ? 50 : 0), false],
  ['a van that stops in the picture', (x, y) => (x > 10 && x < 50 && y > 50 && y < 80 ? 220 : yard(x, y)), false],
  ['infrared, with other contrasts', (x, y) => 255 - yard(x, y), true],
])('%s is no one’s doing', (_name, odd, isInfrared) => {
  expect(run(odd, isInfrared)).toEqual([]);
});

test('a moth before the lens for less than the hold time is not said', () => {
  const state = startTamper();
  const outcomes = Array.from({ length: 40 }, (_, i) =>
    watchTamper(state, picture(i >= 20 && i < 24 ? () => 3 : yard), false, i * 1000),
  ).flat();
  expect(outcomes).toEqual([]);
});

test('a camera that was moved on purpose learns its new place', () => {
  const state = startTamper();
  for (let i = 0; i < 20; i++) watchTamper(state, picture(yard), false, i * 1000);
  relearn(state);
  expect(Array.from({ length: 30 }, (_, i) => watchTamper(state, picture(elsewhere), false, 30_000 + i * 1000)).flat()).toEqual([]);
});
