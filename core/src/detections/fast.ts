// Frames read straight from bytes, in the one form that we write them in ourselves: recordings are long, and most of reading one the
// general way is making objects that are thrown away. Whatever is written otherwise is left to `parseLine`, faults included.

import { classOf, typeNames, type Box, type ClassName, type Looks, type TypeName } from '../boxes';
import type { Instant } from '../time';
import type { Frame, SeenObject } from '../tracks';
import { parseLooks } from './looks';

const quote = 34;
const comma = 44;
const closing = 93;
const openingBrace = 123;
const closingBrace = 125;
const backslash = 92;

/** Where the reader stands. One reader reads one line after another; it keeps the words that it meets again and again. */
export type FrameReader = {
  bytes: Uint8Array;
  view: DataView;
  at: number;
  end: number;
  readonly words: Map<number, string>;
  readonly looks: Map<string, Looks>;
};

const nothing = new Uint8Array(0);

export const newFrameReader = (): FrameReader => ({
  bytes: nothing,
  view: new DataView(nothing.buffer),
  at: 0,
  end: 0,
  words: new Map(),
  looks: new Map(),
});

/** A text to pass over, in words of four bytes and what is left, since most of a line is the same again and again. */
type Fixed = { readonly length: number; readonly words: Int32Array; readonly rest: readonly number[] };

function fixed(text: string): Fixed {
  const bytes = Uint8Array.from(text, (c) => c.charCodeAt(0));
  const view = new DataView(bytes.buffer);
  const words = Int32Array.from({ length: bytes.length >> 2 }, (_, i) => view.getInt32(4 * i));
  return { length: bytes.length, words, rest: [...bytes.subarray(4 * words.length)] };
}
const beforeAt = fixed('{"at":"');
const beforeCamera = fixed('","camera":"');
const beforeObjects = fixed(',"objects":[');
const beforeClass = fixed('{"class":"');
const beforeType = fixed(',"type":"');
const beforeScore = fixed(',"score":');
const beforeBox = fixed(',"box":[');
const beforeTrack = fixed(',"track":"');
const beforeLooks = fixed(',"looks":');
const beforeLooked = fixed(',"looked":[');

const meanings = new Map<string, { readonly class: ClassName; readonly type: TypeName | undefined }>();
function meaningOf(name: string) {
  let known = meanings.get(name);
  const cls = known ? known.class : classOf(name);
  if (!known && cls) meanings.set(name, (known = { class: cls, type: name === cls ? undefined : (name as TypeName) }));
  return known;
}

/** @returns the frame of bytes `from` to `to` (without the line's end); undefined for any other form, which may be sound all the same */
export function readFrame(reader: FrameReader, bytes: Uint8Array, from: number, to: number): Frame | undefined {
  if (reader.bytes !== bytes) {
    reader.bytes = bytes;
    reader.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }
  reader.at = from;
  reader.end = to;
  if (!skip(reader, beforeAt)) return undefined;
  const at = readInstant(reader);
  if (at !== at || !skip(reader, beforeCamera)) return undefined;
  const camera = readWord(reader);
  if (!camera || !skip(reader, beforeObjects)) return undefined;
  const objects: SeenObject[] = [];
  if (bytes[reader.at] === closing) reader.at++;
  else
    for (;;) {
      const object = readObject(reader);
      if (!object || objects.length >= 1000) return undefined;
      objects.push(object);
      const next = bytes[reader.at++];
      if (next === closing) break;
      if (next !== comma) return undefined;
    }
  let looked: Box | undefined;
  if (skip(reader, beforeLooked) && !(looked = readBox(reader))) return undefined;
  if (bytes[reader.at++] !== closingBrace || reader.at !== to) return undefined;
  return looked ? { at, camera, objects, looked } : { at, camera, objects };
}

function readObject(reader: FrameReader): SeenObject | undefined {
  if (reader.bytes[reader.at] !== openingBrace || !skip(reader, beforeClass)) return undefined;
  const name = readWord(reader);
  const meaning = name ? meaningOf(name) : undefined;
  if (!meaning) return undefined;
  let { type } = meaning;
  if (skip(reader, beforeType)) {
    const word = readWord(reader) as TypeName | undefined;
    if (!word || !typeNames.includes(word) || classOf(word) !== meaning.class) return undefined;
    type = word;
  }
  if (!skip(reader, beforeScore)) return undefined;
  const score = readNumber(reader);
  if (!(score >= 0 && score <= 1) || !skip(reader, beforeBox)) return undefined;
  const box = readBox(reader);
  if (!box) return undefined;
  const object: { -readonly [K in keyof SeenObject]: SeenObject[K] } = { class: meaning.class, score, box };
  if (type !== undefined) object.type = type;
  if (skip(reader, beforeTrack)) {
    const track = readWord(reader);
    if (!track) return undefined;
    object.track = track;
  }
  if (skip(reader, beforeLooks)) {
    const looks = readLooks(reader);
    if (!looks) return undefined;
    object.looks = looks;
  }
  return reader.bytes[reader.at++] === closingBrace ? object : undefined;
}

/** A few looks come again and again; each is read the general way once. */
function readLooks(reader: FrameReader): Looks | undefined {
  const { bytes, at: start, end } = reader;
  let at = start;
  let depth = 0;
  for (let isInText = false; at < end; at++) {
    const byte = bytes[at]!;
    if (byte < 32 || byte > 126 || byte === backslash) return undefined;
    if (byte === quote) isInText = !isInText;
    else if (isInText) continue;
    else if (byte === openingBrace) depth++;
    else if (byte === closingBrace && --depth === 0) break;
  }
  if (at >= end) return undefined;
  const text = textOf(bytes, start, at + 1);
  let known = reader.looks.get(text);
  if (!known) {
    try {
      known = parseLooks(JSON.parse(text), 0, '');
    } catch {
      return undefined;
    }
    if (reader.looks.size >= maxWords) reader.looks.clear();
    reader.looks.set(text, known);
  }
  reader.at = at + 1;
  return known;
}

/** The four numbers and the closing bracket. */
function readBox(reader: FrameReader): Box | undefined {
  const { bytes } = reader;
  const x = readNumber(reader);
  if (bytes[reader.at++] !== comma) return undefined;
  const y = readNumber(reader);
  if (bytes[reader.at++] !== comma) return undefined;
  const width = readNumber(reader);
  if (bytes[reader.at++] !== comma) return undefined;
  const height = readNumber(reader);
  if (bytes[reader.at++] !== closing) return undefined;
  const isSound = width >= 0 && height >= 0 && width <= 2 && height <= 2 && x >= -2 && x <= 2 && y >= -2 && y <= 2;
  return isSound ? [x, y, width, height] : undefined;
}

/** Passes over these bytes if they stand here. */
function skip(reader: FrameReader, wanted: Fixed): boolean {
  const { at } = reader;
  if (at + wanted.length > reader.end) return false;
  const { view, bytes } = reader;
  const { words, rest } = wanted;
  for (let i = 0; i < words.length; i++) if (view.getInt32(at + 4 * i) !== words[i]) return false;
  const left = at + 4 * words.length;
  for (let i = 0; i < rest.length; i++) if (bytes[left + i] !== rest[i]) return false;
  reader.at = at + wanted.length;
  return true;
}

const maxWords = 4096;

/** Up to the closing quote, and past it; undefined where anything but plain ASCII stands in it. */
function readWord(reader: FrameReader): string | undefined {
  const { bytes, at: start, end, words } = reader;
  let at = start;
  let hash = 0;
  for (; at < end; at++) {
    const byte = bytes[at]!;
    if (byte === quote) break;
    if (byte < 32 || byte > 126 || byte === backslash) return undefined;
    hash = (Math.imul(hash, 31) + byte) | 0;
  }
  if (at >= end) return undefined;
  reader.at = at + 1;
  const known = words.get(hash);
  if (known !== undefined && isText(bytes, start, at, known)) return known;
  const text = textOf(bytes, start, at);
  if (words.size >= maxWords) words.clear();
  words.set(hash, text);
  return text;
}

function textOf(bytes: Uint8Array, from: number, to: number): string {
  let text = '';
  for (let i = from; i < to; i++) text += String.fromCharCode(bytes[i]!);
  return text;
}

function isText(bytes: Uint8Array, from: number, to: number, text: string): boolean {
  if (text.length !== to - from) return false;
  for (let i = 0; i < text.length; i++) if (text.charCodeAt(i) !== bytes[from + i]) return false;
  return true;
}

const powers = Array.from({ length: 23 }, (_, i) => 10 ** i);

/** A plain decimal number; NaN for one with an exponent, which the general way reads. */
function readNumber(reader: FrameReader): number {
  const { bytes } = reader;
  let at = reader.at;
  const isNegative = bytes[at] === 45;
  if (isNegative) at++;
  const first = at;
  let value = 0;
  let digits = 0;
  let places = -1;
  for (; ; at++) {
    const byte = bytes[at]!;
    if (byte >= 48 && byte <= 57) {
      value = value * 10 + (byte - 48);
      digits++;
      if (places >= 0) places++;
    } else if (byte === 46 && places < 0 && digits > 0) places = 0;
    else break;
  }
  const hasLeadingZero = bytes[first] === 48 && digits > 1 && bytes[first + 1] !== 46;
  // Below 2^53 the digits are exact, and so is their quotient by a power of ten that is itself exact.
  if (digits === 0 || digits > 30 || places === 0 || hasLeadingZero || at >= reader.end) return NaN;
  const byte = bytes[at];
  if (byte === 101 || byte === 69) return NaN;
  reader.at = at;
  if (digits > 15) value = Number(textOf(bytes, first, at));
  else if (places > 0) value /= powers[places]!;
  return isNegative ? -value : value;
}

const monthDays = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];

/** `2026-06-01T21:00:00.000Z`; NaN for any other form. */
function readInstant(reader: FrameReader): Instant {
  const { bytes, at } = reader;
  if (at + 24 > reader.end) return NaN;
  const isForm =
    bytes[at + 4] === 45 &&
    bytes[at + 7] === 45 &&
    bytes[at + 10] === 84 &&
    bytes[at + 13] === 58 &&
    bytes[at + 16] === 58 &&
    bytes[at + 19] === 46 &&
    bytes[at + 23] === 90;
  if (!isForm) return NaN;
  const year = two(bytes, at) * 100 + two(bytes, at + 2);
  const month = two(bytes, at + 5);
  const day = two(bytes, at + 8);
  const hour = two(bytes, at + 11);
  const minute = two(bytes, at + 14);
  const second = two(bytes, at + 17);
  const fraction = two(bytes, at + 20) * 10 + (two(bytes, at + 21) % 10);
  const isLeap = year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0);
  if (!(year >= 1970 && month >= 1 && month <= 12 && hour < 24 && minute < 60 && second < 60 && fraction >= 0)) return NaN;
  if (!(day >= 1 && day <= monthDays[month - 1]! + (month === 2 && isLeap ? 1 : 0))) return NaN;
  reader.at = at + 24;
  // Days since 1970-01-01, years counted from March so that the leap day comes last.
  const y = month > 2 ? year : year - 1;
  const yearDay = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1;
  const days = 365 * y + Math.floor(y / 4) - Math.floor(y / 100) + Math.floor(y / 400) + yearDay - 719_468;
  return days * 86_400_000 + hour * 3_600_000 + minute * 60_000 + second * 1000 + fraction;
}

/** The number that two digits make; NaN where one is no digit. */
function two(bytes: Uint8Array, at: number): number {
  const [a, b] = [bytes[at]! - 48, bytes[at + 1]! - 48];
  return a >= 0 && a <= 9 && b >= 0 && b <= 9 ? a * 10 + b : NaN;
}
