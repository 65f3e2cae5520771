import { connectedParts, dilate, look, newBackground, usualMotion } from '.';

const width = 40;
const height = 20;
const grey = (level: number, patch?: { x: number; y: number; w: number; h: number; level: number }) => {
  const data = new Uint8Array(width * height).fill(level);
  if (patch) for (let y = patch.y; y < patch.y + patch.h; y++) data.fill(patch.level, y * width + patch.x, y * width + patch.x + patch.w);
  return data;
};

test('a patch that differs by the threshold moves, one a grey level less does not', () => {
  for (const [level, parts] of [
    [130, 1],
    [129, 0],
  ] as const) {
    // prettier-ignore
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
  look(small, grey(100), undefined, usualMotion);
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
  expect(connectedParts(cells, 8, 4, 1)).toEqual([
    [5 / 8, 1 / 4, 3 / 8, 2 / 4],
    [0, 0, 3 / 8, 2 / 4],
  ]);
  expect(connectedParts(cells, 8, 4, 4)).toHaveLength(1);
  expect([...dilate(Uint8Array.from([0, 0, 0, 0, 1, 0, 0, 0, 0]), 3, 3)]).toEqual(new Array(9).fill(1));
});
