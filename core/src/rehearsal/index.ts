// Rehearsal: changed settings over what was recorded, run through the very sieve that runs live. What would be kept, gained and lost.

import { startState, step, type GateName, type Input, type Outcome, type SieveState, type TrackView, type Trail } from '../sieve';
import type { CompiledSite } from '../site';
import { dateText, wallTime, type Instant } from '../time';

export { eventKey, eventsIn } from './recorded';
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
 * Two settings over the same recording, side by side.
 * @param inputs in order of time; tracks have their recorded ids, each of one track alone
 */
export function rehearse(before: CompiledSite, after: CompiledSite, inputs: readonly Input[]): Difference {
  const [old, fresh] = [startRun(before), startRun(after)];
  const take = (input: Input) => {
    const [endedBefore, endedNow] = [advance(old, input), advance(fresh, input)];
    // Both follow the same tracks, so these end together; trails are read only where the two came to different ends.
    for (const { track, trails } of stopsOf(endedBefore, fresh)) noteStops(old, track, trails, fresh);
    for (const { track, trails } of stopsOf(endedNow, old)) noteStops(fresh, track, trails, old);
  };
  let latest = -Infinity;
  for (const input of inputs) {
    take(input);
    latest = instantOf(input);
  }
  if (latest > -Infinity) take({ kind: 'end', at: latest });
  const kept: RehearsedEvent[] = [];
  const lost: (RehearsedEvent & { now: Stop | undefined })[] = [];
  for (const [key, event] of old.events) {
    if (fresh.events.has(key)) kept.push(event);
    else lost.push({ ...event, now: fresh.stops.get(key) });
  }
  const gained = [...fresh.events]
    .filter(([key]) => !old.events.has(key))
    .map(([key, event]) => ({ ...event, before: old.stops.get(key) }));
  return { kept, gained, lost, ...counted(before.zone, kept, gained, lost) };
}

type Ended = Extract<Outcome, { kind: 'ended' }>;

type Run = {
  readonly site: CompiledSite;
  readonly state: SieveState;
  readonly events: Map<string, RehearsedEvent>;
  /** Tracks that made an event by any rule. */
  readonly told: Set<string>;
  /** Why a track made no event by a rule, where it does so in the other run. */
  readonly stops: Map<string, Stop>;
};

const startRun = (site: CompiledSite): Run => ({ site, state: startState(), events: new Map(), told: new Set(), stops: new Map() });

/** One rule makes one event of a track; of zones and sensors each moment is one. */
const keyOf = (rule: string, source: string, track: string | undefined, at: Instant) => `${rule} ${source} ${track ?? `at ${at}`}`;
const trackKey = (camera: string, track: string) => `${camera} ${track}`;

/** Takes one input in, and says which tracks ended with it. */
function advance(run: Run, input: Input): Ended[] {
  const { outcomes } = step(run.site, run.state, input);
  if (outcomes.length === 0) return nothing;
  const ended: Ended[] = [];
  for (const o of outcomes) {
    if (o.kind === 'ended') ended.push(o);
    if (o.kind !== 'event') continue;
    const source = o.camera ?? o.sensor ?? '';
    const key = keyOf(o.rule, source, o.track?.name, o.at);
    if (!run.events.has(key)) run.events.set(key, { at: o.at, rule: o.rule, source, track: o.track?.name });
    if (o.track) run.told.add(trackKey(source, o.track.name));
  }
  return ended;
}

const nothing: Ended[] = [];

const stopsOf = (ended: readonly Ended[], other: Run): readonly Ended[] =>
  ended.length === 0 ? nothing : ended.filter(({ track }) => other.told.has(trackKey(track.camera, track.name)));

function noteStops(run: Run, track: TrackView, trails: readonly Trail[], other: Run): void {
  for (const { rule, stoppedAt, why } of trails) {
    const key = keyOf(rule, track.camera, track.name, 0);
    if (stoppedAt !== null && other.events.has(key)) run.stops.set(key, { gate: stoppedAt, why });
  }
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
