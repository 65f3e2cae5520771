// A TensorFlow.js graph of the convolutional kind as an ONNX model: channels first inside, of any size that is a multiple of 32. What comes after
// its maps (the peaks, the best of them, their boxes) is written again in operators that follow the shape of what comes in.

import { numbersOf, readGraph, textOf, textsOf, type Constant, type GraphNode } from './graph';
import type { Manifest } from './manifest';
import { onnxWriter, typeNumber } from './onnx';

/** Where in its graph the maps of a detector by centre points are (manifest.json, `graph.centres`). */
export type Centres = NonNullable<Manifest['graph']['centres']>;

/** Of the model that is written: pixels `[1, height, width, 3]` in, rows `[1, so many, 6]` out, as the graph itself has them. */
export const names = { input: 'images', output: 'detections' } as const;

const plain = (name: string) => name.replace(/^\^/, '').replace(/:\d+$/, '');
const isSixth = (n: number | undefined) => n !== undefined && Math.abs(n - 1 / 6) < 2e-4;

/** @throws Error that names the operator of the graph for which there is no form here */
export function convert(file: string, centres: Centres): Uint8Array {
  const { nodes, constants } = readGraph(file);
  const byName = new Map(nodes.map((n) => [n.name, n]));
  const onnx = onnxWriter('detector');
  const made = new Map<string, string>();
  /** What is made once, however often it is asked for. */
  const once = (name: string, make: (name: string) => string): string => {
    if (!made.has(name)) made.set(name, make(name));
    return made.get(name)!;
  };
  /**
   * By what a value is too small or too large. Graphs keep a sixth in 16 bits, where HardSwish has it exactly; what follows and is linear takes the
   * difference into its weights, so that scores stay what they were.
   */
  const owed = new Map<string, number>();
  const owe = (name: string, factor: number) => factor !== 1 && owed.set(name, factor);

  const constantOf = (name: string): Constant => {
    const constant = constants.get(plain(name));
    if (!constant) throw new Error(`${name} is not a constant`);
    return constant;
  };
  const scalar = (name: string | undefined): number | undefined => {
    const constant = name === undefined ? undefined : constants.get(plain(name));
    return constant?.data.length === 1 ? constant.data[0] : undefined;
  };
  /** A value as it was made, without what is owed. */
  const bare = (name: string): string =>
    once(name, () => {
      const node = byName.get(name);
      if (!node) throw new Error(`there is no ${name}`);
      return build(node);
    });
  /** A value as it is in the graph. */
  const whole = (name: string): string => {
    const own = bare(plain(name));
    const factor = owed.get(own);
    return factor === undefined
      ? own
      : once(`${own}/whole`, (paid) => onnx.node('Mul', [own, onnx.floats(`${paid}/by`, [], [factor])], paid));
  };
  const operand = (name: string): string => {
    const constant = constants.get(plain(name));
    if (!constant) return whole(name);
    return once(name, () => onnx.floats(name, channelsFirst(constant), constant.data));
  };
  const between0And6 = (from: string, name: string) =>
    onnx.node('Clip', [from, once('zero', (n) => onnx.floats(n, [], [0])), once('six', (n) => onnx.floats(n, [], [6]))], name);

  /** The x of relu6(x + 3), which a sixth makes a hard sigmoid of. */
  const gateOf = (name: string): string | undefined => {
    const [clipped] = [byName.get(plain(name))].filter((n) => n?.op === 'Relu6');
    const sum = clipped && byName.get(plain(clipped.input![0]!));
    if (!sum || !/^Add/.test(sum.op)) return undefined;
    const [a, b] = sum.input as [string, string];
    const [x, three] = scalar(b) !== undefined ? [a, scalar(b)!] : [b, scalar(a) ?? NaN];
    return Math.abs(three - 3) < 1e-6 ? plain(x) : undefined;
  };

  function product(node: GraphNode, a: string, b: string): string {
    for (const [by, gate] of [
      [a, b],
      [b, a],
    ] as const) {
      const x = gateOf(gate);
      if (x === undefined) continue;
      const own = scalar(by);
      if (isSixth(own)) {
        owe(node.name, 6 * own!);
        return onnx.node('HardSigmoid', [whole(x)], node.name, { alpha: { float: 1 / 6 }, beta: { float: 0.5 } });
      }
      const inner = byName.get(plain(by));
      const sixth = inner?.op === 'Mul' ? inner.input!.map(scalar).find(isSixth) : undefined;
      if (sixth === undefined || !inner!.input!.some((i) => plain(i) === x)) continue;
      owe(node.name, 6 * sixth);
      return onnx.node('HardSwish', [whole(x)], node.name);
    }
    if (constants.has(plain(a)) || constants.has(plain(b))) return onnx.node('Mul', [operand(a), operand(b)], node.name);
    const [p, q] = [bare(plain(a)), bare(plain(b))];
    owe(node.name, (owed.get(p) ?? 1) * (owed.get(q) ?? 1));
    return onnx.node('Mul', [p, q], node.name);
  }

  function convolution(node: GraphNode, isDepthwise: boolean): string {
    const from = bare(plain(node.input![0]!));
    const { shape, data } = constantOf(node.input![1]!);
    const [high, wide, into, out] = shape as readonly [number, number, number, number];
    const factor = owed.get(from) ?? 1;
    const weights = new Float32Array(data.length);
    let at = 0;
    for (let y = 0; y < high; y++)
      for (let x = 0; x < wide; x++)
        for (let i = 0; i < into; i++)
          for (let o = 0; o < out; o++) weights[((isDepthwise ? i * out + o : o * into + i) * high + y) * wide + x] = data[at++]! * factor;
    const [, stepY, stepX] = numbersOf(node.attr?.strides) as [number, number, number];
    const [, spreadY = 1, spreadX = 1] = numbersOf(node.attr?.dilations);
    // TensorFlow's SAME puts the odd row and column after; what is halved here is even, as every side is a multiple of 32.
    const isSame = textOf(node.attr?.padding) === 'SAME';
    const padding = (size: number, step: number, spread: number) => (isSame ? Math.max((size - 1) * spread + 1 - step, 0) : 0);
    const [padY, padX] = [padding(high, stepY, spreadY), padding(wide, stepX, spreadX)];
    const fused = textsOf(node.attr?.fused_ops);
    const [after, ...more] = fused.filter((f) => f !== 'BiasAdd');
    if (more.length > 0 || (after !== undefined && after !== 'Relu' && after !== 'Relu6'))
      throw new Error(`${fused.join(', ')} of ${node.name}`);
    const inputs = [
      from,
      onnx.floats(`${node.name}/weights`, isDepthwise ? [into * out, 1, high, wide] : [out, into, high, wide], weights),
    ];
    if (fused.includes('BiasAdd')) {
      const bias = constantOf(node.input![2]!).data;
      inputs.push(onnx.floats(`${node.name}/bias`, [bias.length], bias));
    }
    const sum = onnx.node('Conv', inputs, after === undefined ? node.name : `${node.name}/sum`, {
      kernel_shape: [high, wide],
      strides: [stepY, stepX],
      dilations: [spreadY, spreadX],
      group: isDepthwise ? into : 1,
      pads: [padY >> 1, padX >> 1, padY - (padY >> 1), padX - (padX >> 1)],
    });
    if (after === undefined) return sum;
    return after === 'Relu' ? onnx.node('Relu', [sum], node.name) : between0And6(sum, node.name);
  }

  function build(node: GraphNode): string {
    const { name, op, attr } = node;
    const [a = '', b = ''] = node.input ?? [];
    switch (op) {
      case 'Placeholder':
        onnx.node('Cast', [names.input], 'numbers', { to: typeNumber('float') });
        return onnx.node('Transpose', ['numbers'], 'channels-first', { perm: [0, 3, 1, 2] });
      case 'Conv2D':
      case '_FusedConv2D':
        return convolution(node, false);
      case 'DepthwiseConv2dNative':
      case 'FusedDepthwiseConv2dNative':
        return convolution(node, true);
      case 'Mul':
        return product(node, a, b);
      case 'Add':
      case 'AddV2':
        return onnx.node('Add', [operand(a), operand(b)], name);
      case 'Relu':
      case 'Sigmoid':
        return onnx.node(op, [whole(a)], name);
      case 'Relu6':
        return between0And6(whole(a), name);
      case 'Identity':
        return bare(plain(a));
      case 'Mean': {
        if ([...constantOf(b).data].join() !== '1,2' || !attr?.keep_dims?.b) throw new Error(`the mean ${name}`);
        const from = bare(plain(a));
        owe(name, owed.get(from) ?? 1);
        return onnx.node('GlobalAveragePool', [from], name);
      }
      case 'ResizeBilinear':
        if (attr?.align_corners?.b || attr?.half_pixel_centers?.b) throw new Error(`the corners of ${name}`);
        return onnx.node('Resize', [whole(a), '', once('twice', (n) => onnx.floats(n, [4], [1, 1, 2, 2]))], name, {
          mode: 'linear',
          coordinate_transformation_mode: 'asymmetric',
        });
      case 'ConcatV2': {
        const axis = scalar(node.input!.at(-1));
        if (axis !== 3 && axis !== -1) throw new Error(`the axis of ${name}`);
        return onnx.node('Concat', node.input!.slice(0, -1).map(whole), name, { axis: 1 });
      }
      default:
        throw new Error(`${op} of ${name}`);
    }
  }

  const [heat, sides] = [whole(centres.heat), whole(centres.sides)];
  const step = scalar(centres.step);
  const max = scalar(centres.max);
  if (step === undefined || max === undefined) throw new Error(`${centres.step} and ${centres.max} are not one number each`);
  // A peak is the highest among its neighbours; where it stands in the flat map says its row, column and class.
  onnx.node('MaxPool', [heat], 'highest', { kernel_shape: [3, 3], strides: [1, 1], pads: [1, 1, 1, 1] });
  onnx.node('Equal', [heat, 'highest'], 'is-peak');
  onnx.node('Cast', ['is-peak'], 'one-at-peaks', { to: typeNumber('float') });
  onnx.node('Mul', [heat, 'one-at-peaks'], 'peaks');
  onnx.node('Transpose', ['peaks'], 'peaks/last', { perm: [0, 2, 3, 1] });
  onnx.node('Reshape', ['peaks/last', onnx.whole('flat', [2], [0, -1])], 'peaks/flat');
  onnx.node('TopK', ['peaks/flat', onnx.whole('most', [1], [max])], ['score', 'at'], { axis: 1, largest: 1, sorted: 1 });
  onnx.node('Shape', [heat], 'classes', { start: 1, end: 2 });
  onnx.node('Shape', [heat], 'columns', { start: 3, end: 4 });
  onnx.node('Mod', ['at', 'classes'], 'class');
  onnx.node('Div', ['at', 'classes'], 'cell');
  onnx.node('Mod', ['cell', 'columns'], 'column');
  onnx.node('Div', ['cell', 'columns'], 'row');
  const last = onnx.whole('last', [1], [-1]);
  onnx.node('Transpose', [sides], 'sides/last', { perm: [0, 2, 3, 1] });
  onnx.node('Reshape', ['sides/last', onnx.whole('flat-sides', [3], [0, -1, 4])], 'sides/flat');
  onnx.node('Unsqueeze', ['cell', last], 'cell/each');
  onnx.node('GatherND', ['sides/flat', 'cell/each'], 'reach', { batch_dims: 1 });
  for (const n of ['column', 'row', 'class']) {
    onnx.node('Unsqueeze', [n, last], `${n}/each`);
    onnx.node('Cast', [`${n}/each`], `${n}/number`, { to: typeNumber('float') });
  }
  onnx.node('Unsqueeze', ['score', last], 'score/each');
  onnx.node('Concat', ['column/number', 'row/number', 'column/number', 'row/number'], 'centre/cells', { axis: 2 });
  onnx.node('Mul', ['centre/cells', onnx.floats('step', [], [step])], 'centre');
  onnx.node('Mul', ['reach', onnx.floats('outwards', [4], [-1, -1, 1, 1])], 'reach/outwards');
  onnx.node('Add', ['centre', 'reach/outwards'], 'box');
  onnx.node('Concat', ['box', 'score/each', 'class/number'], names.output, { axis: 2 });
  onnx.input(names.input, 'uint8', [1, 'height', 'width', 3]);
  onnx.output(names.output, 'float', [1, max, 6]);
  return onnx.bytes();
}

/** How a constant that is added or multiplied lies over channels that come first. @throws Error where it lies otherwise */
function channelsFirst({ shape, data }: Constant): readonly number[] {
  if (data.length === 1) return [];
  const channels = shape.at(-1)!;
  if (shape.length === 1 || (shape.length === 4 && shape.slice(0, 3).every((n) => n === 1))) return [1, channels, 1, 1];
  throw new Error(`a constant of ${shape.join(' × ')}`);
}
