import fc from 'fast-check';
import { connectedParts, dilate, look, newBackground, stretched, defaultMotion } from '.';

const width = 40;
const height = 20;
const grey = (level: number, patch?: { x: number; y: number; w: number; h: number; level: number }) => {
  const data = new Uint8Array(width * height).fill(level);
  if (patch) for (let y = patch.y; y < patch.y + patch.h; y++) data.fill(patch.level, y * width + patch.x, y * width + patch.x + patch.w);
  return data;
};

test('a patch that differs by more than the threshold moves, one that differs by just as much does not', () => {
  for (const [level, parts] of [
    [131, 1],
    [130, 0],
  ] as const) {
    const background = newBackground(width, height);
    look(background, grey(100), undefined);
    expect(look(background, grey(100, { x: 10, y: 5, w: 4, h: 4, level }), undefined).parts).toHaveLength(parts);
  }
});

test('the box of a part is its cells, widened by the 3×3 dilation', () => {
  const background = newBackground(width, height);
  look(background, grey(100), undefined);
  const { parts } = look(background, grey(100, { x: 10, y: 5, w: 4, h: 4, level: 200 }), undefined);
  expect(parts).toEqual([[9 / width, 4 / height, 6 / width, 6 / height]]);
});

test('masked cells never count, and a part too small is left out', () => {
  const counts = new Uint8Array(width * height).fill(1);
  for (let y = 0; y < height; y++) counts.fill(0, y * width, y * width + 20);
  const background = newBackground(width, height);
  look(background, grey(100), counts);
  expect(look(background, grey(100, { x: 10, y: 5, w: 4, h: 4, level: 200 }), counts).parts).toEqual([]);
  const small = newBackground(width, height);
  look(small, grey(100), undefined, defaultMotion);
  expect(look(small, grey(100, { x: 30, y: 5, w: 1, h: 1, level: 200 }), undefined).parts).toEqual([]);
});

test('a change of most of the picture is light, and is learnt at once', () => {
  const background = newBackground(width, height);
  look(background, grey(100), undefined);
  expect(look(background, grey(180), undefined)).toMatchObject({ isLightChange: true, parts: [] });
  expect(look(background, grey(180), undefined)).toMatchObject({ isLightChange: false, parts: [] });
});

test('a thing that stays becomes background', () => {
  const background = newBackground(width, height);
  look(background, grey(100), undefined);
  const still = grey(100, { x: 10, y: 5, w: 4, h: 4, level: 140 });
  expect(look(background, still, undefined).parts).toHaveLength(1);
  for (let i = 0; i < 20; i++) look(background, still, undefined);
  expect(look(background, still, undefined).parts).toEqual([]);
});

test('parts hang together by their corners, largest first', () => {
  const rows = ['##......', '..#....#', '.....###', '........'];
  const cells = Uint8Array.from(rows.join(''), (c) => (c === '#' ? 1 : 0));
  expect(connectedParts(cells, 8, 4)).toEqual([
    { box: [5 / 8, 1 / 4, 3 / 8, 2 / 4], cells: 4 },
    { box: [0, 0, 3 / 8, 2 / 4], cells: 3 },
  ]);
  expect([...dilate(Uint8Array.from([0, 0, 0, 0, 1, 0, 0, 0, 0]), 3, 3)]).toEqual(new Array(9).fill(1));
});

test('the greys of a dark picture are drawn out, and what moves in it is seen', () => {
  const dark = Uint8Array.from({ length: width * height }, (_, i) => 8 + (i % 12));
  const step = dark.slice();
  for (let y = 5; y < 8; y++) step.fill(30, y * width + 10, y * width + 14);
  const seen = (contrast: number) => {
    const background = newBackground(width, height, true);
    look(background, dark, undefined, { ...defaultMotion, contrast });
    return look(background, step, undefined, { ...defaultMotion, contrast }).parts.length;
  };
  expect([seen(0), seen(0.5), seen(1)]).toEqual([0, 1, 1]);
  expect([...stretched(Uint8Array.from([5, 5, 5]))]).toEqual([5, 5, 5]);
});

test('parts are those of a flood that is walked cell by cell, whatever the picture', () => {
  const flood = (cells: Uint8Array, w: number, h: number) => {
    const left = cells.slice();
    const found: number[] = [];
    for (let start = 0; start < left.length; start++) {
      if (!left[start]) continue;
      const stack = [start];
      left[start] = 0;
      let count = 0;
      while (stack.length) {
        const i = stack.pop()!;
        count++;
        for (const dy of [-1, 0, 1])
          for (const dx of [-1, 0, 1]) {
            const [x, y] = [(i % w) + dx, Math.floor(i / w) + dy];
            if (x >= 0 && x < w && y >= 0 && y < h && left[y * w + x]) {
              left[y * w + x] = 0;
              stack.push(y * w + x);
            }
          }
      }
      found.push(count);
    }
    return found.length;
  };
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 12 }), fc.array(fc.constantFrom(0, 0, 1), { minLength: 12, maxLength: 144 }), (w, list) => {
      const h = Math.floor(list.length / w);
      if (h === 0) return;
      const cells = Uint8Array.from(list.slice(0, w * h));
      expect(connectedParts(cells, w, h)).toHaveLength(flood(cells, w, h));
    }),
    { numRuns: 500 },
  );
});
