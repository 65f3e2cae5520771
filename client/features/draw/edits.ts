// Edits of what is drawn; points stay on the picture.

import type { Point } from '@nibber/core/boxes';
import { minPoints, maxPoints, polygonProblem, polygonProblemWords } from '@nibber/core/zones';
import type { Drawing } from '../../state/drawing';
import { texts } from './words';

const onPicture = (v: number) => Math.round(Math.min(1, Math.max(0, v)) * 1000) / 1000;
export const placed = ([x, y]: Point): Point => [onPicture(x), onPicture(y)];

export const moved = (points: readonly Point[], index: number, dx: number, dy: number): Point[] =>
  points.map((p, i) => (i === index ? placed([p[0] + dx, p[1] + dy]) : p));

export const withPoint = (points: readonly Point[], at: number, point: Point): Point[] => [
  ...points.slice(0, at),
  placed(point),
  ...points.slice(at),
];

export const withoutPoint = (points: readonly Point[], index: number): Point[] => points.filter((_, i) => i !== index);

export const fewest = (kind: Drawing['kind']) => (kind === 'zone' ? minPoints : 2);
export const isFull = (points: readonly Point[]) => points.length >= maxPoints;

export const replaced = (drawings: readonly Drawing[], next: Drawing): Drawing[] => drawings.map((d) => (d.id === next.id ? next : d));

export type NewKind = 'watch' | 'ignore' | 'privacy' | 'line';
const names: Readonly<Record<NewKind, string>> = {
  watch: texts.zone,
  ignore: texts.ignoredArea,
  privacy: texts.privacyMask,
  line: texts.line,
};

/** A new drawing without a point yet, with a name and an id that no other has. */
export function newDrawing(kind: NewKind, others: readonly Drawing[]): Drawing {
  const taken = new Set(others.map((d) => d.id));
  for (let n = 1; ; n++) {
    const name = n === 1 ? names[kind] : `${names[kind]} ${n}`;
    const id = name.toLowerCase().replace(/ /g, '-');
    if (taken.has(id)) continue;
    return kind === 'line' ? { kind: 'line', id, name, points: [] } : { kind: 'zone', id, name, purpose: kind, points: [] };
  }
}

/** What keeps a drawing from being used, in words; undefined for a sound one. */
export function drawingProblemWords(d: Drawing): string | undefined {
  if (d.name.trim() === '') return texts.enterANameForEach;
  if (d.kind === 'line') return d.points.length < 2 ? texts.hasPointsAndNeedsAt(d.name, d.points.length) : undefined;
  const problem = polygonProblem(d.points);
  return problem && `${d.name} ${polygonProblemWords(problem)}.`;
}
