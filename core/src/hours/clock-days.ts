// What the days on which the clocks change do to a plan.

import { isOn, isOnAt, type Plan } from './plan';
import { clockChangeOn, clockStep, wallTime, type Instant } from '../time';

export type ClockDay = {
  readonly day: number;
  readonly at: Instant;
  /** By how much the clocks go ahead, minutes; below 0: back. */
  readonly step: number;
  /** How long the plan is on from midnight to midnight, minutes; and how long it would be if the clocks stayed. */
  readonly onMinutes: number;
  readonly usualMinutes: number;
};

/** The clock changes of the days that follow an instant, in order. */
export function clockDays(plan: Plan, from: Instant, days = 366): ClockDay[] {
  const found: ClockDay[] = [];
  for (let begin = from; begin < from + days * dayMs; begin += dayMs) {
    if (clockStep(plan.zone, begin, begin + dayMs) === 0) continue;
    const first = wallTime(plan.zone, begin).day;
    for (const day of [first, first + 1]) {
      const at = clockChangeOn(plan.zone, day);
      if (at !== undefined && at > begin && at <= begin + dayMs) found.push(clockDay(plan, day, at));
    }
  }
  return found;
}

const dayMs = 86_400_000;
const dayMinutes = 1440;

function clockDay(plan: Plan, day: number, at: Instant): ClockDay {
  const step = clockStep(plan.zone, at - 60_000, at);
  let [onMinutes, usualMinutes] = [0, 0];
  for (let minute = 0; minute < dayMinutes; minute++) if (isOnAt(plan, { day, minute })) usualMinutes++;
  // From well before its midnight to well after the next one, whatever the zone.
  for (let i = -2 * dayMinutes; i < 2 * dayMinutes; i++) {
    const instant = at + i * 60_000;
    if (wallTime(plan.zone, instant).day === day && isOn(plan, instant)) onMinutes++;
  }
  return { day, at, step, onMinutes, usualMinutes };
}
