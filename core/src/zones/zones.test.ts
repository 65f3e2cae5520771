import { booleanPointInPolygon } from '@turf/boolean-point-in-polygon';
import fc from 'fast-check';
import polygonClipping from 'polygon-clipping';
import { contains, isIn, polygonArea, polygonProblem, polygonProblemWords, shareInside, type Polygon } from '.';
import type { Box, Point } from '../boxes';

/** A sound polygon: points at rising angles around a middle. */
const starShaped = fc
  .tuple(
    fc.array(fc.double({ min: 0.05, max: 0.45, noNaN: true }), { minLength: 3, maxLength: 32 }),
    fc.double({ min: 0.45, max: 0.55, noNaN: true }),
  )
  .map(([radii, middle]): Polygon =>
    radii.map((r, i): Point => [
      middle + r * Math.cos((i / radii.length) * 2 * Math.PI),
      0.5 + r * Math.sin((i / radii.length) * 2 * Math.PI),
    ]),
  );
const anyPoint = fc.tuple(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }));

// Reference: @turf/boolean-point-in-polygon, a general geometry library.
test('inside and outside agree with a geometry library on random shapes', () => {
  fc.assert(
    fc.property(starShaped, anyPoint, (polygon, point) => {
      const ring = [...polygon, polygon[0]!].map((p) => [...p]);
      expect(contains(polygon, point)).toBe(booleanPointInPolygon([...point], { type: 'Polygon', coordinates: [ring] }));
    }),
    { numRuns: 2000 },
  );
});

// Reference: polygon-clipping, a general library for cutting polygons.
test('the share of a box in a zone agrees with a clipping library on random shapes', () => {
  const size = fc.double({ min: 0.05, max: 0.5, noNaN: true });
  fc.assert(
    fc.property(starShaped, anyPoint, size, size, (polygon, [x, y], w, h) => {
      const box: Box = [x * 0.5, y * 0.5, w, h];
      const asRing = (points: readonly (readonly [number, number])[]) => [
        [...points, points[0]!].map((p): [number, number] => [p[0], p[1]]),
      ];
      const corners = [
        [box[0], box[1]],
        [box[0] + w, box[1]],
        [box[0] + w, box[1] + h],
        [box[0], box[1] + h],
      ] as const;
      const cut = polygonClipping.intersection([asRing(polygon)], [asRing(corners)]);
      const area = cut.reduce((sum, rings) => sum + polygonArea(rings[0]!.slice(0, -1)), 0);
      expect(shareInside(box, polygon)).toBeCloseTo(area / (w * h), 6);
    }),
    { numRuns: 500 },
  );
});

test('the border belongs to the zone: corners, edge middles, and points of a level edge', () => {
  const square: Polygon = [
    [0.2, 0.2],
    [0.6, 0.2],
    [0.6, 0.6],
    [0.2, 0.6],
  ];
  for (const p of [
    [0.2, 0.2],
    [0.6, 0.6],
    [0.4, 0.2],
    [0.6, 0.3],
  ] as Point[])
    expect(contains(square, p)).toBe(true);
  expect(contains(square, [0.6000001, 0.3])).toBe(false);
});

test.each<[string, Polygon, string]>([
  [
    'two points',
    [
      [0, 0],
      [1, 1],
    ],
    'has 2 points',
  ],
  [
    'a point outside',
    [
      [0, 0],
      [1.2, 0],
      [0.5, 1],
    ],
    'point 2 lies outside the picture',
  ],
  [
    'a bow tie',
    [
      [0, 0],
      [1, 1],
      [1, 0],
      [0, 1],
    ],
    'edge 1 meets edge 3',
  ],
  [
    'an edge that folds back',
    [
      [0, 0],
      [0.8, 0],
      [0.4, 0],
    ],
    'edge 1 meets edge 2',
  ],
  [
    'a corner on another edge',
    [
      [0, 0],
      [1, 0],
      [1, 1],
      [0.5, 0],
      [0, 1],
    ],
    'edge 1 meets edge 3',
  ],
])('%s is refused, the place named', (_name, polygon, words) => {
  expect(polygonProblemWords(polygonProblem(polygon)!)).toBe(words);
});

test('a sound polygon has no fault, whichever way round', () => {
  fc.assert(
    fc.property(starShaped, (p) => polygonProblem(p) === undefined && polygonProblem([...p].reverse()) === undefined),
    { numRuns: 300 },
  );
});

test('an anchor is a point of the box or a share of it', () => {
  const lower: Polygon = [
    [0, 0.5],
    [1, 0.5],
    [1, 1],
    [0, 1],
  ];
  const box: Box = [0.4, 0.3, 0.1, 0.3];
  expect([
    isIn(lower, box, 'feet'),
    isIn(lower, box, 'centre'),
    isIn(lower, box, { overlap: 0.33 }),
    isIn(lower, box, { overlap: 0.34 }),
  ]).toEqual([true, false, true, false]);
});
