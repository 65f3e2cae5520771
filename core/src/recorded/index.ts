// What the sieve was given, as it is recorded: frames packed into bytes, and what else happened between them. Live, the sieve is given what a
// frame is after packing, so that whoever reads the recording gives it the very same.

import { classes, typeNames, type Box, type ClassName, type Looks, type TypeName } from '../boxes';
import type { Input } from '../sieve';
import type { Instant } from '../time';
import type { Frame, SeenObject } from '../tracks';
import { byteReader, byteWriter, checkSum, type ByteReader, type ByteWriter } from './bytes';

/** What happened, in the order of `order`, which runs over all cameras. */
export type Recorded = { readonly order: number } & (
  | { readonly kind: 'input'; readonly input: Input }
  /** The sieve starts again, knowing this. */
  | { readonly kind: 'start'; readonly at: Instant; readonly modes: readonly Pair<string>[]; readonly lasts: readonly Pair<Instant>[] }
  /** It is given when each rule last fired. */
  | { readonly kind: 'resting'; readonly at: Instant; readonly lasts: readonly Pair<Instant>[] }
  /** From here on it goes by this version of the site. */
  | { readonly kind: 'site'; readonly at: Instant; readonly version: number }
);
type Pair<T> = readonly [key: string, value: T];

/** Scores and shares are kept to this part of one: what stands in a file with four places comes back as it was. */
const parts = 20_000;
/** A box may begin as far outside the picture. */
const outside = 1;
const maxPlaced = 65_535;
const movesParts = 254;
const unknown = 255;

const grid = (v: number) => Math.round(v * parts) / parts;
const placed = (v: number) => Math.min(maxPlaced, Math.max(0, Math.round((v + outside) * parts)));
const unplaced = (n: number) => (n - outside * parts) / parts;
const boxOf = (b: Box): Box => [unplaced(placed(b[0])), unplaced(placed(b[1])), unplaced(placed(b[2])), unplaced(placed(b[3]))];
const movesOf = (m: number) => Math.round(m * movesParts) / movesParts;

/** A frame as it is after packing. */
export function asRecorded({ at, camera, objects, looked, begins }: Frame): Frame {
  return {
    at: Math.round(at),
    camera,
    objects: objects.map(({ class: cls, type, score, box, looks, track, moves }): SeenObject => {
      const object: { -readonly [K in keyof SeenObject]: SeenObject[K] } = { class: cls, score: grid(score), box: boxOf(box) };
      if (type !== undefined) object.type = type;
      if (looks !== undefined) object.looks = looks;
      if (track !== undefined) object.track = track;
      if (moves !== undefined) object.moves = movesOf(moves);
      return object;
    }),
    ...(looked ? { looked: boxOf(looked) } : {}),
    ...(begins === undefined ? {} : { begins: grid(begins) }),
  };
}

/** Of the names of classes and types each has a number; new ones are added at the end, since files outlive versions. */
const names: readonly string[] = [...classes, ...typeNames];

const mark = 'nib1';
const hasLooked = 1;
const hasBegins = 2;
const hasTrack = 1;
const hasLooks = 2;
const hasType = 4;

/** What the bytes so far have said, so that the next need not: the file's words, the last order, instant and least score to begin. */
type Said = { readonly words: string[]; readonly numbers: Map<string, number>; order: number; at: Instant; begins: number };
const nothingSaid = (): Said => ({ words: [], numbers: new Map(), order: 0, at: 0, begins: 0 });

export type Packing = {
  /** The head of a file; written first. */
  readonly head: Uint8Array;
  /** One frame, with its length before and a check after it, so that one that was cut off is known. Frames come as `asRecorded` made them. */
  pack(order: number, frame: Frame): Uint8Array;
};

export function startPacking(camera: string): Packing {
  const said = nothingSaid();
  const head = byteWriter();
  head.text(mark);
  head.text(camera);
  return {
    head: head.bytes(),
    pack(order, frame) {
      const body = byteWriter();
      writeFrame(body, said, order, frame);
      const bytes = body.bytes();
      const whole = byteWriter();
      whole.count(bytes.length);
      whole.all(bytes);
      whole.two(checkSum(bytes));
      return whole.bytes();
    },
  };
}

/**
 * Reads what `startPacking` wrote, up to the first frame that is not whole.
 * @returns nothing where the head is not one of ours
 */
export function unpackFrames(bytes: Uint8Array): { readonly order: number; readonly frame: Frame }[] {
  const found: { order: number; frame: Frame }[] = [];
  const reader = byteReader(bytes);
  try {
    if (reader.text() !== mark) return found;
    const camera = reader.text();
    const said = nothingSaid();
    while (reader.left() > 0) {
      const body = reader.some(reader.count());
      if (reader.two() !== checkSum(body)) break;
      found.push(readFrame(byteReader(body), said, camera));
    }
  } catch (thrown) {
    if (!(thrown instanceof RangeError)) throw thrown;
  }
  return found;
}

function writeFrame(to: ByteWriter, said: Said, order: number, { at, objects, looked, begins = 0 }: Frame): void {
  to.signed(order - said.order);
  to.signed(at - said.at);
  const beginsAt = Math.round(begins * parts);
  to.one((looked ? hasLooked : 0) | (beginsAt === said.begins ? 0 : hasBegins));
  if (beginsAt !== said.begins) to.two(beginsAt);
  if (looked) writeBox(to, looked);
  to.count(objects.length);
  for (const { class: cls, type, score, box, looks, track, moves } of objects) {
    to.one(names.indexOf(cls));
    to.one((track === undefined ? 0 : hasTrack) | (looks === undefined ? 0 : hasLooks) | (type === undefined ? 0 : hasType));
    if (type !== undefined) to.one(names.indexOf(type));
    to.two(Math.round(score * parts));
    writeBox(to, box);
    to.one(moves === undefined ? unknown : Math.round(moves * movesParts));
    if (track !== undefined) writeWord(to, said, track);
    if (looks !== undefined) writeWord(to, said, JSON.stringify(looks));
  }
  said.order = order;
  said.at = at;
  said.begins = beginsAt;
}

function readFrame(from: ByteReader, said: Said, camera: string): { order: number; frame: Frame } {
  const order = said.order + from.signed();
  const at = said.at + from.signed();
  const flags = from.one();
  if (flags & hasBegins) said.begins = from.two();
  const looked = flags & hasLooked ? readBox(from) : undefined;
  const objects = Array.from({ length: from.count() }, () => readObject(from, said));
  said.order = order;
  said.at = at;
  const begins = said.begins === 0 ? {} : { begins: said.begins / parts };
  return { order, frame: { at, camera, objects, ...(looked ? { looked } : {}), ...begins } };
}

function readObject(from: ByteReader, said: Said): SeenObject {
  const cls = names[from.one()] as ClassName;
  const flags = from.one();
  const type = flags & hasType ? (names[from.one()] as TypeName) : undefined;
  const object: { -readonly [K in keyof SeenObject]: SeenObject[K] } = { class: cls, score: from.two() / parts, box: readBox(from) };
  if (type !== undefined) object.type = type;
  const moves = from.one();
  if (moves !== unknown) object.moves = moves / movesParts;
  if (flags & hasTrack) object.track = readWord(from, said);
  if (flags & hasLooks) object.looks = JSON.parse(readWord(from, said)) as Looks;
  return object;
}

function writeBox(to: ByteWriter, box: Box): void {
  for (const v of box) to.two(placed(v));
}
const readBox = (from: ByteReader): Box => [unplaced(from.two()), unplaced(from.two()), unplaced(from.two()), unplaced(from.two())];

/** A word is written once; then its number is. */
function writeWord(to: ByteWriter, said: Said, word: string): void {
  const known = said.numbers.get(word);
  to.count(known ?? said.numbers.size);
  if (known !== undefined) return;
  to.text(word);
  said.numbers.set(word, said.numbers.size);
}

function readWord(from: ByteReader, said: Said): string {
  const number = from.count();
  if (number === said.words.length) said.words.push(from.text());
  return said.words[number]!;
}
