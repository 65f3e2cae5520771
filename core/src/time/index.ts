// Instants and wall time. An instant is a number: milliseconds since 1970 (UTC).

import { IANAZone } from 'luxon';

export type Instant = number;

const strict = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2}(\.\d{1,9})?)?(Z|[+-]\d{2}:\d{2})$/;

/** An ISO 8601 instant with its offset; undefined for anything else. */
export function parseInstant(text: string): Instant | undefined {
  const own = parseOwn(text);
  if (own !== undefined) return own;
  const at = text.length >= 17 && strict.test(text) ? Date.parse(text) : NaN;
  return Number.isNaN(at) ? undefined : at;
}

let knownDay = { text: '', at: 0 };

/** The form that recordings are written in, 2026-06-01T21:00:00.000Z, read by its digits: recordings are long, and days repeat. */
function parseOwn(text: string): Instant | undefined {
  if (text.length !== 24 || text[10] !== 'T' || text[13] !== ':' || text[16] !== ':' || text[19] !== '.' || text[23] !== 'Z')
    return undefined;
  const dayText = text.slice(0, 10);
  if (dayText !== knownDay.text) {
    const at = /^\d{4}-\d{2}-\d{2}$/.test(dayText) ? Date.parse(dayText) : NaN;
    if (Number.isNaN(at)) return undefined;
    knownDay = { text: dayText, at };
  }
  const [hour, minute, second, fraction] = [digits(text, 11, 2), digits(text, 14, 2), digits(text, 17, 2), digits(text, 20, 3)];
  return hour < 24 && minute < 60 && second < 60 && fraction >= 0
    ? knownDay.at + hour * 3_600_000 + minute * 60_000 + second * 1000 + fraction
    : undefined;
}

/** The number that so many digits make; NaN where one is no digit. */
function digits(text: string, from: number, count: number): number {
  let value = 0;
  for (let i = from; i < from + count; i++) {
    const digit = text.charCodeAt(i) - 48;
    if (digit < 0 || digit > 9) return NaN;
    value = value * 10 + digit;
  }
  return value;
}

export const isoInstant = (at: Instant): string => new Date(at).toISOString();

/** What the clock on the wall shows: `day` counts days since 1970-01-01 there, `minute` since midnight, Monday is 0. */
export type Wall = { readonly day: number; readonly minute: number; readonly weekday: number };

export const dayMs = 86_400_000;

export const isZone = (name: string): boolean => IANAZone.isValidZone(name);

const quarterMs = 15 * 60_000;
const knownOffsets = new Map<string, { quarter: number; offsetMs: number }>();

/** A zone's distance from UTC, ms. Zones change at full quarters of an hour, and asking the zone data is slow: the last answer is kept. */
function offsetMs(zone: string, at: Instant): number {
  const quarter = Math.floor(at / quarterMs);
  let known = knownOffsets.get(zone);
  if (!known) knownOffsets.set(zone, (known = { quarter: NaN, offsetMs: 0 }));
  if (known.quarter !== quarter) {
    known.quarter = quarter;
    known.offsetMs = IANAZone.create(zone).offset(quarter * quarterMs) * 60_000;
  }
  return known.offsetMs;
}

export function wallTime(zone: string, at: Instant): Wall {
  const local = at + offsetMs(zone, at);
  const day = Math.floor(local / dayMs);
  return { day, minute: Math.floor((local - day * dayMs) / 60_000), weekday: (((day + 3) % 7) + 7) % 7 };
}

/** The instants at which the wall shows this day and minute: one, none or two when the clocks change. In order. */
export function instantsAt(zone: string, day: number, minute: number): Instant[] {
  const local = day * dayMs + minute * 60_000;
  const offsets = new Set([-dayMs, 0, dayMs].map((d) => IANAZone.create(zone).offset(local + d)));
  return [...offsets]
    .map((o) => local - o * 60_000)
    .filter((at) => IANAZone.create(zone).offset(at) * 60_000 + at === local)
    .sort((a, b) => a - b);
}

/** The first instant of a local day; where the clocks skip midnight, the first there is. */
export const startOfDay = (zone: string, day: number): Instant => instantsAt(zone, day, 0)[0] ?? instantsAt(zone, day, 60)[0]!;

/** The instant within a local day at which the clocks change; undefined where they do not. */
export function clockChangeOn(zone: string, day: number): Instant | undefined {
  const start = instantsAt(zone, day, 0)[0] ?? instantsAt(zone, day, 60)[0];
  const end = instantsAt(zone, day + 1, 0)[0] ?? instantsAt(zone, day + 1, 60)[0];
  if (start === undefined || end === undefined || end - start === dayMs) return undefined;
  let [low, high] = [start, end];
  while (high - low > 60_000) {
    const middle = Math.floor((low + high) / 120_000) * 60_000;
    if (offsetMs(zone, middle) === offsetMs(zone, start)) low = middle;
    else high = middle;
  }
  return high;
}

/** By how much the wall has gone ahead between two instants beyond the time that passed; below 0: gone back. Minutes. */
export const clockStep = (zone: string, from: Instant, to: Instant): number => (offsetMs(zone, to) - offsetMs(zone, from)) / 60_000;

export const dayOf = (isoDate: string): number => Math.round(Date.parse(`${isoDate}T00:00:00Z`) / dayMs);

export const dateText = (day: number): string => new Date(day * dayMs).toISOString().slice(0, 10);

export const clockText = (minute: number): string =>
  `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;

export const weekdays = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'] as const;

/** `Tuesday 14:02`. */
export function wallWords(zone: string, at: Instant): string {
  const wall = wallTime(zone, at);
  return `${weekdays[wall.weekday]} ${clockText(wall.minute)}`;
}
