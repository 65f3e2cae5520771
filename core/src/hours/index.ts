// When a weekly plan is on, in the wall time of a place. A plan is on while the wall clock reads a time inside one of its spans;
// so on the two days on which the clocks change a span is as long as the wall clock shows.

import { clockText, dayOf, instantsAt, wallTime, weekdays, type Instant } from '../time';

/** Minutes after midnight, 0..1440; `to` at or before `from` ends on the next day. */
export type Span = { readonly from: number; readonly to: number };

export const weekdayKeys = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const;
export type WeekdayKey = (typeof weekdayKeys)[number];

export type Plan = {
  readonly zone: string;
  /** Monday first. */
  readonly weekly: readonly (readonly Span[])[];
  /** By day number: the spans that begin on that day instead of the weekday's. */
  readonly exceptions: ReadonlyMap<number, readonly Span[]>;
  /** True where the plan is on outside its spans, as "outside opening hours" is. */
  readonly inverted: boolean;
};

export type PlanText = {
  readonly weekly?: Readonly<Partial<Record<WeekdayKey, readonly string[]>>>;
  readonly exceptions?: readonly { readonly date: string; readonly spans: readonly string[] }[];
};

const spanForm = /^(\d{2}):(\d{2})-(\d{2}):(\d{2})$/;

/** `18:00-08:00` as a span; undefined where it is not one. */
export function parseSpan(text: string): Span | undefined {
  const parts = spanForm.exec(text)?.slice(1).map(Number);
  if (!parts) return undefined;
  const [fromHour, fromMinute, toHour, toMinute] = parts as [number, number, number, number];
  const [from, to] = [fromHour * 60 + fromMinute, toHour * 60 + toMinute];
  return fromMinute < 60 && toMinute < 60 && from < 1440 && to <= 1440 && from !== to ? { from, to } : undefined;
}

export const spanText = (s: Span): string => `${clockText(s.from)}-${clockText(s.to)}`;

/** Makes a plan of checked text. @throws never for text whose spans all parse */
export function makePlan(zone: string, text: PlanText, inverted = false): Plan {
  const spans = (list: readonly string[] = []) => list.map(parseSpan).filter((s): s is Span => s !== undefined);
  return {
    zone,
    weekly: weekdayKeys.map((key) => spans(text.weekly?.[key])),
    exceptions: new Map((text.exceptions ?? []).map((e) => [dayOf(e.date), spans(e.spans)])),
    inverted,
  };
}

const spansOf = (plan: Plan, day: number): readonly Span[] => plan.exceptions.get(day) ?? plan.weekly[(((day + 3) % 7) + 7) % 7]!;

/** Whether the plan is on at an instant. */
export function isOn(plan: Plan, at: Instant): boolean {
  const { day, minute } = wallTime(plan.zone, at);
  const today = spansOf(plan, day).some((s) => (s.to > s.from ? minute >= s.from && minute < s.to : minute >= s.from));
  const within = today || spansOf(plan, day - 1).some((s) => s.to <= s.from && minute < s.to);
  return within !== plan.inverted;
}

const horizonDays = 400;

/** The first instant after `at` at which the plan goes on or off; 'never' if it does not within 400 days. */
export function nextChange(plan: Plan, at: Instant): Instant | 'never' {
  const now = isOn(plan, at);
  const first = wallTime(plan.zone, at).day;
  for (let day = first; day < first + horizonDays; day++) {
    const minutes = new Set([0, ...[...spansOf(plan, day), ...spansOf(plan, day - 1)].flatMap((s) => [s.from, s.to % 1440])]);
    // An hour that the clocks repeat or leave out begins at neither edge: its ends are looked at as well.
    const changes = clockChange(plan.zone, day);
    const candidates = [...minutes].flatMap((m) => instantsAt(plan.zone, day, m)).concat(changes);
    const found = candidates.filter((c) => c > at && isOn(plan, c) !== now).sort((a, b) => a - b)[0];
    if (found !== undefined) return found;
  }
  return 'never';
}

/** The instant within a local day at which the clocks change, if they do. */
function clockChange(zone: string, day: number): Instant[] {
  const start = instantsAt(zone, day, 0)[0] ?? instantsAt(zone, day, 60)[0];
  const end = instantsAt(zone, day + 1, 0)[0] ?? instantsAt(zone, day + 1, 60)[0];
  if (start === undefined || end === undefined || end - start === 86_400_000) return [];
  const gap = (at: Instant) => wallTime(zone, at).minute + wallTime(zone, at).day * 1440 - at / 60_000;
  let [low, high] = [start, end];
  while (high - low > 60_000) {
    const middle = Math.floor((low + high) / 120_000) * 60_000;
    if (gap(middle) === gap(start)) low = middle;
    else high = middle;
  }
  return [high];
}

/** Minutes a week that the plan is on, exceptions and clock changes aside. */
export function minutesAWeek(plan: Plan): number {
  const on = new Uint8Array(7 * 1440);
  plan.weekly.forEach((spans, day) =>
    spans.forEach((s) => {
      const length = s.to > s.from ? s.to - s.from : 1440 - s.from + s.to;
      for (let i = 0; i < length; i++) on[(day * 1440 + s.from + i) % on.length] = 1;
    }),
  );
  const within = on.reduce((sum, v) => sum + v, 0);
  return plan.inverted ? on.length - within : within;
}

/** The weekly plan as text: `Monday 09:30-18:00, Tuesday closed, …`. */
export const planWords = (plan: Plan): string =>
  plan.weekly.map((spans, i) => `${weekdays[i]} ${spans.length ? spans.map(spanText).join(' and ') : 'closed'}`).join(', ');
