// What the days on which the clocks change do to a plan.

import { isOn, isOnAt, type Plan } from './plan';
import { clockChangeOn, clockStep, dayMs, startOfDay, wallTime, type Instant } from '../time';

export type ClockDay = {
  readonly day: number;
  readonly at: Instant;
  /** By how much the clocks go ahead, minutes; below 0: back. */
  readonly step: number;
  /** How long the plan is on from midnight to midnight, minutes; and how long it would be if the clocks stayed. */
  readonly onMinutes: number;
  readonly defaultMinutes: number;
};

/** The clock changes of the days that follow an instant, in order. */
export function clockDays(plan: Plan, from: Instant, days = 366): ClockDay[] {
  const found: ClockDay[] = [];
  for (let begin = Math.floor(from / dayMs) * dayMs; begin < from + days * dayMs; begin += dayMs) {
    if (!changesAfter(plan.zone, begin)) continue;
    const first = wallTime(plan.zone, begin).day;
    for (const day of [first, first + 1]) {
      const at = clockChangeOn(plan.zone, day);
      if (at !== undefined && at > Math.max(begin, from) && at <= Math.min(begin + dayMs, from + days * dayMs))
        found.push(knownDay(plan, day, at));
    }
  }
  return found;
}

const dayMinutes = 1440;

/** Whether a zone's clocks change within the 24 hours from a midnight of UTC; kept, since the zone data is slow to answer. */
const steps = new Map<string, boolean>();
const maxSteps = 4000;
function changesAfter(zone: string, begin: Instant): boolean {
  const key = `${zone} ${begin}`;
  let found = steps.get(key);
  if (found === undefined) {
    if (steps.size >= maxSteps) steps.clear();
    steps.set(key, (found = clockStep(zone, begin, begin + dayMs) !== 0));
  }
  return found;
}

/** Kept by plan: minute after minute is looked at. */
const known = new WeakMap<Plan, Map<number, ClockDay>>();
function knownDay(plan: Plan, day: number, at: Instant): ClockDay {
  let days = known.get(plan);
  if (!days) known.set(plan, (days = new Map()));
  let found = days.get(day);
  if (!found) days.set(day, (found = clockDay(plan, day, at)));
  return found;
}

function clockDay(plan: Plan, day: number, at: Instant): ClockDay {
  const step = clockStep(plan.zone, at - 60_000, at);
  let [onMinutes, defaultMinutes] = [0, 0];
  for (let minute = 0; minute < dayMinutes; minute++) if (isOnAt(plan, { day, minute })) defaultMinutes++;
  const end = startOfDay(plan.zone, day + 1);
  for (let instant = startOfDay(plan.zone, day); instant < end; instant += 60_000) if (isOn(plan, instant)) onMinutes++;
  return { day, at, step, onMinutes, defaultMinutes };
}
