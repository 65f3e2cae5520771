// Recorded detections: NDJSON in time order, one frame, change of mode, report of a sensor or coming and going of a person a line.
// What the detector writes, replay reads.

import { classOf, classes, typeNames, type Box, type ClassName, type TypeName } from '../boxes';
import { isoInstant, parseInstant, type Instant } from '../time';
import type { Frame, SeenObject } from '../tracks';
import { isRecord } from '../problem';
import { fail, word } from './faults';
import { parseLooks } from './looks';

export type ModeChange = { readonly at: Instant; readonly area: string; readonly mode: string };
export type SensorReport = { readonly at: Instant; readonly sensor: string; readonly state: string };
export type PresenceChange = { readonly at: Instant; readonly person: string; readonly home: boolean };
export type Line =
  | { readonly kind: 'frame'; readonly frame: Frame }
  | { readonly kind: 'mode'; readonly change: ModeChange }
  | { readonly kind: 'sensor'; readonly report: SensorReport }
  | { readonly kind: 'presence'; readonly change: PresenceChange };

/** The instant that a line is about. */
export function instantOf(line: Line): Instant {
  switch (line.kind) {
    case 'frame':
      return line.frame.at;
    case 'sensor':
      return line.report.at;
    case 'mode':
    case 'presence':
      return line.change.at;
  }
}

const maxObjects = 1000;

/**
 * Reads one line.
 * @param number of the line, from 1, for the message
 * @throws Problem 'bad-line' naming the line, the place in it, and what is allowed
 */
export function parseLine(text: string, number: number): Line {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    fail(number, '', 'is not JSON', 'one JSON object per line');
  }
  if (!isRecord(value))
    fail(
      number,
      '',
      'is not an object',
      'a frame {at, camera, objects}, a mode {at, area, mode}, a sensor {at, sensor, state} or a person {at, person, home}',
    );
  const at = typeof value.at === 'string' ? parseInstant(value.at) : undefined;
  if (at === undefined) fail(number, 'at', 'is not an instant', 'ISO 8601 with an offset, such as 2026-06-01T21:00:00.000Z');
  if ('mode' in value)
    return { kind: 'mode', change: { at, area: word(value.area, number, 'area'), mode: word(value.mode, number, 'mode') } };
  if ('sensor' in value)
    return { kind: 'sensor', report: { at, sensor: word(value.sensor, number, 'sensor'), state: word(value.state, number, 'state') } };
  if ('person' in value) {
    const { home } = value;
    if (typeof home !== 'boolean') fail(number, 'home', `is ${JSON.stringify(home)}`, 'true or false');
    return { kind: 'presence', change: { at, person: word(value.person, number, 'person'), home } };
  }
  const camera = word(value.camera, number, 'camera');
  if (!Array.isArray(value.objects)) fail(number, 'objects', 'is not a list', 'a list of {class, score, box}');
  if (value.objects.length > maxObjects) fail(number, 'objects', `has ${value.objects.length} entries`, `at most ${maxObjects}`);
  const objects = value.objects.map((o: unknown, i) => parseObject(o, number, i));
  const looked = value.looked === undefined ? undefined : parseBox(value.looked, number, 'looked');
  return { kind: 'frame', frame: looked ? { at, camera, objects, looked } : { at, camera, objects } };
}

function parseObject(value: unknown, line: number, i: number): SeenObject {
  if (!isRecord(value)) fail(line, `objects/${i}`, 'is not an object', '{class, score, box, track?}');
  const name = value.class;
  const cls = typeof name === 'string' ? classOf(name) : undefined;
  if (cls === undefined) fail(line, `objects/${i}/class`, `is ${JSON.stringify(name)}`, [...classes, ...typeNames].join(', '));
  const score = value.score;
  if (typeof score !== 'number' || !(score >= 0 && score <= 1))
    fail(line, `objects/${i}/score`, `is ${JSON.stringify(score)}`, 'a number from 0 to 1');
  const box = parseBox(value.box, line, `objects/${i}/box`);
  const type = typeOf(value.type, name as string, cls, line, i);
  const track = value.track;
  if (track !== undefined && typeof track !== 'string' && typeof track !== 'number')
    fail(line, `objects/${i}/track`, `is ${JSON.stringify(track)}`, 'a word or a number');
  const object: { -readonly [K in keyof SeenObject]: SeenObject[K] } = { class: cls, score, box };
  if (type !== undefined) object.type = type;
  if (track !== undefined) object.track = String(track);
  if (value.looks !== undefined) object.looks = parseLooks(value.looks, line, `objects/${i}/looks`);
  return object;
}

function typeOf(value: unknown, name: string, cls: ClassName, line: number, i: number): TypeName | undefined {
  if (value === undefined) return name === cls ? undefined : (name as TypeName);
  if (typeof value !== 'string' || classOf(value) !== cls || value === cls)
    fail(line, `objects/${i}/type`, `is ${JSON.stringify(value)}`, `a type of ${cls}`);
  return value as TypeName;
}

function parseBox(value: unknown, line: number, path: string): Box {
  const ok = Array.isArray(value) && value.length === 4 && value.every((v) => typeof v === 'number' && Number.isFinite(v));
  if (!ok || value[2] < 0 || value[3] < 0 || Math.abs(value[0]) > 2 || Math.abs(value[1]) > 2 || value[2] > 2 || value[3] > 2)
    fail(line, path, `is ${JSON.stringify(value)?.slice(0, 80)}`, '[x, y, width, height], each 0 to 1 of the picture');
  return value as unknown as Box;
}

const places = (v: number) => Math.round(v * 1e5) / 1e5;
const roundBox = (b: Box): Box => [places(b[0]), places(b[1]), places(b[2]), places(b[3])];

/** A frame as one line, without the line's end. */
export function frameLine(frame: Frame): string {
  const objects = frame.objects.map((o) => ({
    class: o.class,
    ...(o.type ? { type: o.type } : {}),
    score: places(o.score),
    box: roundBox(o.box),
    ...(o.track === undefined ? {} : { track: o.track }),
    ...(o.looks ? { looks: o.looks } : {}),
  }));
  return JSON.stringify({
    at: isoInstant(frame.at),
    camera: frame.camera,
    objects,
    ...(frame.looked ? { looked: roundBox(frame.looked) } : {}),
  });
}
