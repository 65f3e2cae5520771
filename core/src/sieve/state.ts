// What the sieve remembers between inputs. Callers pass it in and use the returned one.

import { classOf, type ClassName } from '../boxes';
import type { CompiledRule, CompiledSite } from '../site';
import type { Instant } from '../time';
import { newTracker, type Track, type Tracker } from '../tracks';
import { isMomentary, startDoing, type Doing } from './behaviour';
import { gatesToAsk } from './ask';
import { type Asked, type Now } from './gate';
import type { Presence } from './presence';
import type { Trail } from './words';

export type SieveState = {
  readonly trackers: Map<string, Tracker>;
  readonly memories: Map<Track, TrackMemory>;
  /** rule and camera → how long its number has been as asked */
  readonly watches: Map<string, NumberWatch>;
  /** area → its modes, oldest first */
  readonly modes: Map<string, { readonly since: Instant; readonly mode: string }[]>;
  /** person → whether they are there */
  readonly home: Map<string, boolean>;
  /** rule and camera (or sensor) → the last event let through */
  readonly lastEvents: Map<string, Instant>;
  /** area and class → the thread that may still be joined */
  readonly threads: Map<string, { readonly id: string; last: Instant }>;
  readonly scratch: SpotScratch;
  asking: Asking | undefined;
  compiledFor: CompiledSite | undefined;
};

/** What the gates may look at, kept so that nothing is made again for each picture. `source`: the camera or sensor at hand. */
export type Asking = { sourceName: string; readonly asked: Asked; now: Now };

/** What the rules know of one track: all of them in their order, and those to which something can still come of it. */
export type TrackMemory = { readonly all: RuleMemory[]; open: RuleMemory[] };

/** What one rule knows of one track. */
export type RuleMemory = {
  readonly current: CompiledRule;
  /** The rule as it stood when the track came furthest; settings may change while a track is open. */
  rule: CompiledRule;
  readonly asks: readonly number[];
  doing: Doing;
  /** The picture that came furthest: how many gates it passed, how near it came at the next, and what was seen then. */
  reached: number;
  near: number;
  now: Now | undefined;
  event: Trail | undefined;
  /** Nothing more can come of it. */
  isClosed: boolean;
};

export type NumberWatch = { presence: Presence | undefined; since: Instant | undefined; isNotified: boolean };

/** Answers for the box at hand, so that rules that look at the same zone ask once. `mark` changes with the box. */
export type SpotScratch = { mark: number; marks: Int32Array; inside: Uint8Array };

/** @param lastEvents when each rule last let something through on each camera, keyed by `ruleKey` */
export const startState = (
  modes: readonly (readonly [area: string, mode: string])[] = [],
  lastEvents: readonly (readonly [key: string, at: Instant])[] = [],
): SieveState => ({
  trackers: new Map(),
  memories: new Map(),
  watches: new Map(),
  modes: new Map(modes.map(([area, mode]) => [area, [{ since: -Infinity, mode }]])),
  home: new Map(),
  lastEvents: new Map(lastEvents),
  threads: new Map(),
  scratch: { mark: 0, marks: new Int32Array(64), inside: new Uint8Array(64) },
  asking: undefined,
  compiledFor: undefined,
});

export function trackerOf(state: SieveState, camera: string): Tracker {
  let tracker = state.trackers.get(camera);
  if (!tracker) state.trackers.set(camera, (tracker = newTracker()));
  return tracker;
}

/** What is the same for every track of a class: the gates that could refuse it, and the one that does so from the first (-1 for none). */
type Standing = { readonly asks: readonly number[]; readonly refusedAt: -1 | 0 | 1 };

const knownStandings = new WeakMap<CompiledRule, Map<ClassName, Standing>>();

function standingOf(rule: CompiledRule, cls: ClassName): Standing {
  let byClass = knownStandings.get(rule);
  if (!byClass) knownStandings.set(rule, (byClass = new Map()));
  let standing = byClass.get(cls);
  if (!standing) {
    const isMeant = [...rule.classes].some((name) => classOf(name) === cls);
    standing = { asks: gatesToAsk(rule, cls), refusedAt: !rule.on || !rule.watchesCamera ? 0 : isMeant ? -1 : 1 };
    byClass.set(cls, standing);
  }
  return standing;
}

/** The gates that could refuse a thing of this class; `other` for what is no track. */
export const gatesFor = (rule: CompiledRule, cls: ClassName): readonly number[] => standingOf(rule, cls).asks;

const nothingDone: Doing = { kind: 'reports', mark: -1, isInside: false, whereabouts: undefined };

/** A rule that is off, looks elsewhere or never means such a thing has nothing to say of a track from the first. */
function startMemory(rule: CompiledRule, cls: ClassName, others: readonly RuleMemory[]): RuleMemory {
  const { asks, refusedAt } = standingOf(rule, cls);
  const isClosed = refusedAt >= 0;
  const shared = others[rule.behaviourAs];
  return {
    current: rule,
    rule,
    asks,
    doing: isClosed ? nothingDone : shared && !shared.isClosed ? shared.doing : startDoing(rule.behaviour),
    reached: refusedAt,
    near: -Infinity,
    now: undefined,
    event: undefined,
    isClosed,
  };
}

const withOpen = (all: RuleMemory[]): TrackMemory => ({ all, open: all.filter((m) => !m.isClosed) });

export function memoryOf(state: SieveState, track: Track, rules: readonly CompiledRule[]): TrackMemory {
  let memory = state.memories.get(track);
  if (memory) return memory;
  const all: RuleMemory[] = [];
  for (const rule of rules) all.push(startMemory(rule, track.class, all));
  state.memories.set(track, (memory = withOpen(all)));
  return memory;
}

const maxModesKept = 8;

export function setMode(state: SieveState, area: string, mode: string, at: Instant): void {
  const known = state.modes.get(area);
  if (!known) return void state.modes.set(area, [{ since: at, mode }]);
  known.push({ since: at, mode });
  if (known.length > maxModesKept) known.shift();
}

/** The mode of an area at an instant: cameras take turns, so a picture may come in after a change that it was taken before. */
export function modeAt(state: SieveState, site: CompiledSite, area: string, at: Instant): string {
  const known = state.modes.get(area);
  if (!known) return site.firstMode;
  for (let i = known.length - 1; i >= 0; i--) if (known[i]!.since <= at) return known[i]!.mode;
  return known.length < maxModesKept ? site.firstMode : known[0]!.mode;
}

/** Settings changed while tracks are open: what a rule remembers stays with it where its behaviour is the same, and starts again where not. */
export function takeSettings(state: SieveState, site: CompiledSite): void {
  const before = state.compiledFor;
  state.compiledFor = site;
  if (!before) return;
  for (const [cameraId, tracker] of state.trackers) {
    const camera = site.cameras.get(cameraId);
    const old = before.cameras.get(cameraId);
    for (const track of tracker.tracks) {
      const memories = state.memories.get(track);
      if (!memories) continue;
      if (!camera) state.memories.delete(track);
      else
        state.memories.set(
          track,
          withOpen(
            camera.rules.map((rule) => {
              const memory = memories.all.find((m) => m.rule.id === rule.id);
              const oldRule = old?.rules.find((r) => r.id === rule.id);
              if (!memory || !oldRule) return startMemory(rule, track.class, []);
              const wasRefused = memory.isClosed && memory.event === undefined;
              if (wasRefused) return startMemory(rule, track.class, []);
              const doing = doesTheSame(oldRule, rule) ? memory.doing : startDoing(rule.behaviour);
              const fresh = startMemory(rule, track.class, []);
              return {
                ...memory,
                current: rule,
                asks: fresh.asks,
                doing,
                isClosed: fresh.isClosed || (memory.event !== undefined && isOnce(rule)),
              };
            }),
          ),
        );
    }
    for (const rule of camera?.rules ?? []) {
      const oldRule = old?.rules.find((r) => r.id === rule.id);
      if (oldRule && !doesTheSame(oldRule, rule)) state.watches.delete(rule.key);
    }
  }
}

/** Whether one event of a track is all there can be by a rule. */
export const isOnce = (rule: CompiledRule): boolean => !rule.isCounted && !isMomentary(rule.behaviour);

const doesTheSame = (a: CompiledRule, b: CompiledRule): boolean =>
  JSON.stringify([a.behaviour, a.anchor]) === JSON.stringify([b.behaviour, b.anchor]);
