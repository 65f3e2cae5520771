import { exposure, isInfrared, pictureScore, sharpness, toGrey, type Grey } from '.';

const picture = (paint: (x: number, y: number) => number): Grey => {
  const data = new Uint8Array(32 * 32);
  for (let y = 0; y < 32; y++) for (let x = 0; x < 32; x++) data[y * 32 + x] = paint(x, y);
  return { width: 32, height: 32, data };
};
const whole = [0, 0, 1, 1] as const;

// Worked by hand: on a board of single cells 0 and 100 the Laplacian is ±400 in equal numbers, so its variance is 400².
test('sharpness is the variance of the Laplacian', () => {
  expect(
    sharpness(
      picture((x, y) => ((x + y) % 2) * 100),
      whole,
    ),
  ).toBeCloseTo(160_000, 6);
  expect(
    sharpness(
      picture(() => 90),
      whole,
    ),
  ).toBe(0);
  expect(
    sharpness(
      picture((x) => x * 4),
      whole,
    ),
  ).toBe(0);
});

test('exposure is the share of pixels neither black nor burnt out', () => {
  expect(
    exposure(
      picture((x) => (x < 8 ? 0 : x < 16 ? 255 : 120)),
      whole,
    ),
  ).toBe(0.5);
});

test('a nearer, surer, sharper view scores higher, one cut by the edge lower', () => {
  const board = picture((x, y) => ((x + y) % 2) * 100 + 50);
  const plain = pictureScore(board, [0.3, 0.3, 0.3, 0.3], 0.5);
  expect(pictureScore(board, [0.3, 0.3, 0.4, 0.4], 0.5)).toBeGreaterThan(plain);
  expect(pictureScore(board, [0.3, 0.3, 0.3, 0.3], 0.9)).toBeGreaterThan(plain);
  expect(pictureScore(board, [0.85, 0.3, 0.3, 0.3], 0.5)).toBeLessThan(plain);
});

test('a larger view of a plain coat beats a smaller one full of leaves', () => {
  const half = picture((x, y) => (y < 16 ? ((x + y) % 2) * 200 + 30 : 110 + ((x >> 2) % 2) * 24));
  const leaves = pictureScore(half, [0.2, 0.05, 0.3, 0.35], 0.8);
  const coat = pictureScore(half, [0.2, 0.55, 0.45, 0.4], 0.8);
  expect(coat).toBeGreaterThan(leaves);
});

test('infrared is known by its lack of colour', () => {
  expect(isInfrared(Uint8Array.from({ length: 300 }, (_, i) => Math.floor(i / 3) % 200))).toBe(true);
  expect(isInfrared(Uint8Array.from({ length: 300 }, (_, i) => [90, 120, 60][i % 3]!))).toBe(false);
});

// ITU-R BT.601: 0.299 R + 0.587 G + 0.114 B.
test.each([
  [255, 0, 0],
  [0, 255, 0],
  [0, 0, 255],
  [12, 200, 77],
])('grey of %d %d %d is its BT.601 luma', (r, g, b) => {
  expect(Math.abs(toGrey(Uint8Array.from([r, g, b]), 1, 1).data[0]! - (0.299 * r + 0.587 * g + 0.114 * b))).toBeLessThanOrEqual(1);
});
