// When the entries of one series take place: its rule, further dates, those that are left out, and those that were moved or cancelled.

import ICAL from 'ical.js';
import type { Entry, Zones } from './entries';
import { between, keyOf, later, momentLike, momentOf, type Moment } from './times';

export type Timed = { readonly name: string; readonly start: Moment; readonly end: Moment };

/** Steps of one recurrence that are walked through before the window is given up. */
const maxSteps = 100_000;
const dayMs = 86_400_000;

const isCancelled = ({ component }: Entry) => String(component.getFirstPropertyValue('status')).toUpperCase() === 'CANCELLED';
const nameOf = ({ component }: Entry) => String(component.getFirstPropertyValue('summary') ?? '') || 'Calendar entry';

function momentIn({ component }: Entry, name: string, zones: Zones): Moment | undefined {
  const property = component.getFirstProperty(name);
  const value: unknown = property?.getFirstValue();
  return value instanceof ICAL.Time ? momentOf(value, property!, zones) : undefined;
}

/** Start, and how long it takes: of DTEND exactly so many milliseconds, of DURATION as much by the wall (RFC 5545, 3.8.5.3). */
function spanOf(entry: Entry, zones: Zones): { readonly start: Moment; readonly ms: number } {
  const start = momentIn(entry, 'dtstart', zones);
  if (!start) throw new Error('it has no start (DTSTART)');
  const end = momentIn(entry, 'dtend', zones);
  if (end) return { start, ms: Math.max(0, between(start, end)) };
  const duration: unknown = entry.component.getFirstPropertyValue('duration');
  const seconds = duration instanceof ICAL.Duration ? duration.toSeconds() : undefined;
  return { start, ms: seconds === undefined ? (start.kind === 'date' ? dayMs : 0) : Math.max(0, seconds * 1000) };
}

/** The starts that a rule gives, up to a day; in the wall time of the first. */
function* byRule(rule: ICAL.Recur, first: ICAL.Time, start: Moment, lastDay: number): Generator<Moment> {
  const wall = first.clone();
  if (!wall.isDate) wall.zone = ICAL.Timezone.localTimezone;
  const own = rule.clone();
  // UNTIL stands in UTC where the start has a zone (3.3.10): it is compared as the wall of that zone shows it.
  const until = own.until;
  if (until && !until.isDate && start.kind === 'zoned' && until.zone === ICAL.Timezone.utcTimezone) {
    const ahead = Date.UTC(wall.year, wall.month - 1, wall.day, wall.hour, wall.minute, wall.second) - start.at;
    const near = new Date(Date.UTC(until.year, until.month - 1, until.day, until.hour, until.minute, until.second) + ahead);
    own.until = ICAL.Time.fromData({
      year: near.getUTCFullYear(),
      month: near.getUTCMonth() + 1,
      day: near.getUTCDate(),
      hour: near.getUTCHours(),
      minute: near.getUTCMinutes(),
      second: near.getUTCSeconds(),
    });
  }
  const iterator = own.iterator(wall);
  for (let steps = 0; steps < maxSteps; steps++) {
    const next = iterator.next();
    if (!next) return;
    const moment = momentLike(start, next);
    // A day is kept over, since the zone of the entry may be a day ahead.
    if (moment.wall.day > lastDay + 1) return;
    yield moment;
  }
}

/** Further dates (RDATE): times, days, or periods with ends of their own (3.8.5.2). */
function* further({ component }: Entry, zones: Zones): Generator<{ readonly start: Moment; readonly ms?: number }> {
  for (const property of component.getAllProperties('rdate'))
    for (const value of property.getValues() as unknown[]) {
      if (value instanceof ICAL.Time) yield { start: momentOf(value, property, zones) };
      else if (value instanceof ICAL.Period) {
        const start = momentOf(value.start, property, zones);
        yield { start, ms: value.duration ? value.duration.toSeconds() * 1000 : between(start, momentOf(value.end, property, zones)) };
      }
    }
}

/** What a series leaves out (EXDATE): the very moments, and whole days where days are named. */
function leftOut({ component }: Entry, zones: Zones): (m: Moment) => boolean {
  const all = component
    .getAllProperties('exdate')
    .flatMap((property) =>
      (property.getValues() as unknown[]).flatMap((v) => (v instanceof ICAL.Time ? momentOf(v, property, zones) : [])),
    );
  const moments = new Set(all.map(keyOf));
  const days = new Set(all.filter((m) => m.kind === 'date').map((m) => m.wall.day));
  const byDay = new Set(all.map((m) => m.wall.day));
  return (m) => moments.has(keyOf(m)) || days.has(m.wall.day) || (m.kind === 'date' && byDay.has(m.wall.day));
}

/**
 * Every time of a series up to a day, in no order.
 * @param entries of one UID: the series itself, and those of its times that were moved, changed or cancelled (RECURRENCE-ID)
 * @throws Error that says what of it cannot be read
 */
export function* timesOf(entries: readonly Entry[], zones: Zones, lastDay: number): Generator<Timed> {
  const whole = entries.filter((e) => !e.component.hasProperty('recurrence-id'));
  const changed = entries.filter((e) => e.component.hasProperty('recurrence-id'));
  const changes = new Set(changed.map((entry) => keyOf(momentIn(entry, 'recurrence-id', zones)!)));
  // From one of its times on (RANGE=THISANDFUTURE, 3.2.13): later ones are moved as it was.
  const ranges = changed
    .filter((e) => String(e.component.getFirstProperty('recurrence-id')?.getFirstParameter('range')).toUpperCase() === 'THISANDFUTURE')
    .map((entry) => ({ entry, from: momentIn(entry, 'recurrence-id', zones)! }));
  for (const entry of whole) {
    if (isCancelled(entry)) continue;
    const { start, ms } = spanOf(entry, zones);
    const isOut = leftOut(entry, zones);
    const seen = new Set<string>();
    const rules = entry.component.getAllProperties('rrule').map((p) => p.getFirstValue() as unknown as ICAL.Recur);
    const first = entry.component.getFirstPropertyValue('dtstart') as unknown as ICAL.Time;
    const starts = function* (): Generator<{ readonly start: Moment; readonly ms?: number }> {
      if (rules.length === 0) yield { start };
      for (const rule of rules) for (const moment of byRule(rule, first, start, lastDay)) yield { start: moment };
      yield* further(entry, zones);
    };
    for (const given of starts()) {
      const key = keyOf(given.start);
      if (seen.has(key)) continue;
      seen.add(key);
      if (changes.has(key) || isOut(given.start)) continue;
      const range = ranges
        .filter((r) => between(r.from, given.start) > 0)
        .sort((a, b) => between(a.from, b.from))
        .at(-1);
      if (!range) yield { name: nameOf(entry), start: given.start, end: later(given.start, given.ms ?? ms) };
      else if (!isCancelled(range.entry)) {
        const moved = spanOf(range.entry, zones);
        const begins = later(given.start, between(range.from, moved.start));
        yield { name: nameOf(range.entry), start: begins, end: later(begins, moved.ms) };
      }
    }
  }
  // Those that were changed, where they are now; also where the series itself is not in the file, or does not reach so far.
  for (const entry of changed) {
    if (isCancelled(entry) || (whole.length > 0 && whole.every(isCancelled))) continue;
    const { start, ms } = spanOf(entry, zones);
    yield { name: nameOf(entry), start, end: later(start, ms) };
  }
}
