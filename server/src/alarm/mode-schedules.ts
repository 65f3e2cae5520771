// Modes that switch by plan. Looked at every second; a switch that fell due while the program was not running is taken up at its start.

import { makeSwitchPlan, nextSwitch, type PlannedSwitch, type SwitchPlan } from '@nibber/core/modes';
import type { Clock } from '../base/clock';
import type { SiteBook } from '../db/site';

const aWeekMs = 7 * 86_400_000;

export type ModeSchedules = { tick(): Promise<void> };

export function startModeSchedules(site: SiteBook, clock: Clock): ModeSchedules {
  let busy = false;
  return {
    async tick() {
      if (busy) return;
      busy = true;
      try {
        for (const { area, mode } of dueSwitches(site, clock.now())) await site.setMode(area, mode, { name: 'the plan' });
      } finally {
        busy = false;
      }
    },
  };
}

/** For each area the last switch that fell due since its mode was set: a person's command holds until the next one. */
function dueSwitches(site: SiteBook, now: number): { area: string; mode: string }[] {
  const { timezone: zone, latitude, longitude } = site.file.site;
  return (site.file.modeSchedules ?? []).flatMap((entry) => {
    const plan = makeSwitchPlan({ zone, latitude, longitude }, entry);
    return entry.areas.flatMap((area) => {
      const current = site.modes.find((m) => m.area === area)!;
      const last = lastSwitch(plan, Math.max(current.since, now - aWeekMs), now);
      return last ? [{ area, mode: last.mode }] : [];
    });
  });
}

function lastSwitch(plan: SwitchPlan, after: number, until: number): PlannedSwitch | undefined {
  let found: PlannedSwitch | undefined;
  for (let next = nextSwitch(plan, after); next && next.at <= until; next = nextSwitch(plan, next.at)) found = next;
  return found;
}
