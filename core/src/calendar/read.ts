// Odd days from a calendar file (iCalendar, RFC 5545): each becomes an exception of a weekly plan.

import { clockText, dateText, dayOf } from '../time';
import { Problem } from '../problem';
import { entriesOf, type Entry } from './entries';
import { timesOf, type Timed } from './series';
import { wallAt } from './times';

/** One occurrence. Wall minutes of the site's zone; `to` may lie on a later day. An all-day one runs from midnight to midnight. */
export type Occurrence = {
  readonly name: string;
  readonly allDay: boolean;
  readonly fromDay: number;
  readonly fromMinute: number;
  readonly toDay: number;
  readonly toMinute: number;
};

export type DayException = { readonly date: string; readonly name: string; readonly spans: readonly string[] };

const maxCharacters = 1_000_000;
const maxOccurrences = 5_000;
/** Entries that cannot be read and are named; of more, how many there are. */
const maxUnread = 20;

export type CalendarRead = {
  /** In order of time. */
  readonly occurrences: readonly Occurrence[];
  /** Entries that could not be read, each with its name, its line and why. The others are read all the same. */
  readonly unread: readonly string[];
};

/**
 * What a calendar holds between two days.
 * Recurrences (RRULE, RDATE) are followed, EXDATE and cancelled entries left out, moved ones (RECURRENCE-ID) stand where they were moved to.
 * Times in UTC or a named zone are turned into the site's, each by its own zone; floating ones are the site's own.
 * @param zone IANA name of the site; @param from, to days `2026-12-24`, both included
 * @throws Problem 'bad-input' for what is no calendar, or too large
 */
export function readCalendar(text: string, zone: string, from: string, to: string): CalendarRead {
  if (text.length > maxCharacters)
    throw new Problem('bad-input', `The calendar is ${text.length} characters long`, `Allowed: at most ${maxCharacters}.`);
  const [first, last] = [dayOf(from), dayOf(to)];
  const { entries, zones, unread: broken } = entriesOf(text);
  const unread = [...broken];
  const found: Occurrence[] = [];
  const series = new Map<string, Entry[]>();
  for (const entry of entries) series.set(entry.uid, [...(series.get(entry.uid) ?? []), entry]);
  for (const all of series.values()) {
    try {
      for (const timed of timesOf(all, zones, last)) {
        const occurrence = occurrenceOf(timed, zone);
        const endsBefore =
          occurrence.toDay < first || (occurrence.toDay === first && occurrence.toMinute === 0 && occurrence.fromDay < first);
        if (!endsBefore && occurrence.fromDay <= last) found.push(occurrence);
        if (found.length > maxOccurrences)
          throw new Problem('bad-input', `The calendar has more than ${maxOccurrences} entries in this time`, 'Choose a shorter time.');
      }
    } catch (thrown) {
      if (thrown instanceof Problem) throw thrown;
      unread.push(`${all[0]!.name}: ${(thrown as Error).message}`);
    }
  }
  const rest = unread.length - maxUnread;
  return {
    occurrences: found.sort((a, b) => a.fromDay - b.fromDay || a.fromMinute - b.fromMinute),
    unread: rest > 0 ? [...unread.slice(0, maxUnread), `and ${rest} more`] : unread,
  };
}

function occurrenceOf({ name, start, end }: Timed, zone: string): Occurrence {
  const [a, b] = [wallAt(start, zone), wallAt(end, zone)];
  if (start.kind === 'date') return { name, allDay: true, fromDay: a.day, fromMinute: 0, toDay: Math.max(b.day, a.day + 1), toMinute: 0 };
  return { name, allDay: false, fromDay: a.day, fromMinute: a.minute, toDay: b.day, toMinute: b.minute };
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
      spans: (meaning === 'open' ? combinedInto(spans) : spans.reduce(without, spansOfDay(day))).map(
        ({ from, to }) => `${clockText(from)}-${clockText(to > 1440 ? to - 1440 : to)}`,
      ),
    }));
}

type Minutes = { readonly from: number; readonly to: number };

function combinedInto(spans: readonly Minutes[]): Minutes[] {
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
