import fc from 'fast-check';
import { zoomed, type Framing } from './Zoomable';

const share = fc.double({ min: 0, max: 1, noNaN: true });
const framed: fc.Arbitrary<Framing> = fc
  .record({ zoom: fc.double({ min: 1, max: 6, noNaN: true }), x: share, y: share })
  .map(({ zoom, x, y }) => ({ zoom, x: x * (1 - 1 / zoom), y: y * (1 - 1 / zoom) }));

test('the place under the fingers stays under them, unless the edge of the picture stands in the way', () => {
  fc.assert(
    fc.property(framed, fc.double({ min: 0.2, max: 5, noNaN: true }), fc.tuple(share, share), (before, factor, at) => {
      const after = zoomed(before, factor, at);
      const place = (s: Framing, i: 0 | 1) => (i === 0 ? s.x : s.y) + at[i] / s.zoom;
      const corner = [after.x, after.y] as const;
      for (const i of [0, 1] as const) {
        const isAtEdge = corner[i] <= 1e-9 || corner[i] >= 1 - 1 / after.zoom - 1e-9;
        if (!isAtEdge) expect(place(after, i)).toBeCloseTo(place(before, i), 9);
      }
    }),
  );
});

test('nothing beside the picture is ever seen, and it is no smaller than its frame nor larger than six times', () => {
  fc.assert(
    fc.property(
      framed,
      fc.double({ min: 0.01, max: 100, noNaN: true }),
      fc.tuple(share, share),
      fc.tuple(share, share),
      (before, factor, from, to) => {
        const { zoom, x, y } = zoomed(before, factor, from, to);
        expect(zoom).toBeGreaterThanOrEqual(1);
        expect(zoom).toBeLessThanOrEqual(6);
        for (const v of [x, y]) {
          expect(v).toBeGreaterThanOrEqual(0);
          expect(v + 1 / zoom).toBeLessThanOrEqual(1 + 1e-9);
        }
      },
    ),
  );
});

test('two fingers that move together push the picture along', () => {
  const moved = zoomed({ zoom: 2, x: 0.25, y: 0.25 }, 1, [0.5, 0.5], [0.7, 0.5]);
  expect(moved.x).toBeCloseTo(0.15, 9);
  expect(moved.y).toBeCloseTo(0.25, 9);
});
