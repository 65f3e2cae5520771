// When a weekly plan is on, in the wall time of a place. A plan is on while the wall clock reads a time inside one of its spans;
// so on the two days on which the clocks change a span is as long as the wall clock shows.

import { sunOf } from '../sun';
import { clockChangeOn, dateText, dayOf, instantsAt, wallTime, weekdays, type Instant, type Wall } from '../time';
import type { End } from './ends';
import { parseSpan, spanText, weekdayKeys, type Span, type WeekdayKey } from './spans';
import { listed } from '../words';

/** Where the clock hangs, and where on earth, for ends that hang on the sun. Degrees north and east. */
export type SiteLocation = { readonly zone: string; readonly latitude?: number | undefined; readonly longitude?: number | undefined };

export type Plan = SiteLocation & {
  /** Monday first. */
  readonly weekly: readonly (readonly Span[])[];
  /** By day number: the spans that begin on that day instead of the weekday's. */
  readonly exceptions: ReadonlyMap<number, readonly Span[]>;
  /** True where the plan is on outside its spans, as "outside opening hours" is. */
  readonly inverted: boolean;
};

export type PlanText = {
  readonly weekly?: Readonly<Partial<Record<WeekdayKey, readonly string[]>>>;
  readonly exceptions?: readonly { readonly date: string; readonly name?: string; readonly spans: readonly string[] }[];
};

/** Makes a plan of checked text. @throws never for text whose spans all parse */
export function makePlan(place: SiteLocation | string, text: PlanText, inverted = false): Plan {
  const spans = (list: readonly string[] = []) => list.map(parseSpan).filter((s): s is Span => s !== undefined);
  return {
    ...(typeof place === 'string' ? { zone: place } : place),
    weekly: weekdayKeys.map((key) => spans(text.weekly?.[key])),
    exceptions: new Map((text.exceptions ?? []).map((e) => [dayOf(e.date), spans(e.spans)])),
    inverted,
  };
}

const dayMinutes = 1440;
const spansOf = (plan: Plan, day: number): readonly Span[] => plan.exceptions.get(day) ?? plan.weekly[(((day + 3) % 7) + 7) % 7]!;

/** Minutes since the midnight on which the day of the span began; `to` is above 1440 where it ends on the next day. */
type Minutes = { readonly from: number; readonly to: number };

/** Kept by plan, since the sun is asked at every look. */
const known = new WeakMap<Plan, Map<number, readonly Minutes[]>>();

/** What the spans that begin on a day come to. */
export function minutesOf(plan: Plan, day: number): readonly Minutes[] {
  let days = known.get(plan);
  if (!days) known.set(plan, (days = new Map()));
  let found = days.get(day);
  if (!found) {
    if (days.size > 1000) days.clear();
    days.set(day, (found = spansOf(plan, day).flatMap((s) => resolve(plan, day, s) ?? [])));
  }
  return found;
}

function resolve(plan: Plan, day: number, { from, to }: Span): Minutes | undefined {
  const begins = minuteOf(plan, day, from);
  const ends = minuteOf(plan, day, to);
  if (ends > begins) return { from: begins, to: ends };
  // Where the sun makes both ends meet there is nothing between them, but for the night of a day on which it does not rise.
  if (ends === begins && !(isAt(from, 'sunset') && isAt(to, 'sunrise'))) return undefined;
  const next = dayMinutes + minuteOf(plan, day + 1, to);
  return next > begins ? { from: begins, to: next } : undefined;
}

const isAt = (end: End, sun: 'sunrise' | 'sunset'): boolean => typeof end !== 'number' && end.sun === sun;

/** The wall-clock minute of an end on a day. A sun that stays down rises and sets at noon; one that stays up does so at midnight. */
export function minuteOf(plan: SiteLocation, day: number, end: End): number {
  if (typeof end === 'number') return end;
  const sun = sunOf(day, plan.latitude ?? 0, plan.longitude ?? 0);
  if (sun.kind === 'always-down') return 720;
  if (sun.kind === 'always-up') return end.sun === 'sunrise' ? 0 : dayMinutes;
  const wall = wallTime(plan.zone, end.sun === 'sunrise' ? sun.sunrise : sun.sunset);
  return Math.min(dayMinutes, Math.max(0, (wall.day - day) * dayMinutes + wall.minute + end.offset));
}

/** Whether the plan is on at an instant. */
export const isOn = (plan: Plan, at: Instant): boolean => isOnAt(plan, wallTime(plan.zone, at));

/** Whether the plan is on while the wall shows this. */
export function isOnAt(plan: Plan, { day, minute }: Pick<Wall, 'day' | 'minute'>): boolean {
  const within =
    minutesOf(plan, day).some((s) => minute >= s.from && minute < s.to) || minutesOf(plan, day - 1).some((s) => minute + dayMinutes < s.to);
  return within !== plan.inverted;
}

const horizonDays = 400;

/** What the plan is for the whole of a day, whatever the clocks do on it; undefined where that is to be looked at. */
function stays(plan: Plan, day: number): boolean | undefined {
  const [before, own] = [minutesOf(plan, day - 1), minutesOf(plan, day)];
  if (own.length === 0 && before.every((s) => s.to <= dayMinutes)) return plan.inverted;
  return own.some((s) => s.from === 0 && s.to >= dayMinutes) ? !plan.inverted : undefined;
}

/** The first instant after `at` at which the plan goes on or off; 'never' if it does not within 400 days. */
export function nextChange(plan: Plan, at: Instant): Instant | 'never' {
  const now = isOn(plan, at);
  const first = wallTime(plan.zone, at).day;
  for (let day = first; day < first + horizonDays; day++) {
    if (stays(plan, day) === now) continue;
    const minutes = new Set([
      0,
      ...minutesOf(plan, day).flatMap((s) => [s.from, s.to % dayMinutes]),
      ...minutesOf(plan, day - 1).map((s) => s.to % dayMinutes),
    ]);
    // An hour that the clocks repeat or leave out begins at neither edge: its ends are looked at as well.
    const change = clockChangeOn(plan.zone, day);
    const candidates = [...minutes].flatMap((m) => instantsAt(plan.zone, day, m)).concat(change ?? []);
    const found = candidates.filter((c) => c > at && isOn(plan, c) !== now).sort((a, b) => a - b)[0];
    if (found !== undefined) return found;
  }
  return 'never';
}

/** Which minutes of the usual week the plan is on, Monday 00:00 first; exceptions and clock changes aside. `week` is a day of the week whose sun counts. */
export function weekOf(plan: Plan, week = 0): Uint8Array {
  const on = new Uint8Array(7 * dayMinutes).fill(plan.inverted ? 1 : 0);
  const monday = week - ((((week + 3) % 7) + 7) % 7);
  plan.weekly.forEach((spans, weekday) => {
    for (const span of spans) {
      const s = resolve(plan, monday + weekday, span);
      for (let i = s?.from ?? 0; i < (s?.to ?? 0); i++) on[(weekday * dayMinutes + i) % on.length] = plan.inverted ? 0 : 1;
    }
  });
  return on;
}

/** Minutes a week that the plan is on, exceptions and clock changes aside. `week` is a day of the week whose sun counts. */
export const minutesAWeek = (plan: Plan, week = 0): number => weekOf(plan, week).reduce((sum, v) => sum + v, 0);

/** The plan as text: `Monday and Wednesday to Sunday 09:30-18:00, Tuesday closed; except 2026-12-24 13:00-24:00`. */
export function planWords(plan: Plan): string {
  const words = plan.weekly.map((spans) => (spans.length ? spans.map(spanText).join(' and ') : 'closed'));
  const groups = new Map<string, number[]>();
  words.forEach((w, day) => groups.set(w, [...(groups.get(w) ?? []), day]));
  const weekly = [...groups].map(([w, days]) => `${groups.size === 1 ? 'every day' : daysText(days)} ${w}`).join(', ');
  const exceptions = [...plan.exceptions].map(([day, s]) => `${dateText(day)} ${s.length ? s.map(spanText).join(' and ') : 'closed'}`);
  return [weekly, ...(exceptions.length ? [`except ${exceptions.join(', ')}`] : [])].join('; ');
}

/** Days of the week, neighbours drawn together: `Monday and Wednesday to Sunday`. */
function daysText(days: readonly number[]): string {
  const runs: [number, number][] = [];
  for (const day of days) {
    const last = runs.at(-1);
    if (last && last[1] === day - 1) last[1] = day;
    else runs.push([day, day]);
  }
  const parts = runs.flatMap(([a, b]) =>
    b - a > 1 ? [`${weekdays[a]} to ${weekdays[b]}`] : a === b ? [weekdays[a]!] : [weekdays[a]!, weekdays[b]!],
  );
  return listed(parts, 'and');
}
