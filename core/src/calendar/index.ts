// Odd days from a calendar file (iCalendar, RFC 5545): each becomes an exception of a weekly plan.

import ICAL from 'ical.js';
import { DateTime } from 'luxon';
import { clockText, dateText, dayOf, isZone, wallTime, type Instant } from '../time';
import { Trouble } from '../trouble';

/** One occurrence. Wall minutes of the site's zone; `to` may lie on a later day. An all-day one runs from midnight to midnight. */
export type Occurrence = {
  readonly name: string;
  readonly allDay: boolean;
  readonly fromDay: number;
  readonly fromMinute: number;
  readonly toDay: number;
  readonly toMinute: number;
};

export { withCalendar, type Read, type SetException } from './read-again';

export type DayException = { readonly date: string; readonly name: string; readonly spans: readonly string[] };

const mostCharacters = 1_000_000;
const mostOccurrences = 5_000;
/** Steps of one recurrence that are walked through before the window is given up. */
const mostSteps = 100_000;

/**
 * What a calendar holds between two days, in order of time.
 * Recurrences (RRULE, RDATE) are followed, EXDATE and cancelled events left out, moved ones (RECURRENCE-ID) stand where they were moved to.
 * Times in UTC or a named zone are turned into the site's; floating ones are the site's own.
 * @param zone IANA name of the site; @param from, to days `2026-12-24`, both included
 * @throws Trouble 'bad-input' for what is no calendar, or too large
 */
export function occurrences(text: string, zone: string, from: string, to: string): Occurrence[] {
  if (text.length > mostCharacters)
    throw new Trouble('bad-input', `The calendar is ${text.length} characters long`, `Allowed: at most ${mostCharacters}.`);
  const [first, last] = [dayOf(from), dayOf(to)];
  const found: Occurrence[] = [];
  for (const event of eventsOf(text)) {
    for (const [start, end] of timesOf(event, last)) {
      const occurrence = occurrenceOf(event, start, end, zone);
      const endsBefore =
        occurrence.toDay < first || (occurrence.toDay === first && occurrence.toMinute === 0 && occurrence.fromDay < first);
      if (!endsBefore && occurrence.fromDay <= last) found.push(occurrence);
      if (found.length > mostOccurrences)
        throw new Trouble('bad-input', `The calendar has more than ${mostOccurrences} entries in this time`, 'Take a shorter time.');
    }
  }
  return found.sort((a, b) => a.fromDay - b.fromDay || a.fromMinute - b.fromMinute);
}

function eventsOf(text: string): ICAL.Event[] {
  let root: ICAL.Component;
  try {
    root = new ICAL.Component(ICAL.parse(text) as never);
  } catch (thrown) {
    throw new Trouble('bad-input', `This is no calendar: ${(thrown as Error).message}`, 'Allowed: an iCalendar file (RFC 5545, .ics).');
  }
  if (root.name !== 'vcalendar') throw new Trouble('bad-input', 'This is no calendar', 'Allowed: an iCalendar file (RFC 5545, .ics).');
  const events = root
    .getAllSubcomponents('vevent')
    .filter((c) => String(c.getFirstPropertyValue('status')).toUpperCase() !== 'CANCELLED')
    .map((c) => new ICAL.Event(c, { strictExceptions: true }));
  for (const event of events)
    if (!event.startDate) throw new Trouble('bad-input', `The entry ${event.summary ?? ''} has no start`, 'Each VEVENT needs DTSTART.');
  const moved = events.filter((e) => e.isRecurrenceException());
  const whole = events.filter((e) => !e.isRecurrenceException());
  for (const m of moved) whole.filter((e) => e.uid === m.uid).forEach((e) => e.relateException(m));
  return whole;
}

/** Starts and ends of an event up to a day, its moved occurrences where they now are. */
function* timesOf(event: ICAL.Event, lastDay: number): Generator<readonly [ICAL.Time, ICAL.Time, ICAL.Event?]> {
  if (!event.isRecurring()) {
    yield [event.startDate, event.endDate];
    return;
  }
  const iterator = event.iterator();
  for (let steps = 0; steps < mostSteps; steps++) {
    const next = iterator.next();
    if (!next) return;
    // A day is kept over, since the zone of the event may be a day ahead.
    if (dayOf(`${pad(next.year, 4)}-${pad(next.month)}-${pad(next.day)}`) > lastDay + 1) return;
    const { startDate, endDate } = event.getOccurrenceDetails(next);
    yield [startDate, endDate];
  }
}

const pad = (n: number, width = 2) => String(n).padStart(width, '0');

function occurrenceOf(event: ICAL.Event, start: ICAL.Time, end: ICAL.Time, zone: string): Occurrence {
  const name = event.summary || 'Calendar entry';
  const day = (t: ICAL.Time) => dayOf(`${pad(t.year, 4)}-${pad(t.month)}-${pad(t.day)}`);
  if (start.isDate) {
    const toDay = Math.max(day(end), day(start) + 1);
    return { name, allDay: true, fromDay: day(start), fromMinute: 0, toDay, toMinute: 0 };
  }
  const wall = (t: ICAL.Time) => {
    const at = instantOf(event, t);
    if (at === undefined) return { day: day(t), minute: t.hour * 60 + t.minute };
    return wallTime(zone, at);
  };
  const [a, b] = [wall(start), wall(end)];
  return { name, allDay: false, fromDay: a.day, fromMinute: a.minute, toDay: b.day, toMinute: b.minute };
}

/** The instant of a time with a zone; undefined for a floating one. A zone's IANA name is trusted before the file's own account of it. */
function instantOf(event: ICAL.Event, t: ICAL.Time): Instant | undefined {
  const own = String(event.component.getFirstProperty('dtstart')?.getParameter('tzid') ?? '');
  if (t.zone === ICAL.Timezone.utcTimezone) return t.toUnixTime() * 1000;
  const name = isZone(own) ? own : isZone(t.zone?.tzid ?? '') ? t.zone!.tzid : undefined;
  if (name)
    return DateTime.fromObject(
      { year: t.year, month: t.month, day: t.day, hour: t.hour, minute: t.minute, second: t.second },
      { zone: name },
    ).toMillis();
  if (own === '' || !t.zone || t.zone === ICAL.Timezone.localTimezone) return undefined;
  return t.toUnixTime() * 1000;
}

/**
 * The occurrences as exceptions of a plan.
 * `closed`: nothing is on while an entry lasts; what is left of the weekday's spans stays. `open`: on while the entries last, and at no
 * other time of that day.
 * @param spansOfDay the spans, in minutes, that the plan has on a day without exceptions
 */
export function exceptionsFrom(
  found: readonly Occurrence[],
  meaning: 'closed' | 'open',
  spansOfDay: (day: number) => readonly { readonly from: number; readonly to: number }[],
): DayException[] {
  const days = new Map<number, { names: Set<string>; spans: { from: number; to: number }[] }>();
  for (const o of found)
    for (let day = o.fromDay; day <= o.toDay; day++) {
      const span = { from: day === o.fromDay ? o.fromMinute : 0, to: day === o.toDay ? o.toMinute : 1440 };
      if (span.to <= span.from) continue;
      const entry = days.get(day) ?? { names: new Set(), spans: [] };
      entry.names.add(o.name);
      entry.spans.push(span);
      days.set(day, entry);
    }
  return [...days]
    .sort(([a], [b]) => a - b)
    .map(([day, { names, spans }]) => ({
      date: dateText(day),
      name: [...names].join(', ').slice(0, 80),
      spans: (meaning === 'open' ? joined(spans) : spans.reduce(without, spansOfDay(day))).map(
        ({ from, to }) => `${clockText(from)}-${clockText(to > 1440 ? to - 1440 : to)}`,
      ),
    }));
}

type Minutes = { readonly from: number; readonly to: number };

function joined(spans: readonly Minutes[]): Minutes[] {
  const result: { from: number; to: number }[] = [];
  for (const s of [...spans].sort((a, b) => a.from - b.from)) {
    const last = result.at(-1);
    if (last && s.from <= last.to) last.to = Math.max(last.to, s.to);
    else result.push({ ...s });
  }
  return result;
}

const without = (spans: readonly Minutes[], taken: Minutes): Minutes[] =>
  spans.flatMap((s) => {
    if (taken.to <= s.from || taken.from >= s.to) return [s];
    return [
      { from: s.from, to: taken.from },
      { from: taken.to, to: s.to },
    ].filter((part) => part.to > part.from);
  });
