// A week of hours while it is being set up: painted, typed, copied from day to day. Seven days, Monday first; spans that hang on the sun are kept
// as they are, the others are painted minute by minute.

import { makePlan, minutesOf, type SiteLocation, type PlanText } from './plan';
import { parseSpan, spanText, weekdayKeys, type Span } from './spans';

const dayMinutes = 1440;
const weekMinutes = 7 * dayMinutes;

/** The spans that begin on each day. */
export type Week = readonly (readonly Span[])[];

export const weekOfText = (weekly: PlanText['weekly']): Week =>
  weekdayKeys.map((key) => (weekly?.[key] ?? []).flatMap((text) => parseSpan(text) ?? []));

/** As the site file has it: a day on which nothing is on is written out, as closed. */
export const textOfWeek = (week: Week): NonNullable<PlanText['weekly']> =>
  Object.fromEntries(weekdayKeys.map((key, day) => [key, week[day]!.map(spanText)]));

const isFixed = (span: Span): span is { readonly from: number; readonly to: number } =>
  typeof span.from === 'number' && typeof span.to === 'number';

/** Which minutes of the week the fixed spans cover; what begins on Sunday goes on into Monday. */
export function minutesOfWeek(week: Week): Uint8Array {
  const on = new Uint8Array(weekMinutes);
  week.forEach((spans, day) => {
    for (const { from, to } of spans.filter(isFixed)) {
      const end = to > from ? to : to + dayMinutes;
      for (let minute = from; minute < end; minute++) on[(day * dayMinutes + minute) % weekMinutes] = 1;
    }
  });
  return on;
}

/** A part of one day on which the week is on, minutes of that day; what hangs on the sun is where the sun puts it. */
export type Piece = { readonly day: number; readonly from: number; readonly to: number; readonly isFixed: boolean };

/** @param monday day number of the Monday whose sun counts */
export function piecesOf(week: Week, place: SiteLocation, monday: number): Piece[] {
  const pieces = (isOfKind: (span: Span) => boolean, isKept: boolean) => {
    const weekly = textOfWeek(week.map((spans) => spans.filter(isOfKind)));
    const plan = makePlan(place, { weekly });
    return weekdayKeys.flatMap((_, day) =>
      minutesOf(plan, monday + day).flatMap(({ from, to }): Piece[] => [
        ...(from < dayMinutes ? [{ day, from, to: Math.min(to, dayMinutes), isFixed: isKept }] : []),
        ...(to > dayMinutes ? [{ day: (day + 1) % 7, from: Math.max(0, from - dayMinutes), to: to - dayMinutes, isFixed: isKept }] : []),
      ]),
    );
  };
  return [...pieces(isFixed, true), ...pieces((s) => !isFixed(s), false)];
}

/** What is painted at once: the same minutes of one day or of several. */
export type Stroke = {
  /** 0..6, both included, in any order. */
  readonly days: readonly [number, number];
  /** 0..1440, in any order. */
  readonly minutes: readonly [number, number];
  readonly on: boolean;
};

export function painted(week: Week, { days, minutes, on }: Stroke): Week {
  const all = minutesOfWeek(week);
  const [firstDay, lastDay] = [Math.max(0, Math.min(...days)), Math.min(6, Math.max(...days))];
  const [from, to] = [Math.max(0, Math.min(...minutes)), Math.min(dayMinutes, Math.max(...minutes))];
  for (let day = firstDay; day <= lastDay; day++) all.fill(on ? 1 : 0, day * dayMinutes + from, day * dayMinutes + to);
  return withMinutes(week, all);
}

/** The same week with these minutes in place of its fixed spans. */
function withMinutes(week: Week, on: Uint8Array): Week {
  const fixed: Span[][] = weekdayKeys.map(() => []);
  for (const { begin, length } of runsOf(on)) {
    const crossed = Math.floor((begin + length - 1) / dayMinutes) - Math.floor(begin / dayMinutes);
    // A night is one span of the day on which it begins; what lasts longer is cut at midnight.
    if (crossed <= 1 && length < dayMinutes) put(fixed, begin, length);
    else
      for (let at = begin; at < begin + length;) {
        const end = Math.min(begin + length, (Math.floor(at / dayMinutes) + 1) * dayMinutes);
        put(fixed, at, end - at);
        at = end;
      }
  }
  return week.map((spans, day) => [...fixed[day]!, ...spans.filter((s) => !isFixed(s))]);
}

function put(days: Span[][], begin: number, length: number): void {
  const from = begin % dayMinutes;
  const end = from + length;
  days[Math.floor(begin / dayMinutes) % 7]!.push({ from, to: end > dayMinutes ? end - dayMinutes : end });
}

/** Runs of minutes that are on, round the week: what goes on over Sunday's midnight is one. */
function runsOf(on: Uint8Array): { begin: number; length: number }[] {
  const firstOff = on.indexOf(0);
  if (firstOff < 0) return [{ begin: 0, length: weekMinutes }];
  const runs: { begin: number; length: number }[] = [];
  for (let i = 0; i < weekMinutes; i++) {
    const at = (firstOff + i) % weekMinutes;
    if (!on[at]) continue;
    const last = runs.at(-1);
    if (last && (last.begin + last.length) % weekMinutes === at) last.length++;
    else runs.push({ begin: at, length: 1 });
  }
  return runs.sort((a, b) => a.begin - b.begin);
}

/** One day's spans put on others in place of theirs. */
export const copied = (week: Week, from: number, to: readonly number[]): Week =>
  week.map((spans, day) => (to.includes(day) ? week[from]! : spans));

/** `09:30-12:00, 13:00-18:00` as the spans of a day; or the first that is none, in words. Nothing is closed. */
export function parseDay(text: string): { readonly spans: readonly Span[] } | { readonly wrong: string } {
  const spans: Span[] = [];
  for (const part of text
    .split(',')
    .map((t) => t.trim())
    .filter(Boolean)) {
    const span = parseSpan(part);
    if (!span) return { wrong: `“${part}” is not a time range. Write 09:30-18:00, or use sunrise and sunset.` };
    spans.push(span);
  }
  const fixed = spans.filter(isFixed).map(({ from, to }) => ({ from, to: to > from ? to : to + dayMinutes }));
  const sorted = fixed.sort((a, b) => a.from - b.from);
  if (sorted.some((s, i) => i > 0 && s.from < sorted[i - 1]!.to)) return { wrong: 'Two of them overlap.' };
  return { spans };
}

export const dayText = (spans: readonly Span[]): string => spans.map(spanText).join(', ');

const every = (...texts: string[]): Week => weekdayKeys.map(() => texts.map((t) => parseSpan(t)!));
const workdays = (text: string): Week => weekdayKeys.map((_, day) => (day < 5 ? [parseSpan(text)!] : []));

/** To begin with (common practice); each is changed at will. */
export const templates: readonly { readonly id: string; readonly name: string; readonly week: Week }[] = [
  { id: 'shop', name: 'Shop: Monday to Saturday, 9 to 6', week: weekdayKeys.map((_, day) => (day < 6 ? [parseSpan('09:00-18:00')!] : [])) },
  { id: 'office', name: 'Workdays, 9 to 5', week: workdays('09:00-17:00') },
  { id: 'nights', name: 'Nights, 10 to 6', week: every('22:00-06:00') },
  { id: 'dark', name: 'While it is dark', week: every('sunset-sunrise') },
  { id: 'always', name: 'Always', week: every('00:00-24:00') },
];
