// The sieve: time-ordered inputs in, events and trails out. `(site, state, input) → (state, outcomes)`; it looks at no clock.

import type { Box, ClassName, TypeName } from '../boxes';
import type { ModeChange } from '../detections';
import type { CompiledCamera, CompiledRule, CompiledSite } from '../site';
import type { Instant } from '../time';
import { endings, follow, isReal, newTracker, predicted, usualTracker, type Frame, type Track, type Tracker } from '../tracks';
import { note, startDoing, type Doing } from './behaviour';
import { gates, type Asked, type GateName, type Verdict } from './gates';
import { stepOf, whyOf, type Step } from './words';

export { gateNames, gates, type GateName } from './gates';
export type { Step } from './words';

export type Input =
  | { readonly kind: 'frame'; readonly frame: Frame }
  | { readonly kind: 'mode'; readonly change: ModeChange }
  /** Time has come this far on every camera. */
  | { readonly kind: 'clock'; readonly at: Instant }
  /** Nothing more will come: every track ends. */
  | { readonly kind: 'end'; readonly at: Instant };

/** A track as others see it. */
export type TrackView = {
  readonly camera: string;
  readonly key: string;
  readonly name: string;
  readonly class: ClassName;
  readonly type?: TypeName | undefined;
  readonly score: number;
  readonly box: Box;
  readonly firstSeen: Instant;
  readonly lastSeen: Instant;
};

/** What was decided about one track by one rule, gate by gate as far as it came. `stoppedAt` is null where it became an event. */
export type Trail = {
  readonly rule: string;
  readonly stoppedAt: GateName | null;
  readonly why: string;
  readonly at: Instant;
  readonly steps: readonly Step[];
};

export type Outcome =
  | { readonly kind: 'event'; readonly at: Instant; readonly rule: string; readonly track: TrackView; readonly trail: Trail }
  | { readonly kind: 'ended'; readonly at: Instant; readonly track: TrackView; readonly trails: readonly Trail[] };

/** Belongs to whoever steps: hand it in, and use the one that comes back. */
export type SieveState = {
  readonly trackers: Map<string, Tracker>;
  readonly memories: Map<Track, RuleMemory[]>;
  readonly modes: Map<string, string>;
  /** rule and camera → the last event let through */
  readonly lastEvents: Map<string, Instant>;
  compiledFor: CompiledSite | undefined;
};

type RuleMemory = {
  /** The rule as it stood when the track came furthest; settings may change while a track is open. */
  rule: CompiledRule;
  doing: Doing;
  /** The picture that came furthest: how many gates it passed, how near it came at the next. */
  reached: number;
  near: number;
  at: Instant;
  verdicts: readonly Verdict[];
  event: Trail | undefined;
};

/** @param lastEvents when each rule last let something through on each camera, keyed by `eventKey` */
export const startState = (
  modes: readonly (readonly [area: string, mode: string])[] = [],
  lastEvents: readonly (readonly [key: string, at: Instant])[] = [],
): SieveState => ({
  trackers: new Map(),
  memories: new Map(),
  modes: new Map(modes),
  lastEvents: new Map(lastEvents),
  compiledFor: undefined,
});

export const eventKey = (rule: string, camera: string): string => `${rule} ${camera}`;

/** Takes one input in. Inputs come in order of time. @throws never for inputs that name cameras of the site; others are passed over */
export function step(site: CompiledSite, state: SieveState, input: Input): { state: SieveState; outcomes: Outcome[] } {
  const outcomes: Outcome[] = [];
  if (state.compiledFor !== site) takeSettings(state, site);
  switch (input.kind) {
    case 'mode':
      state.modes.set(input.change.area, input.change.mode);
      break;
    case 'frame':
      takeFrame(site, state, input.frame, outcomes);
      break;
    case 'clock':
      for (const [id, tracker] of state.trackers) endTracks(site, state, id, endings(tracker, input.at), input.at, outcomes);
      break;
    case 'end':
      for (const [id, tracker] of state.trackers) {
        endTracks(site, state, id, tracker.tracks, input.at, outcomes);
        tracker.tracks = [];
      }
  }
  return { state, outcomes };
}

/** The tracks that are being followed on a camera; with `at`, each where it should be by then. */
export const openTracks = (state: SieveState, camera: string, at?: Instant): TrackView[] =>
  (state.trackers.get(camera)?.tracks ?? [])
    .filter((t) => isReal(t, usualTracker))
    .map((t) => view(camera, t, at === undefined ? t.box : predicted(t, at)));

const view = (camera: string, t: Track, box: Box = t.box): TrackView => ({
  camera,
  key: t.key,
  name: t.name,
  class: t.class,
  type: t.type,
  score: t.score,
  box,
  firstSeen: t.firstSeen,
  lastSeen: t.lastSeen,
});

function takeFrame(site: CompiledSite, state: SieveState, frame: Frame, outcomes: Outcome[]): void {
  const camera = site.cameras.get(frame.camera);
  if (!camera) return;
  let tracker = state.trackers.get(frame.camera);
  if (!tracker) state.trackers.set(frame.camera, (tracker = newTracker()));
  const { seen, ended } = follow(tracker, frame);
  const mode = state.modes.get(camera.area) ?? site.firstMode;
  for (const track of seen) {
    let memories = state.memories.get(track);
    if (!memories) state.memories.set(track, (memories = camera.rules.map(startMemory)));
    const real = isReal(track, usualTracker);
    for (let i = 0; i < camera.rules.length; i++) {
      const rule = camera.rules[i]!;
      const memory = memories[i]!;
      if (memory.event) continue;
      if (rule.watchesCamera) note(memory.doing, rule.behaviour, rule.anchor, track, frame.at);
      if (real) askGates(site, state, camera, rule, memory, track, frame.at, mode, outcomes);
    }
  }
  endTracks(site, state, camera.id, ended, frame.at, outcomes);
}

const startMemory = (rule: CompiledRule): RuleMemory => ({
  rule,
  doing: startDoing(rule.behaviour),
  reached: -1,
  near: -Infinity,
  at: 0,
  verdicts: [],
  event: undefined,
});

function askGates(
  site: CompiledSite,
  state: SieveState,
  camera: CompiledCamera,
  rule: CompiledRule,
  memory: RuleMemory,
  track: Track,
  at: Instant,
  mode: string,
  outcomes: Outcome[],
): void {
  const key = eventKey(rule.id, camera.id);
  const asked: Asked = { site, camera, track, doing: memory.doing, at, mode, lastEvent: state.lastEvents.get(key) };
  const verdicts: Verdict[] = [];
  for (const gate of gates) {
    const verdict = gate.ask(rule, asked);
    verdicts.push(verdict);
    if (!verdict.passes) break;
  }
  const last = verdicts[verdicts.length - 1]!;
  const reached = last.passes ? gates.length : verdicts.length - 1;
  if (reached > memory.reached || (reached === memory.reached && last.near > memory.near))
    Object.assign(memory, { rule, reached, near: last.near, at, verdicts });
  if (!last.passes) return;
  state.lastEvents.set(key, at);
  memory.event = trailOf(site, memory);
  outcomes.push({ kind: 'event', at, rule: rule.id, track: view(camera.id, track), trail: memory.event });
}

function trailOf(site: CompiledSite, memory: RuleMemory): Trail {
  const { rule } = memory;
  const context = { site, at: memory.at };
  const steps = memory.verdicts.map((v, i) => stepOf(gates[i]!.name, v.passes, rule, v.found, context));
  const stopped = memory.reached < gates.length ? gates[memory.reached]!.name : null;
  const why = stopped === null ? 'It came through every gate' : whyOf(stopped, rule, memory.verdicts[memory.reached]!.found, context);
  return { rule: rule.id, stoppedAt: stopped, why, at: memory.at, steps };
}

function endTracks(
  site: CompiledSite,
  state: SieveState,
  cameraId: string,
  ended: readonly Track[],
  at: Instant,
  outcomes: Outcome[],
): void {
  for (const track of ended) {
    const memories = state.memories.get(track);
    state.memories.delete(track);
    const camera = site.cameras.get(cameraId);
    if (!memories || !camera || !isReal(track, usualTracker)) continue;
    const judged = memories.filter((m) => m.event || m.reached >= 0);
    const trails = judged.map((m) => m.event ?? trailOf(site, m));
    outcomes.push({ kind: 'ended', at, track: view(cameraId, track), trails });
  }
}

/** Settings changed while tracks are open: what a rule remembers stays with it where its behaviour is the same, and starts anew where not. */
function takeSettings(state: SieveState, site: CompiledSite): void {
  const before = state.compiledFor;
  state.compiledFor = site;
  if (!before) return;
  for (const [cameraId, tracker] of state.trackers) {
    const camera = site.cameras.get(cameraId);
    for (const track of tracker.tracks) {
      const memories = state.memories.get(track);
      if (!memories) continue;
      if (!camera) state.memories.delete(track);
      else
        state.memories.set(
          track,
          camera.rules.map((rule) => carryOver(rule, memories, before.cameras.get(cameraId))),
        );
    }
  }
}

function carryOver(rule: CompiledRule, memories: readonly RuleMemory[], before: CompiledCamera | undefined): RuleMemory {
  const memory = memories.find((m) => m.rule.id === rule.id);
  const old = before?.rules.find((r) => r.id === rule.id);
  if (!memory || !old) return startMemory(rule);
  const isSame =
    JSON.stringify(old.behaviour) === JSON.stringify(rule.behaviour) && JSON.stringify(old.anchor) === JSON.stringify(rule.anchor);
  return { ...memory, doing: isSame ? memory.doing : startDoing(rule.behaviour) };
}
