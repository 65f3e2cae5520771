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
  if (squareToLine(line, at) < Math.max(0, margin - 1e-9) ** 2) return 0;
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
    // It meets a→b where that begins and ends on either side of the step; an inner joint of the line belongs to the part that begins there.
    const [begin, end] = [turn(p, q, a), turn(p, q, b)];
    const isLast = i + 2 === line.length;
    if (begin * end < 0 || begin === 0 || (end === 0 && isLast)) net += after >= 0 ? 1 : -1;
  }
  return net;
}

/** Distance of a point from the nearest part of a line, share of the picture. */
export const distanceToLine = (line: Polygon, point: Point): number => Math.sqrt(squareToLine(line, point));

function squareToLine(line: Polygon, point: Point): number {
  const x = point[0];
  const y = point[1];
  let min = Infinity;
  for (let i = 0; i + 1 < line.length; i++) {
    const a = line[i]!;
    const b = line[i + 1]!;
    const dx = b[0] - a[0];
    const dy = b[1] - a[1];
    const length = dx * dx + dy * dy;
    const t = length ? Math.min(1, Math.max(0, ((x - a[0]) * dx + (y - a[1]) * dy) / length)) : 0;
    const [offX, offY] = [x - a[0] - dx * t, y - a[1] - dy * t];
    min = Math.min(min, offX * offX + offY * offY);
  }
  return min;
}
