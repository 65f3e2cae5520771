// A reading over time, as points of a drawing.

import type { ReadingValue } from '../../state/api/types';
import { isOff, valueWords } from './words';

export type Point = { readonly x: number; readonly y: number; readonly taken: ReadingValue; readonly isOff: boolean };
export type Line = {
  readonly points: readonly Point[];
  /** Pieces of the line: it is broken where nothing was read for long, or a reading came to nothing. */
  readonly pieces: readonly (readonly Point[])[];
  /** Instants at which a reading came to nothing, as x. */
  readonly failed: readonly { readonly x: number; readonly taken: ReadingValue }[];
  /** Of the target, from top to bottom; null where there is none. */
  readonly band: { readonly top: number; readonly bottom: number } | null;
  /** What stands at the scale: y, and the words. */
  readonly marks: readonly { readonly y: number; readonly words: string }[];
};
type Frame = { readonly from: number; readonly to: number; readonly width: number; readonly height: number };
type Range = { readonly min?: number | undefined; readonly max?: number | undefined };

export const shown = (t: ReadingValue): ReadingValue['value'] => t.corrected ?? t.value;
/** A gap that is so many times as long as the usual one breaks the line. */
const longGap = 3.5;

export function lineOf(all: readonly ReadingValue[], { from, to, width, height }: Frame, own: Range, target: Range | undefined): Line {
  const read = all.filter((t) => shown(t) !== null);
  const isNumber = read.every((t) => typeof shown(t) === 'number');
  const names = isNumber ? [] : [...new Set(read.map((t) => valueWords(shown(t)!)))].sort();
  const level = (t: ReadingValue) => (isNumber ? (shown(t) as number) : names.indexOf(valueWords(shown(t)!)));
  const levels = [...read.map(level), ...(isNumber ? [own.min, own.max, target?.min, target?.max].filter((n) => n !== undefined) : [])];
  const [low, high] = levels.length ? [Math.min(...levels), Math.max(...levels)] : [0, 1];
  const room = high === low ? 1 : (high - low) * 0.08;
  const y = (n: number) => height - ((n - low + room) / (high - low + 2 * room)) * height;
  const x = (at: number) => ((at - from) / Math.max(1, to - from)) * width;
  const points = read.map((t): Point => ({ x: x(t.at), y: y(level(t)), taken: t, isOff: isOff({ target }, shown(t)!) }));
  const gaps = read
    .slice(1)
    .map((t, i) => t.at - read[i]!.at)
    .sort((a, b) => a - b);
  const usual = gaps[(gaps.length - 1) >> 1] ?? Infinity;
  const failed = all.filter((t) => shown(t) === null);
  const pieces: Point[][] = [];
  points.forEach((p, i) => {
    const before = points[i - 1];
    const isBroken =
      !before || p.taken.at - before.taken.at > usual * longGap || failed.some((f) => f.at > before.taken.at && f.at < p.taken.at);
    if (isBroken) pieces.push([p]);
    else pieces.at(-1)!.push(p);
  });
  const band =
    isNumber && target && read.length > 0
      ? { top: target.max === undefined ? 0 : y(target.max), bottom: target.min === undefined ? height : y(target.min) }
      : null;
  const marks = isNumber
    ? [...new Set([low, high])].map((n) => ({ y: y(n), words: String(n) }))
    : names.map((words, i) => ({ y: y(i), words }));
  return { points, pieces, failed: failed.map((taken) => ({ x: x(taken.at), taken })), band, marks: read.length ? marks : [] };
}

/** The one that is nearest to a place of the drawing. */
export const nearest = (line: Line, x: number): ReadingValue | undefined =>
  [...line.points.map((p) => ({ x: p.x, taken: p.taken })), ...line.failed].sort((a, b) => Math.abs(a.x - x) - Math.abs(b.x - x))[0]?.taken;
