// A plan of switching as people say it: each turn a time, a mode, and the days on which it is so. The file has it day by day.

import { endText, parseEnd, weekdayKeys } from '../schedules';
import type { SiteFile } from '../site';
import { parseSwitch } from './mode-schedules';

type Weekly = NonNullable<SiteFile['modeSchedules']>[number]['weekly'];

/** `days`: 0 is Monday. */
export type ModeSwitch = { readonly at: string; readonly mode: string; readonly days: readonly number[] };

const keyOf = (modeSwitch: Pick<ModeSwitch, 'at' | 'mode'>) => `${modeSwitch.at} ${modeSwitch.mode}`;

/** In the order of the first day and time at which each is. */
export function modeSwitchesOf(weekly: Weekly): ModeSwitch[] {
  const modeSwitches = new Map<string, { at: string; mode: string; days: number[] }>();
  weekdayKeys.forEach((day, i) => {
    for (const text of weekly[day] ?? []) {
      const parsed = parseSwitch(text);
      if (!parsed) continue;
      const modeSwitch = { at: endText(parsed.at), mode: parsed.mode, days: [i] };
      const known = modeSwitches.get(keyOf(modeSwitch));
      if (!known) modeSwitches.set(keyOf(modeSwitch), modeSwitch);
      else if (!known.days.includes(i)) known.days.push(i);
    }
  });
  return [...modeSwitches.values()];
}

/** Days without a turn are left out. */
export function weeklyOf(modeSwitches: readonly ModeSwitch[]): Weekly {
  const entries = weekdayKeys.map((day, i) => [day, [...new Set(modeSwitches.filter((t) => t.days.includes(i)).map(keyOf))]] as const);
  return Object.fromEntries(entries.filter(([, switches]) => switches.length > 0)) as Weekly;
}

/** A time of a turn as it is kept: `9:30` and `sunset+30min` are `09:30` and `sunset + 30 min`; undefined where it is none. */
export function switchTime(text: string): string | undefined {
  const tidy = text
    .trim()
    .toLowerCase()
    .replace('−', '-')
    .replace(/^(\d):/, '0$1:')
    .replace(/\s*([+-])\s*(\d+)\s*min(utes)?$/, ' $1 $2 min');
  const end = parseEnd(tidy);
  return end === undefined || end === 1440 ? undefined : endText(end);
}
