// Reads a calendar file (iCalendar, RFC 5545) as exceptions of a plan. A thread of its own, since one may go on for ever.

import { exceptionsFrom, readCalendar, type DayException } from '@nibber/core/calendar';
import { makePlan, minutesOf, type SiteLocation, type PlanText } from '@nibber/core/schedules';
import { Problem } from '@nibber/core/problem';

export type Calendar = {
  readonly text: string;
  readonly place: SiteLocation;
  /** What is on in a usual week. */
  readonly weekly: PlanText['weekly'];
  readonly meaning: 'closed' | 'open';
  /** Days, both included. */
  readonly from: string;
  readonly to: string;
};

export type CalendarDays = { readonly exceptions: readonly DayException[]; readonly unread: readonly string[] };
export type Answer = CalendarDays | { readonly message: string; readonly hint: string };

export default function answer({ text, place, weekly, meaning, from, to }: Calendar): Answer {
  try {
    const plan = makePlan(place, { weekly: weekly ?? {} });
    const { occurrences, unread } = readCalendar(text, place.zone, from, to);
    const all = exceptionsFrom(occurrences, meaning, (day) => minutesOf(plan, day));
    return { exceptions: all.filter((e) => e.date >= from && e.date <= to), unread };
  } catch (thrown) {
    const isOurs = thrown instanceof Problem;
    return {
      message: isOurs ? thrown.message : 'This calendar could not be read.',
      hint: isOurs ? thrown.hint : 'Save it again as an iCalendar file (.ics).',
    };
  }
}
