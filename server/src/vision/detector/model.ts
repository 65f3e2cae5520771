// Loads the model on the engine that runs it here. One to a thread or process.

import type { ModelFolder } from './manifest';
import type { Model } from './rows';

export type { Model, Row } from './rows';

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
