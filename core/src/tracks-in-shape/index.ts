// What a zone or a line would have caught of the tracks that were really there: asked while it is drawn.

import type { ClassName, Point } from '../boxes';
import { noteCrossing, startCrossing } from '../sieve/crossing';
import { contains } from '../zones';

/** A track as the way its feet went, 0..1 of the picture. */
export type Path = { readonly class: ClassName; readonly feet: readonly Point[] };
export type Shape = { readonly kind: 'zone' | 'line'; readonly points: readonly Point[] };
/** For a zone, the tracks that came into it; for a line, those that crossed it, by direction. */
export type TracksInShape = { readonly tracks: number; readonly forward: number; readonly back: number };

/** The least distance from a line at which a track is on one side of it; the same as a rule's. */
const margin = 0.01;

export function tracksInShape({ kind, points }: Shape, paths: readonly Path[]): TracksInShape {
  let [tracks, forward, back] = [0, 0, 0];
  const own = boundsOf(points);
  for (const path of paths) {
    const { feet } = path;
    if (!meet(own, knownBounds(path))) continue;
    if (kind === 'zone') {
      if (feet.some((p) => contains(points, p))) tracks++;
      continue;
    }
    const crossing = startCrossing();
    let [hasForward, hasBack] = [false, false];
    for (const p of feet) {
      const way = noteCrossing(crossing, points, margin, p);
      hasForward ||= way === 1;
      hasBack ||= way === -1;
    }
    forward += Number(hasForward);
    back += Number(hasBack);
    tracks += Number(hasForward || hasBack);
  }
  return { tracks, forward, back };
}

type Bounds = readonly [left: number, top: number, right: number, bottom: number];

function boundsOf(points: readonly Point[]): Bounds {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [x, y] of points) {
    left = Math.min(left, x);
    top = Math.min(top, y);
    right = Math.max(right, x);
    bottom = Math.max(bottom, y);
  }
  return [left, top, right, bottom];
}

const meet = (a: Bounds, b: Bounds): boolean => a[0] <= b[2] && b[0] <= a[2] && a[1] <= b[3] && b[1] <= a[3];

/** The same tracks are asked again at every move of a finger. */
const bounds = new WeakMap<Path, Bounds>();
function knownBounds(path: Path): Bounds {
  let known = bounds.get(path);
  if (!known) bounds.set(path, (known = boundsOf(path.feet)));
  return known;
}
