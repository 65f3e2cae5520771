// A TensorFlow.js graph as it lies in its files: what is done with what, and the constants.

import { readFileSync } from 'node:fs';
import path from 'node:path';

type List = { readonly s?: readonly string[]; readonly i?: readonly (string | number)[] };
type AttributeValue = { readonly s?: string; readonly b?: boolean; readonly list?: List };
export type GraphNode = {
  readonly name: string;
  readonly op: string;
  readonly input?: readonly string[];
  readonly attr?: Record<string, AttributeValue>;
};
export type Constant = { readonly shape: readonly number[]; readonly data: Float32Array | Int32Array };
export type Graph = { readonly nodes: readonly GraphNode[]; readonly constants: ReadonlyMap<string, Constant> };

type WeightSpec = {
  readonly name: string;
  readonly shape: readonly number[];
  readonly dtype: string;
  readonly quantization?: { readonly dtype: string; readonly scale?: number; readonly min?: number };
};
type GraphFile = {
  readonly modelTopology: { readonly node: readonly GraphNode[] };
  readonly weightsManifest: readonly { readonly weights: readonly WeightSpec[]; readonly paths: readonly string[] }[];
};

/** Reads a graph with its weights, which lie beside it. @throws Error when they do not fit together */
export function readGraph(file: string): Graph {
  const { modelTopology, weightsManifest } = JSON.parse(readFileSync(file, 'utf8')) as GraphFile;
  const raw = Buffer.concat(weightsManifest.flatMap((group) => group.paths).map((p) => readFileSync(path.join(path.dirname(file), p))));
  const constants = new Map<string, Constant>();
  let at = 0;
  for (const { name, shape, dtype, quantization } of weightsManifest.flatMap((group) => group.weights)) {
    const kind = quantization?.dtype ?? dtype;
    const form = forms[kind];
    if (!form) throw new Error(`${name} is kept as ${kind}`);
    const count = shape.reduce((a, b) => a * b, 1);
    if (at + count * form.bytes > raw.length) throw new Error('its weights are cut off');
    const { scale = 1, min = 0 } = kind === 'float16' ? {} : (quantization ?? {});
    const data = dtype === 'int32' ? new Int32Array(count) : new Float32Array(count);
    for (let i = 0; i < count; i++) data[i] = form.read(raw, at + i * form.bytes) * scale + min;
    constants.set(name, { shape, data });
    at += count * form.bytes;
  }
  return { nodes: modelTopology.node, constants };
}

/** Half precision (IEEE 754, binary16). */
function half(bits: number): number {
  const [sign, exponent, fraction] = [bits >> 15 ? -1 : 1, (bits >> 10) & 31, bits & 1023];
  if (exponent === 0) return sign * 2 ** -14 * (fraction / 1024);
  if (exponent === 31) return fraction ? NaN : sign * Infinity;
  return sign * 2 ** (exponent - 15) * (1 + fraction / 1024);
}
const halves = Float32Array.from({ length: 65_536 }, (_, bits) => half(bits));

const forms: { readonly [kind: string]: { readonly bytes: number; read(from: Buffer, at: number): number } | undefined } = {
  bool: { bytes: 1, read: (from, at) => from.readUInt8(at) },
  uint8: { bytes: 1, read: (from, at) => from.readUInt8(at) },
  uint16: { bytes: 2, read: (from, at) => from.readUInt16LE(at) },
  float16: { bytes: 2, read: (from, at) => halves[from.readUInt16LE(at)]! },
  int32: { bytes: 4, read: (from, at) => from.readInt32LE(at) },
  float32: { bytes: 4, read: (from, at) => from.readFloatLE(at) },
};

export const textOf = (value: AttributeValue | undefined): string => Buffer.from(value?.s ?? '', 'base64').toString();
export const textsOf = (value: AttributeValue | undefined): string[] =>
  (value?.list?.s ?? []).map((s) => Buffer.from(s, 'base64').toString());
export const numbersOf = (value: AttributeValue | undefined): number[] => (value?.list?.i ?? []).map(Number);
