// Readings and reminders in words.

import type { Reading, Reminder } from '@nibber/core/site';
import { listed } from '@nibber/core/words';
import type { Site } from '../../state/api/types';
import { duration } from '../../ui/times';
import { personWords, notifiesEverybody } from '../rules/wording';
import type { Filled } from '../../ui/texts';

type Value = string | number | boolean;

/** `11 canoes`, `yes`, `open`. */
export const valueWords = (value: Value, unit?: string): string =>
  typeof value === 'boolean' ? (value ? 'yes' : 'no') : `${value}${unit && typeof value === 'number' ? ` ${unit}` : ''}`;

/** Whether a number is not where it should be. */
export const isOff = ({ target }: Pick<Reading, 'target'>, value: Value): boolean =>
  typeof value === 'number' && target !== undefined && (value < (target.min ?? -Infinity) || value > (target.max ?? Infinity));

const dayNames = {
  mon: 'Monday',
  tue: 'Tuesday',
  wed: 'Wednesday',
  thu: 'Thursday',
  fri: 'Friday',
  sat: 'Saturday',
  sun: 'Sunday',
} as const;
export const dayChoices = (Object.keys(dayNames) as (keyof typeof dayNames)[]).map((value) => ({
  value,
  words: dayNames[value].slice(0, 3),
  testID: `day-${value}`,
}));
const daysWords = (days: readonly (keyof typeof dayNames)[]) =>
  ` on ${listed(
    days.map((d) => `${dayNames[d]}s`),
    'and',
  )}`;

type Schedule = Pick<Site, 'schedules' | 'modes'>;
const lower = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);

/** *at 18:30 and sunset + 30 min, every 30 min, on Mondays, during opening hours*. */
export function timesWords({ times }: Pick<Reading, 'times'>, site: Schedule): string {
  if (!times) return 'On request';
  const { at, everyMinutes, days, schedule, afterMode } = times;
  const parts = [
    ...(at ? [`at ${listed(at, 'and')}`] : []),
    ...(everyMinutes ? [`every ${duration(everyMinutes * 60)}`] : []),
    ...(afterMode
      ? [
          `${afterMode.minutes ? `${duration(afterMode.minutes * 60)} after` : 'when'} ${listed(
            afterMode.modes.map((m) => site.modes.find((k) => k.id === m)?.name ?? m),
            'or',
          )} is set`,
        ]
      : []),
  ];
  const named = schedule && site.schedules.find((h) => h.id === schedule)?.name;
  const words = `${parts.join(', ') || 'On request'}${days ? daysWords(days) : ''}${named ? `, ${/^(outside|during)/i.test(named) ? '' : 'during '}${lower(named)}` : ''}`;
  return words.charAt(0).toUpperCase() + words.slice(1);
}

export function isWords({ under, over, equal }: Reminder['is'], unit?: string): string {
  const said = [
    ...(under === undefined ? [] : [`under ${valueWords(under, unit)}`]),
    ...(over === undefined ? [] : [`over ${valueWords(over, unit)}`]),
    ...(equal === undefined ? [] : [valueWords(equal as Value)]),
  ];
  return listed(said, 'and') || 'what?';
}

/** *When Canoes on the rack is under 12 canoes at sunset + 30 min on open days, notify the owner, again every 15 min until resolved, at most until 22:00.* */
export function reminderWords(
  r: Reminder,
  reading: Pick<Reading, 'name' | 'unit'>,
  site: Pick<Site, 'schedules' | 'people' | 'receivers'>,
): string {
  const who = [...new Set(r.notify.map((t) => t.to))];
  const all = notifiesEverybody(r);
  const names = all ? ['everyone'] : who.map((to) => personWords(to, site));
  const open = r.openDays && site.schedules.find((h) => h.id === r.openDays)?.name;
  return [
    `When ${reading.name} is ${isWords(r.is, reading.unit)}`,
    r.forMinutes ? ` for ${duration(r.forMinutes * 60)}` : '',
    r.at ? ` at ${listed(r.at, 'and')}` : '',
    r.days ? daysWords(r.days) : '',
    open ? ` on days with ${lower(open)}` : '',
    `, notify ${listed(names, 'and')}`,
    r.againMinutes ? `, again every ${duration(r.againMinutes * 60)} until resolved` : '',
    r.until ? `, until ${r.until}` : '',
    '.',
  ].join('');
}

/** Times as people write them, `18:30, sunset + 30 min`; what is wrong with one. */
export function timesIn(text: string): { readonly at: string[]; readonly wrong?: string } {
  const at = text
    .split(',')
    .map((t) =>
      t
        .trim()
        .toLowerCase()
        .replace(/\s+/g, ' ')
        .replace(/ ?([+-]) ?/, ' $1 '),
    )
    .filter(Boolean);
  const wrong = at.find((t) => !/^([01]\d|2[0-3]):[0-5]\d$|^(sunrise|sunset)( [+-] \d{1,3} min)?$/.test(t));
  return wrong === undefined ? { at } : { at, wrong: `${wrong} is not a time. Use 18:30, sunset or sunset + 30 min.` };
}

/** What is written on the screens of this feature. */
export const texts = {
  readingNow: 'Reading…',
  readingsFromTo: (name: string | number, count: string | number, day: string | number, day2: string | number) =>
    `${name}, ${count} readings from ${day} to ${day2}`,
  noReadingsYet: 'No readings yet.',
  aReadingAnswersAQuestion:
    'A reading answers a question about a picture at set times: how many canoes are on the rack, or is the gate shut.',
  addAReading: 'Add a reading',
  settings: 'Settings',
  settingsOf: (name: string | number) => `Settings of ${name}`,
  notReadYet: 'Not read yet',
  noResult: 'No result',
  timeRange: (name: string | number) => `${name}: time range`,
  readNow: 'Read now',
  remind: 'Remind',
  addAReminderFor: (name: string | number) => `Add a reminder for ${name}`,
  change: 'Change',
  change2: (name: string | number) => `Change ${name}`,
  correctedByItWas: (correctedBy: Filled, value: string | number) => `corrected by ${correctedBy}; it was ${value}`,
  pictureTaken: (when: string | number) => `picture taken ${when}`,
  correct: 'Correct',
  undoCorrection: 'Undo correction',
  itWas: 'It was',
  cancel: 'Cancel',
  save: 'Save',
  aNumber: 'A number',
  yesOrNo: 'Yes or no',
  oneOf: 'One of',
  words: 'Words',
  enterAName: 'Enter a name.',
  enterAQuestion: 'Enter a question.',
  enterAtLeastTwoOptions: 'Enter at least two options.',
  aReading: 'A reading',
  name: 'Name',
  canoesOnTheRack: 'Canoes on the rack',
  camera: 'Camera',
  readBy: 'Read by',
  aiService: 'AI service',
  theDetector: 'The detector',
  question: 'Question',
  howManyCanoesAreOn: 'How many canoes are on the rack?',
  whatItIs: 'What it is',
  openClosedAjar: 'open, closed, ajar',
  countsRecognisedObjectsNothingIs: 'Counts recognised objects. Nothing is sent to an AI service.',
  whatToCount: 'What to count',
  where: 'Where',
  whereToCount: 'Where to count',
  theWholePicture: 'The whole picture',
  countedIn: 'Counted in',
  atLeast: 'At least',
  lowerValuesAreDiscarded: 'Lower values are discarded.',
  atMost: 'At most',
  normalRangeFrom: 'Normal range from',
  normalRangeTo: 'Normal range to',
  readingTimes: 'Reading times',
  atTheseTimes: 'At these times',
  n1830Sunset30Min: '18:30, sunset + 30 min',
  intervalMinutes: 'Interval, minutes',
  onTheseDays: 'On these days',
  while: 'While',
  duringThisSchedule: 'During this schedule',
  atAnyTime: 'At any time',
  afterAModeChange: 'After a mode change',
  no: 'No',
  delayMinutes: 'Delay, minutes',
  wasRemoved: (name: string | number) => `${name} was removed.`,
  under: 'Under',
  over: 'Over',
  exactly: 'Exactly',
  aReminder: 'A reminder',
  titleOfTheAlert: 'Title of the alert',
  whenItIs: 'When it is',
  number: 'Number',
  yes: 'Yes',
  checkAtTheseTimes: 'Check at these times',
  sunset30MinIfEmpty: 'sunset + 30 min. If empty: at every reading.',
  repeatIntervalMinutes: 'Repeat interval, minutes',
  repeatsUntilResolvedIfEmpty: 'Repeats until resolved. If empty: once.',
  until: 'Until',
  onDaysWith: 'On days with',
  daysInThisSchedule: 'Days in this schedule',
  everyDay: 'Every day',
  urgent: 'Urgent',
  ignoresQuietHoursAndSnooze: 'ignores quiet hours and snooze',
  recipients: 'Recipients',
  reminderRemoved: (name: string | number) => `${name}: reminder removed.`,
  saved: (name: string | number) => `${name} saved.`,
  next: (clock: string | number) => `next ${clock}`,
  sent: (ago: string | number) => `Sent ${ago}.`,
} as const;
