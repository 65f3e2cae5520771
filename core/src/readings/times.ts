// When readings are due: by the clock, by the sun, every so many minutes, after a mode is set; on some days, and while some hours are on.

import { minuteOf, parseEnd, weekdayKeys, type SiteLocation, type WeekdayKey } from '../schedules';
import { instantsAt, startOfDay, wallTime, type Instant } from '../time';

export type Times = {
  readonly at?: readonly string[];
  readonly everyMinutes?: number;
  readonly days?: readonly WeekdayKey[];
  readonly afterMode?: { readonly modes: readonly string[]; readonly minutes: number };
};

export type ReadingSite = SiteLocation & {
  /** Whether the hours that it names are on. */
  readonly isOn?: (at: Instant) => boolean;
  /** How its area is set, and since when. */
  readonly mode?: { readonly mode: string; readonly since: Instant } | undefined;
};

const minuteMs = 60_000;
const hourMs = 60 * minuteMs;
const lookAheadDays = 8;

/** An end on a local day; a time that the clocks skip is the first after it, of one that comes twice the first counts. */
export function instantOf(place: SiteLocation, day: number, end: string): Instant | undefined {
  const parsed = parseEnd(end);
  if (parsed === undefined) return undefined;
  const minute = minuteOf(place, day, parsed);
  const [on, within] = [day + Math.floor(minute / 1440), minute % 1440];
  for (let later = 0; later <= 120; later += 30) {
    const found = instantsAt(place.zone, on, within + later)[0];
    if (found !== undefined) return later === 0 ? found : startOfSkip(place.zone, on, within, found);
  }
  return undefined;
}

/** The first minute of the clock after one that was skipped. */
function startOfSkip(zone: string, day: number, minute: number, before: Instant): Instant {
  let first = before;
  for (let at = before; at > before - 2 * hourMs; at -= minuteMs) {
    const wall = wallTime(zone, at);
    if (wall.day !== day || wall.minute < minute) break;
    first = at;
  }
  return first;
}

/** All instants after one and up to another at which something is due, in order. */
export function dueBetween(times: Times, place: ReadingSite, after: Instant, upTo: Instant): Instant[] {
  const { zone, isOn, mode } = place;
  const found = new Set<Instant>();
  for (let day = wallTime(zone, after).day - 1; day <= wallTime(zone, upTo).day; day++) {
    if (times.days && !times.days.includes(weekdayKeys[(((day + 3) % 7) + 7) % 7]!)) continue;
    for (const end of times.at ?? []) found.add(instantOf(place, day, end) ?? NaN);
    if (times.everyMinutes) {
      const [from, to] = [startOfDay(zone, day), startOfDay(zone, day + 1)];
      const step = times.everyMinutes * minuteMs;
      for (let at = Math.max(from, from + Math.ceil((after - from) / step) * step); at < to && at <= upTo; at += step) found.add(at);
    }
  }
  const isAfter = mode && times.afterMode?.modes.includes(mode.mode);
  if (isAfter) found.add(mode.since + times.afterMode!.minutes * minuteMs);
  return [...found].filter((at) => at > after && at <= upTo && (isOn?.(at) ?? true)).sort((a, b) => a - b);
}

/** The next there is within a week; undefined where there is none. */
export function nextDue(times: Times, place: ReadingSite, after: Instant): Instant | undefined {
  for (let day = 0; day < lookAheadDays; day++) {
    const [next] = dueBetween(times, place, after + day * 24 * hourMs, after + (day + 1) * 24 * hourMs);
    if (next !== undefined) return next;
  }
  return undefined;
}
