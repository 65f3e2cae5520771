// The plan by which modes switch: times of the week, each with the mode from then on; odd days by date.

import { minuteOf, parseEnd, weekdayKeys, type End, type SiteLocation } from '../schedules';
import { dayOf, instantsAt, wallTime, type Instant } from '../time';

export type Switch = { readonly at: End; readonly mode: string };

export type SwitchPlan = {
  readonly place: SiteLocation;
  /** Monday first. */
  readonly weekly: readonly (readonly Switch[])[];
  readonly exceptions: ReadonlyMap<number, readonly Switch[]>;
};

export type PlannedSwitch = { readonly at: Instant; readonly mode: string };

/** `18:00 closed`, `sunset - 30 min night`; undefined where it is no switch. */
export function parseSwitch(text: string): Switch | undefined {
  const space = text.trim().lastIndexOf(' ');
  const at = space < 0 ? undefined : parseEnd(text.slice(0, space));
  const mode = text.trim().slice(space + 1);
  return at === undefined || at === 1440 || !/^[a-z0-9][a-z0-9-]*$/.test(mode) ? undefined : { at, mode };
}

type SwitchText = {
  readonly weekly: Readonly<Partial<Record<(typeof weekdayKeys)[number], readonly string[]>>>;
  readonly exceptions?: readonly { readonly date: string; readonly switches: readonly string[] }[];
};

/** @throws never for text whose switches all parse */
export function makeSwitchPlan(place: SiteLocation, text: SwitchText): SwitchPlan {
  const switches = (list: readonly string[] = []) => list.map(parseSwitch).filter((s): s is Switch => s !== undefined);
  return {
    place,
    weekly: weekdayKeys.map((key) => switches(text.weekly[key])),
    exceptions: new Map((text.exceptions ?? []).map((e) => [dayOf(e.date), switches(e.switches)])),
  };
}

/** The switches of a day, with their wall minutes, in order. */
export const switchesOf = (plan: SwitchPlan, day: number): { readonly minute: number; readonly mode: string }[] =>
  (plan.exceptions.get(day) ?? plan.weekly[(((day + 3) % 7) + 7) % 7]!)
    .map((s) => ({ minute: Math.min(1439, minuteOf(plan.place, day, s.at)), mode: s.mode }))
    .sort((a, b) => a.minute - b.minute);

/** A time that the clocks leave out comes when they have gone on; one that they show twice comes the first time. */
function instantOf(zone: string, day: number, minute: number): Instant {
  for (let m = minute; ; m++) {
    const found = instantsAt(zone, day + Math.floor(m / 1440), m % 1440)[0];
    if (found !== undefined) return found;
  }
}

const horizonDays = 400;

/** The first planned switch after an instant; undefined where none comes within 400 days. */
export function nextSwitch(plan: SwitchPlan, after: Instant): PlannedSwitch | undefined {
  const first = wallTime(plan.place.zone, after).day;
  for (let day = first; day < first + horizonDays; day++)
    for (const s of switchesOf(plan, day)) {
      const at = instantOf(plan.place.zone, day, s.minute);
      if (at > after) return { at, mode: s.mode };
    }
  return undefined;
}
