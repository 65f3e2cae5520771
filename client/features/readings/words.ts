// Readings and reminders in words.

import type { Reading, Reminder } from '@nibber/core/site';
import { listed } from '@nibber/core/words';
import type { Site } from '../../state/api/types';
import { duration } from '../../ui/times';
import { personWords, notifiesEverybody } from '../rules/wording';

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
export const dayChoices = (Object.keys(dayNames) as (keyof typeof dayNames)[]).map((value) => ({ value, words: dayNames[value].slice(0, 3), testID: `day-${value}` })); // prettier-ignore
const daysWords = (days: readonly (keyof typeof dayNames)[]) => ` on ${listed(days.map((d) => `${dayNames[d]}s`), 'and')}`; // prettier-ignore

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
      ? [`${afterMode.minutes ? `${duration(afterMode.minutes * 60)} after` : 'when'} ${listed(afterMode.modes.map((m) => site.modes.find((k) => k.id === m)?.name ?? m), 'or')} is set`] // prettier-ignore
      : []),
  ];
  const named = schedule && site.schedules.find((h) => h.id === schedule)?.name;
  const words = `${parts.join(', ') || 'On request'}${days ? daysWords(days) : ''}${named ? `, ${/^(outside|during)/i.test(named) ? '' : 'during '}${lower(named)}` : ''}`; // prettier-ignore
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

/** *When Canoes on the rack is under 12 canoes at sunset + 30 min on open days, tell the owner, again every 15 min until resolved, at most until 22:00.* */
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
  const at = text.split(',').map((t) => t.trim().toLowerCase().replace(/\s+/g, ' ').replace(/ ?([+-]) ?/, ' $1 ')).filter(Boolean); // prettier-ignore
  const wrong = at.find((t) => !/^([01]\d|2[0-3]):[0-5]\d$|^(sunrise|sunset)( [+-] \d{1,3} min)?$/.test(t));
  return wrong === undefined ? { at } : { at, wrong: `${wrong} is not a time. Use 18:30, sunset or sunset + 30 min.` };
}
