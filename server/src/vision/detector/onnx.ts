// ONNX models as they are written: the few messages of onnx.proto3 that a converted graph needs (field numbers from the ONNX specification, IR
// version 8, operator set 17), encoded by protobufjs.

import protobuf from 'protobufjs/light.js';

const field = (id: number, type: string, rule?: 'repeated') => ({ id, type, ...(rule ? { rule } : {}) });
const message = (fields: protobuf.INamespace['nested'] | Record<string, ReturnType<typeof field>>) => ({ fields }) as protobuf.IType;

const messages = protobuf.Root.fromJSON({
  nested: {
    Attribute: message({
      name: field(1, 'string'),
      f: field(2, 'float'),
      i: field(3, 'int64'),
      s: field(4, 'bytes'),
      ints: field(8, 'int64', 'repeated'),
      type: field(20, 'int32'),
    }),
    Node: message({
      input: field(1, 'string', 'repeated'),
      output: field(2, 'string', 'repeated'),
      name: field(3, 'string'),
      opType: field(4, 'string'),
      attribute: field(5, 'Attribute', 'repeated'),
    }),
    Tensor: message({
      dims: field(1, 'int64', 'repeated'),
      dataType: field(2, 'int32'),
      name: field(8, 'string'),
      rawData: field(9, 'bytes'),
    }),
    Dimension: message({ dimValue: field(1, 'int64'), dimParam: field(2, 'string') }),
    Shape: message({ dim: field(1, 'Dimension', 'repeated') }),
    TensorType: message({ elemType: field(1, 'int32'), shape: field(2, 'Shape') }),
    Type: message({ tensorType: field(1, 'TensorType') }),
    Value: message({ name: field(1, 'string'), type: field(2, 'Type') }),
    Graph: message({
      node: field(1, 'Node', 'repeated'),
      name: field(2, 'string'),
      initializer: field(5, 'Tensor', 'repeated'),
      input: field(11, 'Value', 'repeated'),
      output: field(12, 'Value', 'repeated'),
    }),
    Operators: message({ domain: field(1, 'string'), version: field(2, 'int64') }),
    Model: message({
      irVersion: field(1, 'int64'),
      producerName: field(2, 'string'),
      graph: field(7, 'Graph'),
      opsetImport: field(8, 'Operators', 'repeated'),
    }),
  },
});

const types = { float: 1, uint8: 2, int64: 7 } as const;
export type ElementType = keyof typeof types;
export const typeNumber = (type: ElementType): number => types[type];

/** What an operator is given in addition to its inputs: a whole number, several, a word, or a number with a fraction. */
export type Attribute = number | string | readonly number[] | { readonly float: number };
const attributeOf = (name: string, value: Attribute) => {
  if (typeof value === 'number') return { name, i: value, type: 2 };
  if (typeof value === 'string') return { name, s: Buffer.from(value), type: 3 };
  if ('float' in value) return { name, f: value.float, type: 1 };
  return { name, ints: value, type: 7 };
};

export type OnnxWriter = {
  /** One operator with one or more outputs. @returns the name of the first */
  node(op: string, inputs: readonly string[], outputs: string | readonly string[], attributes?: Record<string, Attribute>): string;
  /** A constant. @returns its name */
  floats(name: string, dims: readonly number[], data: ArrayLike<number>): string;
  whole(name: string, dims: readonly number[], data: readonly number[]): string;
  /** @param dims numbers, or names of those that are free */
  input(name: string, type: ElementType, dims: readonly (number | string)[]): void;
  output(name: string, type: ElementType, dims: readonly (number | string)[]): void;
  /** The model as it is kept in a file. */
  bytes(): Uint8Array;
};

export function onnxWriter(name: string): OnnxWriter {
  const graph = { name, node: [] as object[], initializer: [] as object[], input: [] as object[], output: [] as object[] };
  const value = (of: string, type: ElementType, dims: readonly (number | string)[]) => ({
    name: of,
    type: {
      tensorType: { elemType: types[type], shape: { dim: dims.map((d) => (typeof d === 'number' ? { dimValue: d } : { dimParam: d })) } },
    },
  });
  const constant = (of: string, dims: readonly number[], type: ElementType, data: Float32Array | BigInt64Array) => {
    graph.initializer.push({
      name: of,
      dims,
      dataType: types[type],
      rawData: new Uint8Array(data.buffer, data.byteOffset, data.byteLength),
    });
    return of;
  };
  return {
    node(opType, input, outputs, attributes = {}) {
      const output = [outputs].flat();
      graph.node.push({ name: output[0], opType, input, output, attribute: Object.entries(attributes).map(([n, v]) => attributeOf(n, v)) });
      return output[0]!;
    },
    floats: (of, dims, data) => constant(of, dims, 'float', Float32Array.from(data)),
    whole: (of, dims, data) => constant(of, dims, 'int64', BigInt64Array.from(data.map(BigInt))),
    input: (...of) => void graph.input.push(value(...of)),
    output: (...of) => void graph.output.push(value(...of)),
    bytes: () =>
      messages
        .lookupType('Model')
        .encode({ irVersion: 8, producerName: 'nibber', graph, opsetImport: [{ domain: '', version: 17 }] })
        .finish(),
  };
}
