import fc from 'fast-check';
import { tracksInShape, type Path } from '.';

const path = (...feet: [number, number][]): Path => ({ class: 'person', feet });
const down = path([0.5, 0.2], [0.5, 0.4], [0.5, 0.8]);
const along = path([0.1, 0.2], [0.9, 0.2]);

test('a zone catches the tracks whose feet came into it', () => {
  const zone = {
    kind: 'zone' as const,
    points: [
      [0, 0.6],
      [1, 0.6],
      [1, 1],
      [0, 1],
    ] as [number, number][],
  };
  expect(tracksInShape(zone, [down, along])).toEqual({ tracks: 1, forward: 0, back: 0 });
});

// Worked by hand: walking from left to right along the line, the left-hand side is up the picture; going down is from left to right.
test('a line catches what crosses it, by direction', () => {
  const line = {
    kind: 'line' as const,
    points: [
      [0.2, 0.5],
      [0.8, 0.5],
    ] as [number, number][],
  };
  const up = { ...down, feet: [...down.feet].reverse() };
  expect(tracksInShape(line, [down, up, along])).toEqual({ tracks: 2, forward: 1, back: 1 });
  expect(tracksInShape({ ...line, points: [...line.points].reverse() }, [down])).toMatchObject({ forward: 0, back: 1 });
});

test('a larger zone catches no less', () => {
  const share = fc.double({ min: 0, max: 1, noNaN: true });
  const anyPaths = fc.array(
    fc.array(fc.tuple(share, share), { maxLength: 8 }).map((feet) => path(...feet)),
    { maxLength: 10 },
  );
  fc.assert(
    fc.property(anyPaths, fc.double({ min: 0.1, max: 0.4, noNaN: true }), (paths, inset) => {
      const box = (i: number) => ({
        kind: 'zone' as const,
        points: [
          [i, i],
          [1 - i, i],
          [1 - i, 1 - i],
          [i, 1 - i],
        ] as [number, number][],
      });
      expect(tracksInShape(box(inset / 2), paths).tracks).toBeGreaterThanOrEqual(tracksInShape(box(inset), paths).tracks);
    }),
  );
});

test('what a track far off would have done is not counted for being near others', () => {
  const zone = {
    kind: 'zone' as const,
    points: [
      [0, 0.6],
      [0.2, 0.6],
      [0.2, 0.8],
    ] as [number, number][],
  };
  expect(tracksInShape(zone, [down, along, path()])).toEqual({ tracks: 0, forward: 0, back: 0 });
  // A track that passes round the corner of the bounds without meeting the zone.
  expect(tracksInShape(zone, [path([0.05, 0.9], [0.05, 0.75])]).tracks).toBe(0);
});
