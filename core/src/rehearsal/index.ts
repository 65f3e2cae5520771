// Rehearsal: changed settings over what was recorded, run through the very sieve that runs live. What would be kept, gained and lost.

import { startState, step, type GateName, type Input, type SieveEvent, type Trail } from '../sieve';
import type { CompiledSite } from '../site';
import { dateText, wallTime, type Instant } from '../time';

export { quieter, type Effect, type Mark, type Progress, type Proposal, type QuieterResult } from './quieter';

/** An event as both runs know it. `track` is the recorded id; undefined for zones and sensors. */
export type RehearsedEvent = {
  readonly at: Instant;
  readonly rule: string;
  readonly source: string;
  readonly track: string | undefined;
};

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
export type Stop = { readonly gate: GateName; readonly why: string };

/**
 * Two settings over the same recording.
 * @param inputs in order of time; tracks have their recorded ids, each of one track alone
 */
export function rehearse(before: CompiledSite, after: CompiledSite, inputs: readonly Input[]): Difference {
  const [old, fresh] = [runOver(before, inputs), runOver(after, inputs)];
  const kept: RehearsedEvent[] = [];
  const lost: (RehearsedEvent & { now: Stop | undefined })[] = [];
  for (const [key, event] of old.events) {
    if (fresh.events.has(key)) kept.push(event);
    else lost.push({ ...event, now: stopOf(fresh.trails.get(key)) });
  }
  const gained = [...fresh.events]
    .filter(([key]) => !old.events.has(key))
    .map(([key, event]) => ({ ...event, before: stopOf(old.trails.get(key)) }));
  return { kept, gained, lost, ...counted(before.zone, kept, gained, lost) };
}

const stopOf = (trail: Trail | undefined): Stop | undefined => (trail?.stoppedAt ? { gate: trail.stoppedAt, why: trail.why } : undefined);

type Run = { readonly events: Map<string, RehearsedEvent>; readonly trails: Map<string, Trail> };

/** One rule makes one event of a track; of zones and sensors each moment is one. */
const keyOf = (rule: string, source: string, track: string | undefined, at: Instant) => `${rule} ${source} ${track ?? `at ${at}`}`;

const rehearsed = ({ at, rule, camera, sensor, track }: SieveEvent): RehearsedEvent => ({
  at,
  rule,
  source: camera ?? sensor ?? '',
  track: track?.name,
});

function runOver(site: CompiledSite, inputs: readonly Input[]): Run {
  const events = new Map<string, RehearsedEvent>();
  const trails = new Map<string, Trail>();
  const state = startState();
  const take = (input: Input) => {
    for (const o of step(site, state, input).outcomes)
      if (o.kind === 'event') {
        const event = rehearsed(o);
        const key = keyOf(event.rule, event.source, event.track, event.at);
        if (!events.has(key)) events.set(key, event);
      } else if (o.kind === 'ended') for (const t of o.trails) trails.set(keyOf(t.rule, o.track.camera, o.track.name, 0), t);
  };
  let latest = -Infinity;
  for (const input of inputs) {
    take(input);
    latest = instantOf(input);
  }
  if (latest > -Infinity) take({ kind: 'end', at: latest });
  return { events, trails };
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
