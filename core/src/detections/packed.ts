// Lines as numbers and a few words, so that one thread can read what another works on: copying frames object by object between
// threads would cost as much as reading them.

import type { Box, ClassName, Looks, TypeName } from '../boxes';
import type { SeenObject } from '../tracks';
import type { Line } from './lines';

/** Lines with their numbers, in order. `numbers` can be handed over; the rest is small. */
export type Packed = {
  readonly numbers: Float64Array;
  /** How many of the numbers are used. */
  readonly used: number;
  /** What the numbers point to: ids, classes and types; looks; lines that are not frames. */
  readonly words: readonly string[];
  readonly looks: readonly Looks[];
  readonly others: readonly Line[];
};

/** Where lines are packed. It grows with what is put in. */
export type Packer = {
  numbers: Float64Array;
  used: number;
  readonly words: Map<string, number>;
  readonly looks: Map<Looks, number>;
  readonly others: Line[];
};

const none = -1;
// number, camera (or none), at (or which other line), objects, whether looked, and the four of looked.
const headNumbers = 9;
// class, type, score, the four of the box, track, looks.
const objectNumbers = 9;

/** @param numbers of an earlier packing, to be used again */
export const newPacker = (numbers: Float64Array = new Float64Array(1024)): Packer => ({
  numbers,
  used: 0,
  words: new Map(),
  looks: new Map(),
  others: [],
});

export const packed = (p: Packer): Packed => ({
  numbers: p.numbers,
  used: p.used,
  words: [...p.words.keys()],
  looks: [...p.looks.keys()],
  others: p.others,
});

export function pack(packer: Packer, line: Line, number: number): void {
  const objects = line.kind === 'frame' ? line.frame.objects : [];
  const needed = packer.used + headNumbers + objects.length * objectNumbers;
  if (needed > packer.numbers.length) {
    const larger = new Float64Array(Math.max(needed, 2 * packer.numbers.length));
    larger.set(packer.numbers.subarray(0, packer.used));
    packer.numbers = larger;
  }
  const { numbers } = packer;
  let at = packer.used;
  numbers[at++] = number;
  if (line.kind !== 'frame') {
    numbers[at++] = none;
    numbers[at++] = packer.others.push(line) - 1;
  } else {
    const { camera, looked } = line.frame;
    numbers[at++] = placeOf(packer.words, camera);
    numbers[at++] = line.frame.at;
    numbers[at++] = objects.length;
    numbers[at++] = looked ? 1 : 0;
    if (looked) at = putBox(numbers, at, looked);
    for (const object of objects) {
      numbers[at++] = placeOf(packer.words, object.class);
      numbers[at++] = object.type === undefined ? none : placeOf(packer.words, object.type);
      numbers[at++] = object.score;
      at = putBox(numbers, at, object.box);
      numbers[at++] = object.track === undefined ? none : placeOf(packer.words, object.track);
      numbers[at++] = object.looks === undefined ? none : placeOf(packer.looks, object.looks);
    }
  }
  packer.used = at;
}

/** Every line that was packed, in order, with its number. */
export function unpack(from: Packed, take: (line: Line, number: number) => void): void {
  const { numbers, used, words, looks, others } = from;
  let at = 0;
  while (at < used) {
    const number = numbers[at++]!;
    const camera = numbers[at++]!;
    if (camera === none) {
      take(others[numbers[at++]!]!, number);
      continue;
    }
    const instant = numbers[at++]!;
    const length = numbers[at++]!;
    let looked: Box | undefined;
    if (numbers[at++]) {
      looked = boxAt(numbers, at);
      at += 4;
    }
    const objects: SeenObject[] = [];
    for (let i = 0; i < length; i++, at += objectNumbers) objects.push(objectAt(numbers, at, words, looks));
    const frame = { at: instant, camera: words[camera]!, objects };
    take({ kind: 'frame', frame: looked ? { ...frame, looked } : frame }, number);
  }
}

function objectAt(numbers: Float64Array, at: number, words: readonly string[], looks: readonly Looks[]): SeenObject {
  const object: { -readonly [K in keyof SeenObject]: SeenObject[K] } = {
    class: words[numbers[at]!] as ClassName,
    score: numbers[at + 2]!,
    box: boxAt(numbers, at + 3),
  };
  const [type, track, look] = [numbers[at + 1]!, numbers[at + 7]!, numbers[at + 8]!];
  if (type !== none) object.type = words[type] as TypeName;
  if (track !== none) object.track = words[track]!;
  if (look !== none) object.looks = looks[look]!;
  return object;
}

function placeOf<T>(known: Map<T, number>, value: T): number {
  let place = known.get(value);
  if (place === undefined) known.set(value, (place = known.size));
  return place;
}

function putBox(numbers: Float64Array, at: number, box: Box): number {
  for (let i = 0; i < 4; i++) numbers[at + i] = box[i]!;
  return at + 4;
}

const boxAt = (numbers: Float64Array, at: number): Box => [numbers[at]!, numbers[at + 1]!, numbers[at + 2]!, numbers[at + 3]!];
