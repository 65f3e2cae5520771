import type { Point } from '@nibber/core/boxes';
import { begin, change, drawing, redo, undo } from './drawing.slice';
import { moved, withoutPoint, withPoint } from './edits';

const square: Point[] = [[0.1, 0.1], [0.5, 0.1], [0.5, 0.5]]; // prettier-ignore
const zones = [{ id: 'z', name: 'Z', purpose: 'watch' as const, polygon: square as never }];

test('a point that is moved stays on the picture, the others where they were', () => {
  expect(moved(square, 1, 0.7, -0.3)).toEqual([[0.1, 0.1], [1, 0], [0.5, 0.5]]); // prettier-ignore
});

test('a point is put in after its edge begins, and taken out again', () => {
  const more = withPoint(square, 1, [0.3, 0.1]);
  expect(more).toEqual([[0.1, 0.1], [0.3, 0.1], [0.5, 0.1], [0.5, 0.5]]); // prettier-ignore
  expect(withoutPoint(more, 1)).toEqual(square);
});

test('every change can be undone and done again; a new one ends what was to come', () => {
  const reduce = drawing.reducer;
  const shape = (s: ReturnType<typeof reduce>) => s.draft!.shapes.z![0];
  const begun = reduce({ draft: null }, begin({ camera: 'c', zones }));
  const twice = reduce(
    reduce(begun, change({ zone: 'z', polygon: moved(square, 0, 0.1, 0) })),
    change({ zone: 'z', polygon: moved(square, 0, 0.2, 0) }),
  );
  expect(shape(twice)).toEqual([0.3, 0.1]);
  const back = reduce(twice, undo());
  expect([shape(back), shape(reduce(back, undo())), shape(reduce(back, redo()))]).toEqual([[0.2, 0.1], [0.1, 0.1], [0.3, 0.1]]); // prettier-ignore
  const other = reduce(back, change({ zone: 'z', polygon: square }));
  expect(other.draft!.future).toEqual([]);
  expect(reduce(reduce(begun, undo()), redo())).toEqual(begun);
});
