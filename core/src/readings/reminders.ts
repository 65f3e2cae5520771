// Whether someone is to be reminded by what was read: from a time on or for so long, again and again, until it is not so any more.

import { minutesOf, weekdayKeys, type Plan, type SiteLocation } from '../schedules';
import type { Reminder } from '../site';
import { wallTime, type Instant } from '../time';
import { dueBetween, instantOf } from './times';
import type { Value } from './value';

/** What is remembered of one between readings. */
export type ReminderState = {
  /** It has been so since; null while it is not. */
  readonly since: Instant | null;
  readonly notifiedAt: Instant | null;
  /** It is being looked at since this set time; null while it is not time. */
  readonly from: Instant | null;
};
export const asleep: ReminderState = { since: null, notifiedAt: null, from: null };

export type ReminderSite = SiteLocation & { /** Of the hours that `openDays` names. */ readonly openDays?: Plan | undefined };

export function holds(is: Reminder['is'], value: Value): boolean {
  const { under, over, equal } = is;
  const asText = (v: Value) => (typeof v === 'boolean' ? (v ? 'yes' : 'no') : String(v).trim().toLowerCase());
  return (
    (under === undefined || (typeof value === 'number' && value < under)) &&
    (over === undefined || (typeof value === 'number' && value > over)) &&
    (equal === undefined || asText(value) === asText(equal as Value))
  );
}

/** Whether it is sent on this local day at all. */
function isOnDay({ days }: Pick<Reminder, 'days'>, { openDays }: ReminderSite, day: number): boolean {
  const weekday = weekdayKeys[(((day + 3) % 7) + 7) % 7]!;
  return (!days || days.includes(weekday)) && (!openDays || minutesOf(openDays, day).length > 0);
}

/** The latest set time up to now, of a reminder that has some, on a day on which it is sent. */
function dueFrom(reminder: Reminder, place: ReminderSite, now: Instant): Instant | undefined {
  const last = dueBetween({ at: reminder.at ?? [] }, place, now - 36 * 3_600_000, now).at(-1);
  return last !== undefined && isOnDay(reminder, place, wallTime(place.zone, last).day) ? last : undefined;
}

/** When it is no longer repeated, of the day on which it began. */
function endOf({ until }: Reminder, place: ReminderSite, from: Instant): Instant {
  if (until === undefined) return Infinity;
  const { day } = wallTime(place.zone, from);
  const end = instantOf(place, day, until) ?? Infinity;
  return end > from ? end : (instantOf(place, day + 1, until) ?? Infinity);
}

const minuteMs = 60_000;
/** What was due longer ago than this is not looked at any more. */
const stillDueMs = 15 * minuteMs;

/** Whether a new reading is needed now, by which it is decided. */
export function wantsReading(reminder: Reminder, place: ReminderSite, state: ReminderState, now: Instant): boolean {
  if (reminder.on === false) return false;
  if (reminder.at) {
    const due = dueFrom(reminder, place, now);
    if (due !== undefined && due > (state.from ?? -Infinity) && now - due < stillDueMs) return true;
  }
  const isOpen = reminder.at ? state.from !== null && state.since !== null : state.since !== null;
  const began = reminder.at ? (state.from ?? now) : (state.since ?? now);
  if (!isOpen || now > endOf(reminder, place, began)) return false;
  if (state.notifiedAt === null) return now - state.since! >= (reminder.forMinutes ?? 0) * minuteMs;
  return reminder.againMinutes !== undefined && now - state.notifiedAt >= reminder.againMinutes * minuteMs;
}

/**
 * Takes a reading in. Readings come in order of time.
 * @param reading what is known at an instant; of a picture that was old, the instant is that of the picture
 */
export function remind(
  reminder: Reminder,
  place: ReminderSite,
  state: ReminderState,
  { at, value }: { readonly at: Instant; readonly value: Value },
): { readonly state: ReminderState; readonly notifies: boolean } {
  if (reminder.on === false) return { state: asleep, notifies: false };
  const due = reminder.at ? dueFrom(reminder, place, at) : undefined;
  // One that was looked at in time stays due until it is over; one that was missed is.
  const from = due !== undefined && (due === state.from || at - due < stillDueMs) ? due : reminder.at ? null : state.from;
  const isNew = from !== state.from;
  const isActive = holds(reminder.is, value);
  if (!isActive) return { state: { since: null, notifiedAt: null, from }, notifies: false };
  const since = state.since ?? at;
  const notifiedAt = isNew ? null : state.notifiedAt;
  const begins = reminder.at ? from : since;
  const { day } = wallTime(place.zone, at);
  const isTime =
    begins !== null &&
    at <= endOf(reminder, place, begins) &&
    (reminder.at !== undefined || isOnDay(reminder, place, day)) &&
    at - since >= (reminder.forMinutes ?? 0) * minuteMs;
  const isAgain = notifiedAt === null || (reminder.againMinutes !== undefined && at - notifiedAt >= reminder.againMinutes * minuteMs);
  const notifies = isTime && isAgain;
  return { state: { since, notifiedAt: notifies ? at : notifiedAt, from }, notifies };
}
