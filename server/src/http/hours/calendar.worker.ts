// Reads a calendar file (iCalendar, RFC 5545) as exceptions of a plan. A thread of its own, since one may go on for ever.

import { exceptionsFrom, occurrences, type DayException } from '@nibber/core/calendar';
import { makePlan, minutesOf, type PlanPlace, type PlanText } from '@nibber/core/hours';
import { Trouble } from '@nibber/core/trouble';

export type Calendar = {
  readonly text: string;
  readonly place: PlanPlace;
  /** What is on in a usual week. */
  readonly weekly: PlanText['weekly'];
  readonly meaning: 'closed' | 'open';
  /** Days, both included. */
  readonly from: string;
  readonly to: string;
};

export type Answer = { readonly exceptions: readonly DayException[] } | { readonly message: string; readonly remedy: string };

export default function answer({ text, place, weekly, meaning, from, to }: Calendar): Answer {
  try {
    const plan = makePlan(place, { weekly: weekly ?? {} });
    const found = occurrences(text, place.zone, from, to);
    return { exceptions: exceptionsFrom(found, meaning, (day) => minutesOf(plan, day)).filter((e) => e.date >= from && e.date <= to) };
  } catch (thrown) {
    const isOurs = thrown instanceof Trouble;
    return {
      message: isOurs ? thrown.message : 'This calendar cannot be read.',
      remedy: isOurs ? thrown.remedy : 'Save it again as an iCalendar file (.ics).',
    };
  }
}
