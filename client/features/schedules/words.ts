// Hours in words.

import { DateTime } from 'luxon';
import type { ScheduleNow } from '../../state/api/types';
import { usersOf } from '@nibber/core/schedules';
import type { Filled } from '../../ui/texts';

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
  const parts = [
    [added.length, 'new'],
    [changed.length, 'changed'],
    [removed.length, 'removed'],
  ] as const;
  const said = parts.filter(([n]) => n).map(([n, word]) => `${n} ${word}`);
  const days = said.length ? `Days: ${said.join(', ')}.` : 'Nothing new. All its days are already there.';
  return kept.length ? `${days} ${kept.length === 1 ? 'One day was' : `${kept.length} days were`} set by hand and will not change.` : days;
}

/** What is written on the screens of this feature. */
export const texts = {
  offDuringEachEntry: 'Off during each entry',
  closedDaysHolidays: 'Closed days, holidays',
  onDuringEachEntry: 'On during each entry',
  replacesTheUsualTimesOn: 'Replaces the usual times on those days',
  calendar: 'Calendar',
  isLongerThanMbUse: (name: string | number, maxCharacters: string | number) =>
    `${name} is longer than ${maxCharacters} MB. Use a calendar with fewer entries.`,
  fromACalendarFile: 'From a calendar file',
  useTheseDays: 'Use these days',
  meaningOfItsEntries: 'Meaning of its entries',
  chooseAnotherFile: 'Choose another file',
  chooseAFile: 'Choose a file',
  readingTheCalendar: 'Reading the calendar…',
  importTheSameCalendarAgain: 'Import the same calendar again later to update its days. Entries for the next two years are used.',
  forExample093012:
    'For example 09:30-12:00, 13:00-18:00. 22:00-06:00 ends the next day. sunset-sunrise follows the sun. Empty means closed.',
  workdays: 'Workdays',
  weekend: 'Weekend',
  everyDay: 'Every day',
  done: 'Done',
  onAt: 'On at',
  theSameOn: 'The same on',
  exceptions: 'Exceptions',
  noneEveryWeekIsThe: 'None. Every week is the same.',
  onePastDay: 'One past day',
  pastDays: (count: string | number) => `${count} past days`,
  addADay: 'Add a day',
  exception: 'Exception',
  day: 'Day',
  thisDayIsAlreadyIn: 'This day is already in the list. Change it there.',
  nameOptional: 'Name (optional)',
  remove: 'Remove',
  scheduleNotFound: 'Schedule not found.',
  chooseAnotherFromTheList: 'Choose another from the list.',
  saved: (trim: string | number) => `${trim} saved.`,
  removed: (name: string | number) => `${name} removed.`,
  undo: 'Undo',
  newSchedule: 'new schedule',
  on: 'On',
  off: 'Off',
  name: 'Name',
  required: 'Required.',
  theOppositeOfItChanges: (outside: string | number) => `The opposite of ${outside}. It changes with it.`,
  aWeek: (lengthWords: string | number) => `${lengthWords} a week`,
  startFrom: 'Start from',
  redo: 'Redo',
  weeklySchedule: 'Weekly schedule',
  exactTimes: (slice: string | number) => `${slice}: exact times`,
  dragToSetTheActive: 'Drag to set the active hours. Tap a day’s name for exact times.',
  from: (calendar: string | number) => `from ${calendar}`,
  now: (off: string | number, zone: string | number) => `${off} now${zone}`,
  to: (first: Filled, last: Filled) => `${first} to ${last}`,
  to2: (which: Filled, clockText: string | number, clockText2: string | number, on: string | number) =>
    `${which} ${clockText} to ${clockText2}: ${on}`,
} as const;
