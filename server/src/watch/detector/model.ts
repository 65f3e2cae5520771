// The bare model: pixels in, rows out. One to a thread.

import { readFileSync } from 'node:fs';
import path from 'node:path';
import * as tf from '@tensorflow/tfjs-core';
import type { io } from '@tensorflow/tfjs-core';
import { loadGraphModel } from '@tensorflow/tfjs-converter';
import { setWasmPaths } from '@tensorflow/tfjs-backend-wasm';
import { Trouble } from '@nibber/core/trouble';
import type { Manifest, ModelFolder } from './manifest';

/** A row in shares of the input square. */
export type Row = {
  readonly x1: number;
  readonly y1: number;
  readonly x2: number;
  readonly y2: number;
  readonly score: number;
  readonly classId: number;
};

export type Model = {
  readonly size: number;
  /** @param rgb size × size pixels, three bytes each */
  run(rgb: Uint8Array): Promise<Row[]>;
};

/** Loads a model into this thread. @throws Trouble when its graph cannot be read or does not give what the manifest says */
export async function loadModel({ manifest, graphFile, folder }: ModelFolder): Promise<Model> {
  setWasmPaths(path.join(path.dirname(require.resolve('@tensorflow/tfjs-backend-wasm/package.json')), 'dist', path.sep));
  await tf.setBackend('wasm');
  const graph = JSON.parse(readFileSync(graphFile, 'utf8'));
  const weightSpecs = graph.weightsManifest.flatMap((group: { weights: unknown[] }) => group.weights) as (WeightSpec &
    io.WeightsManifestEntry)[];
  const files: string[] = graph.weightsManifest.flatMap((group: { paths: string[] }) => group.paths);
  const weights = Buffer.concat(files.map((f) => readFileSync(path.join(path.dirname(graphFile), f))));
  resizeConstants(weights, weightSpecs, manifest);
  resizeInput(graph, manifest);
  const weightData = weights.buffer.slice(weights.byteOffset, weights.byteOffset + weights.byteLength) as ArrayBuffer;
  const model = await loadGraphModel({
    load: async () => ({
      modelTopology: graph.modelTopology,
      format: graph.format,
      signature: graph.signature,
      userDefinedMetadata: graph.userDefinedMetadata,
      weightSpecs,
      weightData,
    }),
  });
  const { size, range, node } = manifest.input;
  const swapped = manifest.output.form.startsWith('y1');
  const unit = manifest.output.unit === 'share' ? 1 : size;
  return {
    size,
    async run(rgb) {
      const input = tf.tidy(() => {
        const pixels = tf.tensor4d(new Float32Array(rgb), [1, size, size, 3]);
        return range === 1 ? tf.div(pixels, 255) : pixels;
      });
      const output = model.execute({ [node]: input }, manifest.output.node) as tf.Tensor;
      const values = await output.data();
      const columns = output.shape.at(-1);
      tf.dispose([input, output]);
      if (columns !== 6)
        throw new Trouble(
          'bad-input',
          `The model in ${folder} gives rows of ${columns} values.`,
          `Its manifest says "${manifest.output.form}".`,
        );
      return Array.from({ length: values.length / 6 }, (_, i): Row => {
        const [a, b, c, d, score, classId] = values.subarray(i * 6, i * 6 + 6) as unknown as [
          number,
          number,
          number,
          number,
          number,
          number,
        ];
        const [x1, y1, x2, y2] = swapped ? [b, a, d, c] : [a, b, c, d];
        return { x1: x1 / unit, y1: y1 / unit, x2: x2 / unit, y2: y2 / unit, score, classId };
      });
    },
  };
}

type WeightSpec = {
  readonly name: string;
  readonly shape: readonly number[];
  readonly dtype: string;
  readonly quantization?: { readonly dtype: string };
};

/** Makes a graph that was drawn for one input size fit another: a smaller square costs less by its area. */
function resizeConstants(weights: Buffer, specs: readonly WeightSpec[], { graph: { drawnFor, sizes }, input }: Manifest): void {
  if (drawnFor === undefined || sizes === undefined || drawnFor === input.size) return;
  const ratio = input.size / drawnFor;
  let offset = 0;
  const left = new Set<string>([...sizes.linear, ...sizes.square]);
  for (const { name, shape, dtype, quantization } of specs) {
    const count = shape.reduce((a, b) => a * b, 1);
    const bytes = (quantization ? quantization.dtype : dtype) === 'uint8' ? 1 : quantization?.dtype.endsWith('16') ? 2 : 4;
    if (left.delete(name)) {
      if (dtype !== 'int32' || quantization)
        throw new Trouble('bad-input', `The constant ${name} of the model is no whole number.`, 'Correct graph/sizes in its manifest.');
      const isSquare = sizes.square.includes(name);
      for (let i = 0; i < (isSquare ? 1 : count); i++)
        weights.writeInt32LE(Math.round(weights.readInt32LE(offset + 4 * i) * (isSquare ? ratio * ratio : ratio)), offset + 4 * i);
    }
    offset += count * bytes;
  }
  if (left.size)
    throw new Trouble('bad-input', `The model has no constant ${[...left].join(', ')}.`, 'Correct graph/sizes in its manifest.');
}

type Dims = { readonly dim: { size: string }[] };
type Graph = {
  readonly modelTopology: { readonly node: { readonly name: string; readonly attr?: { readonly shape?: { readonly shape: Dims } } }[] };
  readonly signature?: { readonly inputs?: Record<string, { readonly tensorShape?: Dims }> };
};

/** Tells the graph of its new input: rows and columns are the second and third of its dimensions. */
function resizeInput(graph: Graph, { input }: Manifest): void {
  const placeholder = graph.modelTopology.node.find((n) => n.name === input.node)?.attr?.shape?.shape;
  const signed = Object.values(graph.signature?.inputs ?? {}).map((i) => i.tensorShape);
  for (const shape of [placeholder, ...signed]) for (const i of [1, 2]) if (shape?.dim[i]) shape.dim[i]!.size = String(input.size);
}
