// What is being drawn on a camera's picture.

import type { Point } from '@nibber/core/boxes';
import type { Line, Zone } from '@nibber/core/site';
import { draftsOf } from './draft';

export type ZoneDrawing = { readonly kind: 'zone'; readonly points: readonly Point[] } & Omit<Zone, 'polygon'>;
export type LineDrawing = { readonly kind: 'line'; readonly points: readonly Point[] } & Omit<Line, 'points'>;
export type Drawing = ZoneDrawing | LineDrawing;

/** Drafts by camera. */
export const drawing = draftsOf<readonly Drawing[]>('drawing', [], Array.isArray);

export const drawingsOf = (zones: readonly Zone[], lines: readonly Line[]): Drawing[] => [
  ...zones.map(({ polygon, ...zone }): Drawing => ({ kind: 'zone', ...zone, points: polygon as unknown as Point[] })),
  ...lines.map(({ points, ...line }): Drawing => ({ kind: 'line', ...line, points: points as unknown as Point[] })),
];

/** As the server takes them. */
export function asSaved(drawings: readonly Drawing[]): { zones: Zone[]; lines: Line[] } {
  const plain = (points: readonly Point[]) => points.map((p) => [...p]) as never;
  return {
    zones: drawings.flatMap((d) => {
      if (d.kind !== 'zone') return [];
      const { kind: _kind, points, ...zone } = d;
      return [{ ...zone, polygon: plain(points) }];
    }),
    lines: drawings.flatMap((d) => {
      if (d.kind !== 'line') return [];
      const { kind: _kind, points, ...line } = d;
      return [{ ...line, points: plain(points) }];
    }),
  };
}
