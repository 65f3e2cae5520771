// The model on ONNX Runtime: a fifth of the processor time that WebAssembly takes. Its native library may crash the process that it runs in, and is
// not there on every kind of machine.

import type { InferenceSession, Tensor } from 'onnxruntime-node';
import { convert, names } from './convert';
import type { ModelFolder } from './manifest';
import { rowsOf, type Model } from './rows';

/** @throws Error that says why it cannot be used here: no library for this machine, or a graph that has no form in ONNX */
export async function loadNative({ manifest, graphFile }: ModelFolder): Promise<Model> {
  if (!manifest.graph.centres) throw new Error('its manifest says no graph/centres');
  if (manifest.input.range !== 255) throw new Error('it takes numbers up to 1');
  // Where npm has left it out there is none.
  // eslint-disable-next-line @typescript-eslint/no-require-imports -- it throws here, and not where this file is read
  const runtime = require('onnxruntime-node') as { InferenceSession: typeof InferenceSession; Tensor: typeof Tensor };
  const session = await runtime.InferenceSession.create(convert(graphFile, manifest.graph.centres), {
    graphOptimizationLevel: 'all',
    intraOpNumThreads: 1,
    interOpNumThreads: 1,
    // Threads that wait without sleeping burn as much again on a busy machine.
    extra: { session: { intra_op: { allow_spinning: '0' }, inter_op: { allow_spinning: '0' } } },
  });
  return {
    async run(rgb, { width, height }) {
      const { [names.output]: rows } = await session.run({ [names.input]: new runtime.Tensor('uint8', rgb, [1, height, width, 3]) });
      return rowsOf(rows!.data as Float32Array, manifest, { width, height });
    },
  };
}
