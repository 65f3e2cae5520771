// The model on TensorFlow.js in WebAssembly, which runs wherever Node does.

import { readFileSync } from 'node:fs';
import path from 'node:path';
import * as tf from '@tensorflow/tfjs-core';
import type { io } from '@tensorflow/tfjs-core';
import { loadGraphModel } from '@tensorflow/tfjs-converter';
import { setWasmPaths } from '@tensorflow/tfjs-backend-wasm';
import { Problem } from '@nibber/core/problem';
import { inputSizes, type Manifest, type ModelFolder } from './manifest';
import type { InputSize } from '../../base/picture';
import { rowsOf, type Model } from './rows';

/** Loads a model into this thread. @throws Problem when its graph cannot be read or does not give what the manifest says */
export async function loadWasm(folder: ModelFolder): Promise<Model> {
  setWasmPaths(path.join(path.dirname(require.resolve('@tensorflow/tfjs-backend-wasm/package.json')), 'dist', path.sep));
  await tf.setBackend('wasm');
  const graphs = new Map<string, ReturnType<typeof loadGraph>>();
  const graphFor = (size: InputSize) => {
    const key = `${size.width} ${size.height}`;
    if (!graphs.has(key)) graphs.set(key, loadGraph(folder, size));
    return graphs.get(key)!;
  };
  const { manifest } = folder;
  await graphFor(inputSizes(manifest).usual[0]!);
  const { range, node } = manifest.input;
  return {
    async run(rgb, { width, height }) {
      const model = await graphFor({ width, height });
      const input = tf.tidy(() => {
        const pixels = tf.tensor4d(new Float32Array(rgb), [1, height, width, 3]);
        return range === 1 ? tf.div(pixels, 255) : pixels;
      });
      const output = model.execute({ [node]: input }, manifest.output.node) as tf.Tensor;
      const values = (await output.data()) as Float32Array;
      const columns = output.shape.at(-1);
      tf.dispose([input, output]);
      if (columns !== 6)
        throw new Problem(
          'bad-input',
          `The model in ${folder.folder} gives rows of ${columns} values.`,
          `Its manifest says "${manifest.output.form}".`,
        );
      return rowsOf(values, manifest, { width, height });
    },
  };
}

async function loadGraph({ manifest, graphFile }: ModelFolder, size: InputSize) {
  const graph = JSON.parse(readFileSync(graphFile, 'utf8'));
  const weightSpecs = graph.weightsManifest.flatMap((group: { weights: unknown[] }) => group.weights) as (WeightSpec &
    io.WeightsManifestEntry)[];
  const files: string[] = graph.weightsManifest.flatMap((group: { paths: string[] }) => group.paths);
  const weights = Buffer.concat(files.map((f) => readFileSync(path.join(path.dirname(graphFile), f))));
  resizeConstants(weights, weightSpecs, manifest, size);
  resizeInput(graph, manifest, size);
  const weightData = weights.buffer.slice(weights.byteOffset, weights.byteOffset + weights.byteLength) as ArrayBuffer;
  return loadGraphModel({
    load: async () => ({
      modelTopology: graph.modelTopology,
      format: graph.format,
      signature: graph.signature,
      userDefinedMetadata: graph.userDefinedMetadata,
      weightSpecs,
      weightData,
    }),
  });
}

type WeightSpec = {
  readonly name: string;
  readonly shape: readonly number[];
  readonly dtype: string;
  readonly quantization?: { readonly dtype: string };
};

/** Makes a graph that was drawn for one square fit another size: what is smaller costs less by its area. */
function resizeConstants(weights: Buffer, specs: readonly WeightSpec[], { graph: { drawnFor, sizes } }: Manifest, size: InputSize): void {
  if (drawnFor === undefined || sizes === undefined || (drawnFor === size.width && drawnFor === size.height)) return;
  const [wide, high] = [size.width / drawnFor, size.height / drawnFor];
  /** By what each of its numbers grows, as far as they do. */
  const ratios = new Map<string, readonly number[]>([
    ...sizes.sides.map((n) => [n, [high, wide]] as const),
    ...sizes.width.map((n) => [n, [wide]] as const),
    ...sizes.area.map((n) => [n, [wide * high]] as const),
  ]);
  let offset = 0;
  for (const { name, shape, dtype, quantization } of specs) {
    const count = shape.reduce((a, b) => a * b, 1);
    const bytes = (quantization ? quantization.dtype : dtype) === 'uint8' ? 1 : quantization?.dtype.endsWith('16') ? 2 : 4;
    const own = ratios.get(name);
    if (own) {
      ratios.delete(name);
      if (dtype !== 'int32' || quantization)
        throw new Problem('bad-input', `The constant ${name} of the model is not a whole number.`, 'Correct graph/sizes in its manifest.');
      own.slice(0, count).forEach((ratio, i) => {
        const at = offset + 4 * i;
        weights.writeInt32LE(Math.round(weights.readInt32LE(at) * ratio), at);
      });
    }
    offset += count * bytes;
  }
  if (ratios.size)
    throw new Problem('bad-input', `The model has no constant ${[...ratios.keys()].join(', ')}.`, 'Correct graph/sizes in its manifest.');
}

type Dims = { readonly dim: { size: string }[] };
type Graph = {
  readonly modelTopology: { readonly node: { readonly name: string; readonly attr?: { readonly shape?: { readonly shape: Dims } } }[] };
  readonly signature?: { readonly inputs?: Record<string, { readonly tensorShape?: Dims }> };
};

/** Tells the graph of its new input: rows and columns are the second and third of its dimensions. */
function resizeInput(graph: Graph, { input }: Manifest, { width, height }: InputSize): void {
  const placeholder = graph.modelTopology.node.find((n) => n.name === input.node)?.attr?.shape?.shape;
  const signed = Object.values(graph.signature?.inputs ?? {}).map((i) => i.tensorShape);
  for (const shape of [placeholder, ...signed]) {
    if (shape?.dim[1]) shape.dim[1].size = String(height);
    if (shape?.dim[2]) shape.dim[2].size = String(width);
  }
}
