// Which rule is on in which mode: the one table of it, and what is wrong in it.

import { weekOf } from '../schedules';
import { compileSchedule, type Rule, type SiteFile } from '../site';
import { makeSwitchPlan, switchesOf } from './mode-schedules';

export type Table = {
  readonly modes: readonly { readonly id: string; readonly name: string; readonly armed: boolean }[];
  readonly rows: readonly { readonly rule: string; readonly name: string; readonly isOn: readonly boolean[] }[];
};

const isOnIn = (rule: Rule, mode: string): boolean => (rule.on ?? true) && (rule.modes === undefined || rule.modes.includes(mode));

export function rulesByModes(site: SiteFile): Table {
  const modes = (site.modes ?? []).map(({ id, name, armed }) => ({ id, name, armed }));
  return { modes, rows: (site.rules ?? []).map((r) => ({ rule: r.id, name: r.name, isOn: modes.map((m) => isOnIn(r, m.id)) })) };
}

export type Warning = {
  readonly kind: 'armed-but-empty' | 'rule-in-no-mode' | 'schedule-never-meets-modes' | 'camera-in-no-rule';
  /** The id of the mode, rule or camera. */
  readonly about: string;
  readonly words: string;
  readonly hint: string;
};

export function warningsOf(site: SiteFile): Warning[] {
  const rules = (site.rules ?? []).filter((r) => r.on ?? true);
  return [
    ...(site.modes ?? [])
      .filter((m) => m.armed && !rules.some((r) => isOnIn(r, m.id)))
      .map((m): Warning => ({
        kind: 'armed-but-empty',
        about: m.id,
        words: `${m.name} arms, but no rule is active in it`,
        hint: `Turn on a rule in ${m.name}.`,
      })),
    ...rules
      .filter((r) => r.modes?.length === 0)
      .map((r): Warning => ({
        kind: 'rule-in-no-mode',
        about: r.id,
        words: `${r.name} is not active in any mode`,
        hint: 'Choose a mode for it, or switch it off.',
      })),
    ...rules
      .filter((r) => neverMeets(site, r))
      .map((r): Warning => ({
        kind: 'schedule-never-meets-modes',
        about: r.id,
        words: `${r.name} is never active: its schedule and its modes do not overlap`,
        hint: 'Change its schedule or modes, or the automatic mode changes.',
      })),
    ...site.cameras
      .filter((c) => !rules.some((r) => r.cameras.includes(c.id)))
      .map((c): Warning => ({
        kind: 'camera-in-no-rule',
        about: c.id,
        words: `${c.name} is in no rule`,
        hint: 'Add it to a rule, or it sends no alerts.',
      })),
  ];
}

/** Whether the hours of a rule are never on while any of its areas is in one of its modes, in a usual week. */
function neverMeets(site: SiteFile, rule: Rule): boolean {
  if (rule.schedule === undefined) return false;
  const on = weekOf(compileSchedule(site, rule.schedule).plan);
  if (!on.includes(1)) return true;
  if (rule.modes === undefined || rule.modes.length === 0) return false;
  const ids = [...rule.cameras, ...(rule.sensors ?? [])];
  const areas = new Set([...site.cameras, ...(site.sensors ?? [])].filter((s) => ids.includes(s.id)).map((s) => s.area));
  return [...areas].every((area) => {
    const modes = modesOfWeek(site, area);
    return modes !== undefined && !modes.some((mode, minute) => on[minute] === 1 && rule.modes!.includes(mode));
  });
}

/** The mode of an area at each minute of the usual week, Monday first; undefined where nothing switches it. */
export function modesOfWeek(site: SiteFile, area: string): string[] | undefined {
  const entry = site.modeSchedules?.find((s) => s.areas.includes(area));
  if (!entry) return undefined;
  const { timezone: zone, latitude, longitude } = site.site;
  // 1970-01-05 was a Monday; exceptions are left out.
  const plan = makeSwitchPlan({ zone, latitude, longitude }, { weekly: entry.weekly });
  const switches = Array.from({ length: 7 }, (_, day) =>
    switchesOf(plan, 4 + day).map((s) => ({ minute: day * 1440 + s.minute, mode: s.mode })),
  ).flat();
  if (switches.length === 0) return undefined;
  // The week goes round: what was last set on Sunday holds on Monday morning.
  let mode = switches.at(-1)!.mode;
  let next = 0;
  return Array.from({ length: 7 * 1440 }, (_, minute) => {
    while (next < switches.length && switches[next]!.minute <= minute) mode = switches[next++]!.mode;
    return mode;
  });
}
