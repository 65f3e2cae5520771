import { around, classOf, grown, onPicture, overlap } from '.';

// Worked by hand: two 2×2 squares that share a 1×1 corner → 1 / (4 + 4 − 1).
test('overlap is shared area over the area of both', () => {
  expect(overlap([0, 0, 0.2, 0.2], [0.1, 0.1, 0.2, 0.2])).toBeCloseTo(1 / 7, 12);
  expect(overlap([0, 0, 0.2, 0.2], [0.2, 0, 0.2, 0.2])).toBe(0);
  expect(overlap([0.1, 0.1, 0.3, 0.4], [0.1, 0.1, 0.3, 0.4])).toBeCloseTo(1, 12);
});

test('a type belongs to its class, a class to itself, another word to none', () => {
  expect([classOf('dog'), classOf('truck'), classOf('person'), classOf('goose')]).toEqual(['pet', 'vehicle', 'person', undefined]);
});

test('growing keeps the centre, and the part on the picture stays on it', () => {
  const big = grown([0.8, 0.8, 0.2, 0.2], 2);
  expect([big[0] + big[2] / 2, big[1] + big[3] / 2]).toEqual([expect.closeTo(0.9, 12), expect.closeTo(0.9, 12)]);
  expect(onPicture(big)).toEqual([expect.closeTo(0.7, 12), expect.closeTo(0.7, 12), expect.closeTo(0.3, 12), expect.closeTo(0.3, 12)]);
  expect(around([])).toBeUndefined();
});
