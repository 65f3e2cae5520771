// The bare model: pixels in, rows out.

import type { InputSize } from '../../base/picture';
import type { Manifest } from './manifest';

/** A row in shares of the input. */
export type Row = {
  readonly x1: number;
  readonly y1: number;
  readonly x2: number;
  readonly y2: number;
  readonly score: number;
  readonly classId: number;
};

export type Model = {
  /** Runs it at an input size; the first time at each takes longer. @param rgb so many pixels, three bytes each */
  run(rgb: Uint8Array, size: InputSize): Promise<Row[]>;
};

/** Rows of six values as the manifest says they are. */
export function rowsOf(values: Float32Array, { output: { form, unit } }: Manifest, { width, height }: InputSize): Row[] {
  const [unitX, unitY] = unit === 'share' ? [1, 1] : [width, height];
  const swapped = form.startsWith('y1');
  return Array.from({ length: values.length / 6 }, (_, i): Row => {
    const [a, b, c, d, score, classId] = values.subarray(i * 6, i * 6 + 6) as unknown as [number, number, number, number, number, number];
    const [x1, y1, x2, y2] = swapped ? [b, a, d, c] : [a, b, c, d];
    return { x1: x1 / unitX, y1: y1 / unitY, x2: x2 / unitX, y2: y2 / unitY, score, classId };
  });
}
