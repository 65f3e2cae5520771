import type { Point } from '@nibber/core/boxes';
import { asSaved, drawingsOf } from '../../state/drawing';
import { drawingProblemWords, moved, newDrawing, withoutPoint, withPoint } from './edits';

const square: Point[] = [
  [0.1, 0.1],
  [0.5, 0.1],
  [0.5, 0.5],
];
const zones = [{ id: 'z', name: 'Z', purpose: 'ignore' as const, classes: ['pet' as const], polygon: square as never }];
const lines = [
  {
    id: 'l',
    name: 'L',
    points: [
      [0, 0],
      [1, 1],
    ] as never,
  },
];

test('a point that is moved stays on the picture, the others where they were', () => {
  expect(moved(square, 1, 0.7, -0.3)).toEqual([
    [0.1, 0.1],
    [1, 0],
    [0.5, 0.5],
  ]);
});

test('a point is put in after its edge begins, and taken out again', () => {
  const more = withPoint(square, 1, [0.3, 0.1]);
  expect(more).toEqual([
    [0.1, 0.1],
    [0.3, 0.1],
    [0.5, 0.1],
    [0.5, 0.5],
  ]);
  expect(withoutPoint(more, 1)).toEqual(square);
});

test('what is drawn goes into the draft and comes out as it was', () => {
  expect(asSaved(drawingsOf(zones, lines))).toEqual({ zones, lines });
});

test('a new drawing has a name and an id of its own, and says what it lacks', () => {
  const first = newDrawing('privacy', []);
  const second = newDrawing('privacy', [first]);
  expect([first.id, second.id, second.name]).toEqual(['privacy-mask', 'privacy-mask-2', 'Privacy mask 2']);
  expect(drawingProblemWords(first)).toBe('Privacy mask has 0 points.');
  expect(drawingProblemWords({ ...newDrawing('line', []), points: [[0, 0]] })).toBe('Line has 1 points and needs at least two.');
  expect(
    drawingProblemWords({
      ...first,
      points: [
        [0, 0],
        [1, 1],
        [1, 0],
        [0, 1],
      ],
    }),
  ).toBe('Privacy mask edge 1 meets edge 3.');
  expect(drawingProblemWords({ ...first, points: square })).toBeUndefined();
});
