// Edits of a polygon; points stay on the picture.

import type { Point } from '@nibber/core/boxes';

const onPicture = (v: number) => Math.round(Math.min(1, Math.max(0, v)) * 1000) / 1000;

export const moved = (polygon: readonly Point[], index: number, dx: number, dy: number): Point[] =>
  polygon.map((p, i) => (i === index ? [onPicture(p[0] + dx), onPicture(p[1] + dy)] : p));

export const withPoint = (polygon: readonly Point[], at: number, point: Point): Point[] => [
  ...polygon.slice(0, at),
  point,
  ...polygon.slice(at),
];

export const withoutPoint = (polygon: readonly Point[], index: number): Point[] => polygon.filter((_, i) => i !== index);
