import type { Box } from '@nibber/core/boxes';
import { boxAt } from './path';

const path: [number, Box][] = [
  [1000, [0, 0, 0.1, 0.2]],
  [2000, [0.2, 0, 0.1, 0.4]],
];

test('between two pictures the box is between', () => {
  expect(boxAt(path, 1500)).toEqual([0.1, 0, 0.1, expect.closeTo(0.3, 12)]);
  expect(boxAt(path, 2000)).toEqual(path[1]![1]);
});

test('before and after, it lingers a little and is gone', () => {
  expect([boxAt(path, 700), boxAt(path, 500), boxAt(path, 2300), boxAt(path, 2500), boxAt([], 0)]).toEqual([
    path[0]![1],
    undefined,
    path[1]![1],
    undefined,
    undefined,
  ]);
});
