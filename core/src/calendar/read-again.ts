// A calendar file that is read again: what came from it before is brought up to date, what was set by hand or by another stays.

import type { DayException } from './read';

/** An exception as the site file has it. */
export type SetException = {
  readonly date: string;
  readonly name?: string | undefined;
  readonly spans: readonly string[];
  readonly calendar?: string | undefined;
};

export type Read = {
  /** In order of their dates. */
  readonly exceptions: SetException[];
  readonly added: string[];
  readonly changed: string[];
  readonly removed: string[];
  /** Dates that stay as they are, since they were not set by this calendar. */
  readonly kept: string[];
};

/**
 * @param calendar what the calendar is called
 * @param from days before this date stay as they are
 */
export function withCalendar(existing: readonly SetException[], found: readonly DayException[], calendar: string, from: string): Read {
  const isOld = (e: SetException) => e.calendar === calendar && e.date >= from;
  const old = new Map(existing.filter(isOld).map((e) => [e.date, e]));
  const others = existing.filter((e) => !isOld(e));
  const taken = new Set(others.map((e) => e.date));
  const own = found.filter((e) => !taken.has(e.date)).map((e): SetException => ({ ...e, calendar }));
  const isSame = (a: SetException, b: SetException) => a.name === b.name && a.spans.join() === b.spans.join();
  const dates = (list: readonly SetException[]) => list.map((e) => e.date);
  return {
    exceptions: [...others, ...own].sort((a, b) => (a.date < b.date ? -1 : 1)),
    added: dates(own.filter((e) => !old.has(e.date))),
    changed: dates(own.filter((e) => old.has(e.date) && !isSame(old.get(e.date)!, e))),
    removed: [...old.keys()].filter((date) => !own.some((e) => e.date === date)),
    kept: dates(found.filter((e) => taken.has(e.date))),
  };
}
