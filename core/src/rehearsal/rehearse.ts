// Rehearsal: changed settings over what was recorded, run through the very sieve that runs live. What would be kept, gained and lost.

import type { GateName, Input } from '../sieve';
import type { CompiledSite } from '../site';
import { dateText, wallTime, type Instant } from '../time';
import { startFollowing } from './followed';
import { judged, type Notified, type RehearsedEvent, type Stop } from './judge';

export type Difference = {
  readonly kept: readonly RehearsedEvent[];
  /** With the gate that stopped it before; undefined where there was no trail for it. */
  readonly gained: readonly (RehearsedEvent & { readonly before: Stop | undefined })[];
  /** With the gate that stops it now. */
  readonly lost: readonly (RehearsedEvent & { readonly now: Stop | undefined })[];
  readonly byRule: Readonly<Record<string, Counts>>;
  readonly byDay: Readonly<Record<string, Counts>>;
  /** How many of the lost each gate stops now, and how many of the gained it stopped before. */
  readonly byGate: Readonly<Partial<Record<GateName, { readonly lost: number; readonly gained: number }>>>;
};

export type Counts = { readonly kept: number; readonly gained: number; readonly lost: number };

/**
 * Two settings over the same recording, side by side.
 * @param inputs in order of time
 */
export function rehearse(before: CompiledSite, after: CompiledSite, inputs: readonly Input[]): Difference {
  const following = startFollowing();
  let latest = -Infinity;
  following.take({ order: 0, kind: 'start', at: latest, modes: [], lasts: [] });
  for (const input of inputs) {
    following.take({ order: 0, kind: 'input', input });
    latest = instantOf(input);
  }
  if (latest > -Infinity) following.take({ order: 0, kind: 'input', input: { kind: 'end', at: latest } });
  return difference(before.zone, judged(following.followed, before), judged(following.followed, after));
}

/** @param zone days are those of this time zone */
export function difference(zone: string, before: Notified, after: Notified): Difference {
  const kept: RehearsedEvent[] = [];
  const lost: (RehearsedEvent & { now: Stop | undefined })[] = [];
  for (const [key, event] of before.events) {
    if (after.events.has(key)) kept.push(event);
    else lost.push({ ...event, now: after.stopOf(key) });
  }
  const gained = [...after.events]
    .filter(([key]) => !before.events.has(key))
    .map(([key, event]) => ({ ...event, before: before.stopOf(key) }));
  return { kept, gained, lost, ...counted(zone, kept, gained, lost) };
}

function instantOf(input: Input): Instant {
  switch (input.kind) {
    case 'frame':
      return input.frame.at;
    case 'sensor':
      return input.report.at;
    case 'mode':
    case 'presence':
      return input.change.at;
    default:
      return input.at;
  }
}

function counted(zone: string, kept: readonly RehearsedEvent[], gained: Difference['gained'], lost: Difference['lost']) {
  const byRule: Record<string, { kept: number; gained: number; lost: number }> = {};
  const byDay: typeof byRule = {};
  const byGate: Partial<Record<GateName, { lost: number; gained: number }>> = {};
  const count = (events: readonly RehearsedEvent[], what: 'kept' | 'gained' | 'lost') => {
    for (const e of events) {
      (byRule[e.rule] ??= { kept: 0, gained: 0, lost: 0 })[what]++;
      (byDay[dateText(wallTime(zone, e.at).day)] ??= { kept: 0, gained: 0, lost: 0 })[what]++;
    }
  };
  count(kept, 'kept');
  count(gained, 'gained');
  count(lost, 'lost');
  for (const { now } of lost) if (now) (byGate[now.gate] ??= { lost: 0, gained: 0 }).lost++;
  for (const { before } of gained) if (before) (byGate[before.gate] ??= { lost: 0, gained: 0 }).gained++;
  return { byRule, byDay, byGate };
}
