// Applies settings to a recording whose objects were tracked: what would have fired, and why the rest would not.

import { startState, step, stepFollowed, type GateName, type Outcome, type SieveState } from '../sieve';
import type { CompiledSite } from '../site';
import type { Instant } from '../time';
import { turnBack, type Followed } from './followed';

/** An event as both runs know it. `track` is its name, `since` when it was first seen; undefined for zones and sensors. */
export type RehearsedEvent = {
  readonly at: Instant;
  readonly rule: string;
  readonly source: string;
  readonly track: string | undefined;
  readonly since: Instant | undefined;
};

export type Stop = { readonly gate: GateName; readonly why: string };

/** What settings make of a recording, by what tells one event from another. */
export type Notified = {
  readonly events: ReadonlyMap<string, RehearsedEvent>;
  /** Why there is no such event; undefined where there was no trail for it. */
  readonly stopOf: (key: string) => Stop | undefined;
};

/** Of a track; of zones and sensors each moment is one. Names come again after a while, with another beginning. */
const keyOf = (rule: string, source: string, track: { readonly name: string; readonly firstSeen: Instant } | undefined, at: Instant) =>
  track ? `${rule} ${source} ${track.firstSeen} ${track.name}` : `${rule} ${source} at ${at}`;

const occasion = ' #';
/** So many entries between two words of how far it is. */
const entriesAStep = 2000;

/** A generator, so that its caller can show progress and partial results, and stop it: each step is short. */
export function* judge(
  followed: readonly Followed[],
  site: CompiledSite,
): Generator<{ readonly done: number; readonly events: Notified['events'] }, Notified> {
  const events = new Map<string, RehearsedEvent>();
  const ended = new Map<string, Extract<Outcome, { kind: 'ended' }>>();
  let state: SieveState = startState();
  /** Several events of one track are distinguished by their number; what was fed twice, as after a kill, is one. */
  const freeKey = (key: string, at: Instant): string | undefined => {
    for (let n = 1; ; n++) {
      const numbered = n === 1 ? key : `${key}${occasion}${n}`;
      const known = events.get(numbered);
      if (!known) return numbered;
      if (known.at === at) return undefined;
    }
  };
  const note = (outcomes: readonly Outcome[]) => {
    for (const o of outcomes) {
      if (o.kind === 'ended') {
        const key = keyOf('', o.track.camera, o.track, o.at);
        // Where a track ended twice, as after a kill, the first end says why no alert was sent.
        if (!ended.has(key)) ended.set(key, o);
      } else if (o.kind === 'event') {
        const source = o.camera ?? o.sensor ?? '';
        const key = freeKey(keyOf(o.rule, source, o.track, o.at), o.at);
        if (key) events.set(key, { at: o.at, rule: o.rule, source, track: o.track?.name, since: o.track?.firstSeen });
      }
    }
  };
  for (let i = 0; i < followed.length; i++) {
    const entry = followed[i]!;
    if (entry.kind === 'frame') {
      const { frame } = entry;
      turnBack(entry);
      const outcomes = stepFollowed(site, state, frame);
      if (outcomes.length > 0) note(outcomes);
    } else if (entry.kind === 'input') note(step(site, state, entry.input).outcomes);
    else if (entry.kind === 'start') state = startState(entry.modes, entry.lasts);
    else for (const [key, at] of entry.lasts) state.lastEvents.set(key, Math.max(at, state.lastEvents.get(key) ?? -Infinity));
    if (i % entriesAStep === entriesAStep - 1) yield { done: i / followed.length, events };
  }
  return {
    events,
    stopOf(key) {
      const [rule = '', ...track] = key.split(occasion)[0]!.split(' ');
      const trail = ended.get(` ${track.join(' ')}`)?.trails.find((t) => t.rule === rule);
      return trail && trail.stoppedAt !== null ? { gate: trail.stoppedAt, why: trail.why } : undefined;
    },
  };
}

/** To its end at once. */
export function judged(followed: readonly Followed[], site: CompiledSite): Notified {
  const judging = judge(followed, site);
  for (;;) {
    const next = judging.next();
    if (next.done) return next.value;
  }
}
