// The sieve: time-ordered inputs in, events and trails out. `(site, state, input) → (state, outcomes)`; it looks at no clock.

import type { Box, ClassName, TypeName } from '../boxes';
import type { ModeChange, PresenceChange, SensorReport } from '../detections';
import type { CompiledCamera, CompiledRule, CompiledSite } from '../site';
import type { Instant } from '../time';
import { endings, follow, isReal, predicted, usualTracker, type Frame, type Track } from '../tracks';
import { isIn } from '../zones';
import { note } from './behaviour';
import { ask, bound, counts, gates, nearAtBound, see, startNow, type Asked, type Home } from './gates';
import { isConfirmed, notePresence } from './presence';
import {
  asksFor,
  modeAt,
  setMode,
  memoryOf,
  takeSettings,
  trackerOf,
  type Asking,
  type NumberWatch,
  type RuleMemory,
  type SieveState,
} from './state';
import { refusedTrail, trailOf, type Trail } from './words';

export { gateNames, gates, type GateName } from './gates';
export { startState, type SieveState } from './state';
export { explainTrail } from './explain';
export { likeness } from './looks';
export { framesWords, secondsText, type Step, type Trail } from './words';

export type Input =
  | { readonly kind: 'frame'; readonly frame: Frame }
  | { readonly kind: 'mode'; readonly change: ModeChange }
  | { readonly kind: 'sensor'; readonly report: SensorReport }
  | { readonly kind: 'presence'; readonly change: PresenceChange }
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

/** What came through: a track, or (`track` undefined) a zone's emptiness or low number, or a sensor. */
export type SieveEvent = {
  readonly kind: 'event';
  readonly at: Instant;
  readonly rule: string;
  readonly area: string;
  readonly camera: string | undefined;
  readonly sensor: string | undefined;
  readonly track: TrackView | undefined;
  /** The thread it belongs to; one that joins an open thread makes no new sound. */
  readonly thread: { readonly id: string; readonly joins: boolean };
  readonly trail: Trail;
};

export type Outcome =
  | SieveEvent
  | { readonly kind: 'ended'; readonly at: Instant; readonly track: TrackView; readonly trails: readonly Trail[] }
  /** What each rule of a sensor made of its report. */
  | { readonly kind: 'reported'; readonly at: Instant; readonly sensor: string; readonly trails: readonly Trail[] };

/**
 * Takes one input in. Inputs come in order of time.
 * @throws never for inputs that name cameras and sensors of the site; others are passed over
 */
export function step(site: CompiledSite, state: SieveState, input: Input): { state: SieveState; outcomes: Outcome[] } {
  const outcomes: Outcome[] = [];
  if (state.compiledFor !== site) takeSettings(state, site);
  switch (input.kind) {
    case 'frame':
      takeFrame(site, state, input.frame, outcomes);
      break;
    case 'mode':
      setMode(state, input.change.area, input.change.mode, input.change.at);
      break;
    case 'presence':
      state.home.set(input.change.person, input.change.home);
      break;
    case 'sensor':
      takeReport(site, state, input.report, outcomes);
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

type Source = { readonly id: string; readonly name: string; readonly area: string };

/** Points what the gates may look at to a camera or a sensor at an instant. One is kept with the state and filled anew for each input. */
function startAsking(site: CompiledSite, state: SieveState, source: Source, camera: CompiledCamera | undefined, at: Instant): Asking {
  const asking = (state.asking ??= newAsking(state));
  const { asked } = asking;
  asking.sourceName = source.name;
  asked.camera = camera;
  asked.track = undefined;
  asked.doing = undefined;
  asked.count = undefined;
  asked.mode = modeAt(state, site, source.area, at);
  asked.home = homeOf(state);
  return asking;
}

function newAsking(state: SieveState): Asking {
  const asking: Asking = {
    sourceName: '',
    now: startNow(),
    asked: {
      camera: undefined,
      track: undefined,
      doing: undefined,
      count: undefined,
      state: '',
      inSpot: (spot) => isInSpot(state, asking.asked.camera!, asking.asked.track!, spot),
      mode: '',
      home: 'unknown',
      lastEvent: (rule) => state.lastEvents.get(rule.key),
    },
  };
  return asking;
}

function homeOf({ home }: SieveState): Home {
  if (home.size === 0) return 'unknown';
  for (const isHome of home.values()) if (isHome) return 'somebody';
  return 'nobody';
}

function isInSpot({ scratch }: SieveState, camera: CompiledCamera, track: Track, spot: number): boolean {
  if (spot >= scratch.marks.length) {
    scratch.marks = new Int32Array(2 * spot);
    scratch.inside = new Uint8Array(2 * spot);
  }
  if (scratch.marks[spot] !== scratch.mark) {
    scratch.marks[spot] = scratch.mark;
    const { polygon, anchor } = camera.spots[spot]!;
    scratch.inside[spot] = isIn(polygon, track.box, anchor) ? 1 : 0;
  }
  return scratch.inside[spot] === 1;
}

function takeFrame(site: CompiledSite, state: SieveState, frame: Frame, outcomes: Outcome[]): void {
  const camera = site.cameras.get(frame.camera);
  if (!camera) return;
  const { seen, ended } = follow(trackerOf(state, frame.camera), frame);
  if (seen.length > 0 || camera.numbers.length > 0) {
    const asking = startAsking(site, state, camera, camera, frame.at);
    for (const track of seen) takeTrack(site, state, asking, camera, track, frame.at, outcomes);
    for (const i of camera.numbers) takeNumber(site, state, asking, camera, i, seen, frame.at, outcomes);
  }
  endTracks(site, state, camera.id, ended, frame.at, outcomes);
}

function turnTo(state: SieveState, asked: Asked, track: Track): void {
  asked.track = track;
  state.scratch.mark++;
}

function takeTrack(
  site: CompiledSite,
  state: SieveState,
  asking: Asking,
  camera: CompiledCamera,
  track: Track,
  at: Instant,
  outcomes: Outcome[],
): void {
  const { asked } = asking;
  turnTo(state, asked, track);
  const real = isReal(track, usualTracker);
  const memory = memoryOf(state, track, camera.rules);
  const { open } = memory;
  let hasClosed = false;
  for (let i = 0; i < open.length; i++) {
    const own = open[i]!;
    const rule = own.current;
    note(own.doing, state.scratch.mark, rule, track, at, asked.inSpot, camera.ground);
    if (rule.isCounted) noteCounted(asking, rule, own, track, at);
    else if (real) askTrack(site, state, asking, camera, own, at, outcomes);
    hasClosed ||= own.isClosed;
  }
  if (hasClosed) memory.open = open.filter((m) => !m.isClosed);
}

/** Asks the gates about the track at hand as it is seen now; what came furthest is remembered. Says whether it came through. */
function askTrack(
  site: CompiledSite,
  state: SieveState,
  asking: Asking,
  camera: CompiledCamera,
  memory: RuleMemory,
  at: Instant,
  outcomes: Outcome[],
): boolean {
  const { asked, now } = asking;
  const track = asked.track!;
  const rule = memory.current;
  asked.doing = memory.doing;
  now.at = at;
  const bounded = bound(rule, memory.doing, now, asked);
  if (bounded < memory.reached) return false;
  if (bounded === memory.reached && nearAtBound(rule, bounded, track.box, asked) <= memory.near) return false;
  see(now, asking.sourceName, track, at, asked);
  const reached = ask(rule, memory.asks, now, asked);
  const near = reached < gates.length ? gates[reached]!.near(rule, now, asked) : 0;
  if (reached > memory.reached || (reached === memory.reached && near > memory.near)) {
    memory.rule = rule;
    memory.reached = reached;
    memory.near = near;
    // What was seen stays with the memory, and what it held before is filled the next time: nothing is copied.
    asking.now = memory.now ?? startNow();
    memory.now = now;
  }
  if (reached < gates.length) return false;
  // One track, one event; of a number in a zone each occasion is one, whoever made it.
  memory.isClosed = !rule.isCounted;
  const trail = trailOf(site, rule, reached, now);
  memory.event ??= trail;
  outcomes.push(letThrough(site, state, camera, undefined, rule, track.class, at, view(camera.id, track), trail));
  return true;
}

function letThrough(
  site: CompiledSite,
  state: SieveState,
  camera: CompiledCamera | undefined,
  sensor: Source | undefined,
  rule: CompiledRule,
  cls: string,
  at: Instant,
  track: TrackView | undefined,
  trail: Trail,
): SieveEvent {
  const { area } = (camera ?? sensor)!;
  state.lastEvents.set(rule.key, at);
  const key = `${area} ${cls}`;
  const open = state.threads.get(key);
  const joins = open !== undefined && at - open.last <= (site.threadMs.get(area) ?? 0);
  const thread = joins ? open : { id: `${area}-${cls}-${at}`, last: at };
  thread.last = at;
  state.threads.set(key, thread);
  return { kind: 'event', at, rule: rule.id, area, camera: camera?.id, sensor: sensor?.id, track, thread: { id: thread.id, joins }, trail };
}

/** A rule that asks for a number in a zone: counted over the tracks that are followed, seen in this picture or not. */
function takeNumber(
  site: CompiledSite,
  state: SieveState,
  asking: Asking,
  camera: CompiledCamera,
  i: number,
  seen: readonly Track[],
  at: Instant,
  outcomes: Outcome[],
): void {
  const rule = camera.rules[i]!;
  const { behaviour } = rule;
  if (behaviour.kind !== 'number') return;
  const { asked } = asking;
  const { number, latest } = countIn(state, camera, i);
  const watch = watchOf(state, rule.key);
  const isSo = behaviour.test === 'over' ? number > behaviour.than : number < behaviour.than;
  watch.presence = notePresence(watch.presence, isSo, at, behaviour.graceMs);
  if (watch.presence?.since !== watch.since) watch.isTold = false;
  watch.since = watch.presence?.since;
  const holds = isSo && isConfirmed(watch.presence, behaviour);
  const count = {
    number,
    frames: watch.presence?.frames ?? 0,
    seconds: watch.presence ? (watch.presence.lastIn - watch.presence.since) / 1000 : 0,
    holds: holds && behaviour.test === 'over',
    isTold: watch.isTold,
  };
  asked.count = count;
  // Whoever came last made it one too many; the others are told that it has been said.
  const tracks = count.holds && latest ? [latest, ...seen.filter((t) => t !== latest)] : seen;
  for (const track of tracks) {
    const memory = state.memories.get(track)?.all[i];
    if (!memory || memory.isClosed || !isReal(track, usualTracker)) continue;
    turnTo(state, asked, track);
    if (askTrack(site, state, asking, camera, memory, at, outcomes)) watch.isTold = count.isTold = true;
  }
  if (behaviour.test === 'under' && holds && !watch.isTold) {
    // Too few, or nobody: there is no track that the event could be of.
    asked.track = undefined;
    count.holds = true;
    const trail = askTrackless(site, asking, rule, at);
    watch.isTold = trail.stoppedAt === null;
    if (watch.isTold)
      outcomes.push(letThrough(site, state, camera, undefined, rule, rule.rule.classes[0] ?? 'other', at, undefined, trail));
  }
  asked.count = undefined;
}

/** Whether a track that is seen now counts in the rule's zone; it does until it is seen otherwise. */
function noteCounted({ asked, now, sourceName }: Asking, rule: CompiledRule, memory: RuleMemory, track: Track, at: Instant): void {
  if (memory.doing.kind !== 'number') return;
  asked.doing = memory.doing;
  see(now, sourceName, track, at, asked);
  memory.doing.counts = memory.doing.isInside && counts(rule, memory.asks, now, asked);
}

/** How many tracks are what the rule means where it looks, and who came there last. */
function countIn(state: SieveState, camera: CompiledCamera, i: number) {
  let number = 0;
  let latest: Track | undefined;
  let latestSince = -Infinity;
  for (const track of trackerOf(state, camera.id).tracks) {
    const doing = state.memories.get(track)?.all[i]?.doing;
    if (doing?.kind !== 'number' || !doing.counts || !isReal(track, usualTracker)) continue;
    number++;
    if (doing.inside && doing.inside.since >= latestSince) {
      latest = track;
      latestSince = doing.inside.since;
    }
  }
  return { number, latest };
}

/** Asks the gates that are not about a track. */
function askTrackless(site: CompiledSite, asking: Asking, rule: CompiledRule, at: Instant): Trail {
  const { now, asked } = asking;
  see(now, asking.sourceName, undefined, at, asked);
  return trailOf(site, rule, ask(rule, asksFor(rule, 'other'), now, asked), now, true);
}

function watchOf(state: SieveState, key: string): NumberWatch {
  let watch = state.watches.get(key);
  if (!watch) state.watches.set(key, (watch = { presence: undefined, since: undefined, isTold: false }));
  return watch;
}

function takeReport(site: CompiledSite, state: SieveState, report: SensorReport, outcomes: Outcome[]): void {
  const sensor = site.sensors.get(report.sensor);
  if (!sensor) return;
  const asking = startAsking(site, state, sensor, undefined, report.at);
  asking.asked.state = report.state;
  const trails: Trail[] = [];
  for (const rule of sensor.rules) {
    const trail = askTrackless(site, asking, rule, report.at);
    trails.push(trail);
    if (trail.stoppedAt === null) outcomes.push(letThrough(site, state, undefined, sensor, rule, 'sensor', report.at, undefined, trail));
  }
  outcomes.push({ kind: 'reported', at: report.at, sensor: sensor.id, trails });
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
    // A rehearsal reads few of them: they are made when somebody does.
    let trails: Trail[] | undefined;
    outcomes.push({
      kind: 'ended',
      at,
      track: view(cameraId, track),
      get trails() {
        return (trails ??= trailsOf(site, camera, track, memories.all));
      },
    });
  }
}

function trailsOf(site: CompiledSite, camera: CompiledCamera, track: Track, memories: readonly RuleMemory[]): Trail[] {
  const trails: Trail[] = [];
  for (const m of memories) {
    if (m.event) trails.push(m.event);
    else if (m.reached >= 0)
      trails.push(m.now ? trailOf(site, m.rule, m.reached, m.now) : refusedTrail(site, m.rule, m.reached, camera.name, track));
  }
  return trails;
}
