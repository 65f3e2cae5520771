// Polygons drawn on a picture: whether they are sound, what lies in them.

import { area, type Anchor, type Box, type Point } from '../boxes';

export type Polygon = readonly Point[];

/** How much of a thing must be where for it to count as in a zone: a point of its box, or a share of it. */
export type AnchorRule = Anchor | { readonly overlap: number };

export type PolygonProblem =
  | { readonly kind: 'points'; readonly count: number }
  | { readonly kind: 'outside'; readonly point: number }
  | { readonly kind: 'crossing'; readonly edges: readonly [number, number] }
  | { readonly kind: 'flat' };

export const minPoints = 3;
export const maxPoints = 32;

/** What is wrong with a polygon, first fault first; undefined for a sound one. Edge i goes from point i to point i + 1. */
export function polygonProblem(polygon: Polygon): PolygonProblem | undefined {
  const n = polygon.length;
  if (n < minPoints || n > maxPoints) return { kind: 'points', count: n };
  const outside = polygon.findIndex(([x, y]) => !(x >= 0 && x <= 1 && y >= 0 && y <= 1));
  if (outside >= 0) return { kind: 'outside', point: outside };
  for (let i = 0; i < n; i++)
    for (let j = i + 1; j < n; j++) {
      const neighbours = j === i + 1 || (i === 0 && j === n - 1);
      if (neighbours ? foldsBack(polygon, i, j) : touches(edge(polygon, i), edge(polygon, j))) return { kind: 'crossing', edges: [i, j] };
    }
  return polygonArea(polygon) < 1e-6 ? { kind: 'flat' } : undefined;
}

/** A fault in words, points and edges counted from 1. */
export function polygonProblemWords(problem: PolygonProblem): string {
  switch (problem.kind) {
    case 'points':
      return `has ${problem.count} points`;
    case 'outside':
      return `point ${problem.point + 1} lies outside the picture`;
    case 'crossing':
      return `edge ${problem.edges[0] + 1} meets edge ${problem.edges[1] + 1}`;
    case 'flat':
      return 'has no area';
  }
}

type Segment = readonly [Point, Point];

const edge = (polygon: Polygon, i: number): Segment => [polygon[i]!, polygon[(i + 1) % polygon.length]!];

/** Twice the signed area of a, b, c: above 0 when c lies to the right of a→b as seen on the picture. */
const turn = (a: Point, b: Point, c: Point): number => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);

const within = (s: Segment, p: Point): boolean =>
  p[0] >= Math.min(s[0][0], s[1][0]) &&
  p[0] <= Math.max(s[0][0], s[1][0]) &&
  p[1] >= Math.min(s[0][1], s[1][1]) &&
  p[1] <= Math.max(s[0][1], s[1][1]);

/** Whether two segments share a point, ends included. */
export function touches(a: Segment, b: Segment): boolean {
  const [b0, b1, a0, a1] = [turn(a[0], a[1], b[0]), turn(a[0], a[1], b[1]), turn(b[0], b[1], a[0]), turn(b[0], b[1], a[1])];
  if (b0 * b1 < 0 && a0 * a1 < 0) return true;
  return (b0 === 0 && within(a, b[0])) || (b1 === 0 && within(a, b[1])) || (a0 === 0 && within(b, a[0])) || (a1 === 0 && within(b, a[1]));
}

/** Neighbouring edges share a point; they are at fault when one lies back along the other. */
function foldsBack(polygon: Polygon, i: number, j: number): boolean {
  const [first, second] = j === i + 1 ? [i, j] : [j, i];
  const [a, b] = edge(polygon, first);
  const c = edge(polygon, second)[1];
  const dot = (a[0] - b[0]) * (c[0] - b[0]) + (a[1] - b[1]) * (c[1] - b[1]);
  return turn(a, b, c) === 0 && dot >= 0;
}

/** Share of the picture, 0..1. */
export function polygonArea(polygon: Polygon): number {
  let twice = 0;
  for (let i = 0; i < polygon.length; i++) {
    const [a, b] = edge(polygon, i);
    twice += a[0] * b[1] - b[0] * a[1];
  }
  return Math.abs(twice) / 2;
}

/** Whether a point lies in a polygon; the border belongs to it. */
export const contains = (polygon: Polygon, point: Point): boolean => holdsPoint(polygon, point[0], point[1]);

function holdsPoint(polygon: Polygon, x: number, y: number): boolean {
  let inside = false;
  for (let i = 0, j = polygon.length - 1; i < polygon.length; j = i++) {
    const xi = polygon[i]![0];
    const yi = polygon[i]![1];
    const xj = polygon[j]![0];
    const yj = polygon[j]![1];
    // An edge wholly above or below the point says nothing about it.
    if ((yi > y && yj > y) || (yi < y && yj < y)) continue;
    const cross = (xj - xi) * (y - yi) - (yj - yi) * (x - xi);
    if (cross === 0 && x >= Math.min(xi, xj) && x <= Math.max(xi, xj) && y >= Math.min(yi, yj) && y <= Math.max(yi, yj)) return true;
    if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) inside = !inside;
  }
  return inside;
}

/** The share of a box that lies in a polygon, 0..1. The polygon is cut by each side of the box in turn. */
export function shareInside(box: Box, polygon: Polygon): number {
  if (area(box) <= 0) return 0;
  let cut: Polygon = polygon;
  cut = cutAt(cut, 0, box[0], 1);
  cut = cutAt(cut, 0, box[0] + box[2], -1);
  cut = cutAt(cut, 1, box[1], 1);
  cut = cutAt(cut, 1, box[1] + box[3], -1);
  return Math.min(1, polygonArea(cut) / area(box));
}

/** What of a polygon lies on one side of an upright or level line. */
function cutAt(polygon: Polygon, axis: 0 | 1, at: number, side: 1 | -1): Polygon {
  const kept: Point[] = [];
  for (let i = 0; i < polygon.length; i++) {
    const [a, b] = edge(polygon, i);
    const [da, db] = [(a[axis] - at) * side, (b[axis] - at) * side];
    if (da >= 0) kept.push(a);
    if (da * db < 0) {
      const t = da / (da - db);
      kept.push([a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t]);
    }
  }
  return kept;
}

/** Whether a thing counts as in a zone. */
export function isIn(polygon: Polygon, box: Box, anchor: AnchorRule): boolean {
  if (typeof anchor === 'object') return shareInside(box, polygon) >= anchor.overlap;
  // As `anchorPoint` has it, without making a point: this is asked of every box and zone.
  return holdsPoint(polygon, box[0] + box[2] / 2, box[1] + (anchor === 'feet' ? box[3] : box[3] / 2));
}
