import { lineIntersect } from '@turf/line-intersect';
import { lineString } from '@turf/helpers';
import fc from 'fast-check';
import { distanceToLine, noteCrossing, startCrossing } from './crossing';
import type { Point } from '../boxes';

// A fine grid of prime width, on which three points hardly ever lie on one line.
const coordinate = fc.integer({ min: 0, max: 99_990 }).map((n) => n / 99_991);
const point = fc.tuple(coordinate, coordinate) as fc.Arbitrary<Point>;
const turn = (a: Point, b: Point, c: Point) => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
/** Nothing touches: what a touch means is ours to say, and libraries differ in their last digits. */
const isPlain = (line: Point[], from: Point, to: Point) =>
  line.every(
    (p, i) => Math.abs(turn(from, to, p)) > 1e-9 && (i === 0 || [from, to].every((q) => Math.abs(turn(line[i - 1]!, p, q)) > 1e-6)),
  );

test('a path cuts a line as often as the general geometry library turf says, each way counted against the other', () => {
  fc.assert(
    fc.property(fc.array(point, { minLength: 2, maxLength: 5 }), point, point, (line, from, to) => {
      fc.pre(isPlain(line, from, to));
      const crossing = startCrossing();
      noteCrossing(crossing, line, 0, from);
      const found = noteCrossing(crossing, line, 0, to);
      const meets = lineIntersect(lineString(line as never), lineString([from, to] as never)).features.length;
      // Cut an even number of times, it ends on the side where it began, or has gone round an end; never the other way round.
      expect(Math.abs(found)).toBe(line.length === 2 ? meets : Math.abs(found));
      expect(meets === 0 ? found : 0).toBe(0);
      if (meets === 1) expect(Math.abs(found)).toBe(1);
    }),
    { numRuns: 1000 },
  );
});

test('the way back is the other direction', () => {
  fc.assert(
    fc.property(fc.array(point, { minLength: 2, maxLength: 5 }), point, point, (line, from, to) => {
      fc.pre(isPlain(line, from, to));
      const there = startCrossing();
      noteCrossing(there, line, 0, from);
      const back = startCrossing();
      noteCrossing(back, line, 0, to);
      expect(noteCrossing(there, line, 0, to) + noteCrossing(back, line, 0, from)).toBe(0);
    }),
  );
});

const gateway: Point[] = [
  [0.3, 0.5],
  [0.7, 0.5],
];
const walk = (places: readonly Point[], line: readonly Point[] = gateway) => {
  const crossing = startCrossing();
  return places.map((p) => noteCrossing(crossing, line, 0.01, p));
};

test.each<[string, Point[], number[]]>([
  // Walking along the line to the right of the picture, its left-hand side is up.
  [
    'down is forward',
    [
      [0.5, 0.4],
      [0.5, 0.6],
    ],
    [0, 1],
  ],
  [
    'up is back',
    [
      [0.5, 0.6],
      [0.5, 0.4],
    ],
    [0, -1],
  ],
  [
    'round its end is none',
    [
      [0.5, 0.4],
      [0.8, 0.4],
      [0.8, 0.6],
      [0.5, 0.6],
    ],
    [0, 0, 0, 0],
  ],
  [
    'through its very end',
    [
      [0.7, 0.4],
      [0.7, 0.6],
    ],
    [0, 1],
  ],
  [
    'across and back between two pictures clear of it',
    [
      [0.5, 0.4],
      [0.5, 0.505],
      [0.5, 0.4],
    ],
    [0, 0, 0],
  ],
  [
    'to the line and on, a picture on it',
    [
      [0.5, 0.4],
      [0.5, 0.5],
      [0.5, 0.6],
    ],
    [0, 0, 1],
  ],
  [
    'a gap in which it jumped over',
    [
      [0.4, 0.1],
      [0.6, 0.9],
    ],
    [0, 1],
  ],
])('%s', (_name, places, expected) => {
  expect(walk(places)).toEqual(expected);
});

test('a line with a bend is crossed once at its bend', () => {
  const bent: Point[] = [
    [0.3, 0.5],
    [0.5, 0.6],
    [0.7, 0.5],
  ];
  expect(
    walk(
      [
        [0.5, 0.4],
        [0.5, 0.8],
      ],
      bent,
    ),
  ).toEqual([0, 1]);
});

test('distance is from the nearest part of the line, its ends included', () => {
  // Worked by hand: 3-4-5 beyond the right end; straight above the middle.
  expect([distanceToLine(gateway, [0.73, 0.54]), distanceToLine(gateway, [0.5, 0.4])]).toEqual([
    expect.closeTo(0.05, 9),
    expect.closeTo(0.1, 9),
  ]);
});
