// Hours in words.

import { DateTime } from 'luxon';
import type { ScheduleNow } from '../../state/api/types';
import { usersOf } from '@nibber/core/schedules';

/** `7 h`, `7 h 30 min`, `none`. */
export function lengthWords(minutes: number): string {
  const [hours, rest] = [Math.floor(minutes / 60), minutes % 60];
  return [hours ? `${hours} h` : '', rest ? `${rest} min` : ''].filter(Boolean).join(' ') || 'none';
}

/** `Sunday 28 March 2027`. */
export const dateWords = (date: string): string => DateTime.fromISO(date, { zone: 'utc', locale: 'en-GB' }).toFormat('cccc d MMMM yyyy');

type ClockDay = ScheduleNow['clockDays'][number];

/** What a day on which the clocks change does. */
export function clockDayWords({ date, step, onMinutes, defaultMinutes }: ClockDay): string {
  const what = `${dateWords(date)}, when the clocks go ${step > 0 ? 'forward' : 'back'} by ${lengthWords(Math.abs(step))}`;
  if (onMinutes === defaultMinutes) return `${what}: ${onMinutes ? `on for ${lengthWords(onMinutes)}, as usual` : 'not on, as usual'}.`;
  return `${what}: on for ${lengthWords(onMinutes)} instead of ${lengthWords(defaultMinutes)}.`;
}

export const usesWords = (uses: ScheduleNow['uses']): string => (uses.length === 0 ? 'Not used yet.' : `Used by ${usersOf(uses)}.`);

/** What reading a calendar would do. */
export function readWords({
  added,
  changed,
  removed,
  kept,
}: {
  added: readonly string[];
  changed: readonly string[];
  removed: readonly string[];
  kept: readonly string[];
}): string {
  // prettier-ignore
  const parts = [
    [added.length, 'new'],
    [changed.length, 'changed'],
    [removed.length, 'gone'],
  ] as const;
  const said = parts.filter(([n]) => n).map(([n, word]) => `${n} ${word}`);
  const days = said.length ? `Days: ${said.join(', ')}.` : 'Nothing new. All its days are already there.';
  return kept.length ? `${days} ${kept.length === 1 ? 'One day was' : `${kept.length} days were`} set by hand and will not change.` : days;
}
