// Whether a path crosses a line that was drawn, and in which direction. Small movements about the line are no crossings: a thing must
// have been at least the margin away on one side, and be so again on the other.

import type { Point } from '../boxes';
import type { Polygon } from '../zones';

/** Belongs to a track; changed in place. */
export type Crossing = {
  last: Point | undefined;
  /** Whether it has been at least the margin away since the last crossing; nothing counts before. */
  isClear: boolean;
  /** Crossings since it was clear of the line: +1 forward, -1 back. */
  net: number;
};

export const startCrossing = (): Crossing => ({ last: undefined, isClear: false, net: 0 });

/** Above 0 when c lies to the right of a→b as seen on the picture. */
const turn = (a: Point, b: Point, c: Point): number => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);

/**
 * Takes the next place in.
 * @param line from its first point to its last; forward is from its left-hand side to its right-hand side
 * @returns 1 for a crossing forward that is certain now, -1 for one back, 0 for none
 */
export function noteCrossing(crossing: Crossing, line: Polygon, margin: number, at: Point): -1 | 0 | 1 {
  const { last } = crossing;
  crossing.last = at;
  if (last && crossing.isClear) crossing.net += cuts(line, last, at);
  if (distanceToLine(line, at) < margin - 1e-9) return 0;
  const { net } = crossing;
  crossing.net = 0;
  crossing.isClear = true;
  return net > 0 ? 1 : net < 0 ? -1 : 0;
}

/** How often the step p→q cuts the line, forward less back. A point on the line counts as on its right. */
function cuts(line: Polygon, p: Point, q: Point): number {
  let net = 0;
  for (let i = 0; i + 1 < line.length; i++) {
    const [a, b] = [line[i]!, line[i + 1]!];
    const [before, after] = [turn(a, b, p), turn(a, b, q)];
    if (before >= 0 === after >= 0) continue;
    // Where along a→b the step meets it, 0..1; the inner joints of the line belong to the part that begins there.
    const t = before / (before - after);
    const meets = [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t] as const;
    const along = (meets[0] - a[0]) * (b[0] - a[0]) + (meets[1] - a[1]) * (b[1] - a[1]);
    const length = (b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2;
    const isLast = i + 2 === line.length;
    if (along >= 0 && (isLast ? along <= length : along < length)) net += after >= 0 ? 1 : -1;
  }
  return net;
}

/** Distance of a point from the nearest part of a line, share of the picture. */
export function distanceToLine(line: Polygon, [x, y]: Point): number {
  let least = Infinity;
  for (let i = 0; i + 1 < line.length; i++) {
    const [a, b] = [line[i]!, line[i + 1]!];
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
    const length = dx * dx + dy * dy;
    const t = length ? Math.min(1, Math.max(0, ((x - a[0]) * dx + (y - a[1]) * dy) / length)) : 0;
    least = Math.min(least, Math.hypot(x - a[0] - dx * t, y - a[1] - dy * t));
  }
  return least;
}
