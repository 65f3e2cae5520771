// The bare model: pixels in, rows out. One to a thread or process.

import type { Manifest, ModelFolder } from './manifest';
import type { InputSize } from '../../base/picture';

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

/** What a model runs on, and why it is not the faster of the two. */
export type Engine = { readonly name: 'ONNX Runtime' | 'TensorFlow.js in WebAssembly'; readonly why: string | undefined };
export const engines = ['native', 'wasm'] as const;
export type EngineChoice = (typeof engines)[number];

/**
 * Loads a model: natively where that can be done, else in WebAssembly.
 * @param choice the one, and no other
 * @throws Problem when its graph cannot be read or does not give what the manifest says; Error where the one that was chosen cannot be had
 */
export async function loadModel(folder: ModelFolder, choice?: EngineChoice): Promise<{ readonly model: Model; readonly engine: Engine }> {
  let why: string | undefined;
  if (choice !== 'wasm')
    try {
      // eslint-disable-next-line @typescript-eslint/no-require-imports -- only where it is wanted, and in a worker, where import() finds no TypeScript
      const { loadNative } = require('./native') as typeof import('./native');
      return { model: await loadNative(folder), engine: { name: 'ONNX Runtime', why: undefined } };
    } catch (thrown) {
      if (choice === 'native') throw thrown;
      why = (thrown as Error).message.split('\n')[0]!;
    }
  // Only where it is needed: it takes as long to load as all the rest.
  // eslint-disable-next-line @typescript-eslint/no-require-imports -- as above
  const { loadWasm } = require('./wasm') as typeof import('./wasm');
  return { model: await loadWasm(folder), engine: { name: 'TensorFlow.js in WebAssembly', why } };
}

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
