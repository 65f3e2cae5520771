// The sieve: time-ordered inputs in, events and trails out. `(site, state, input) → (state, outcomes)`; it looks at no clock.

import type { SensorReport } from '../detections';
import type { CompiledCamera, CompiledSite } from '../site';
import type { Instant } from '../time';
import { endings, follow, isReal, learn, shownAt, defaultTracker, type Frame, type Track } from '../tracks';
import { askTrack, askTrackless, letThrough, startAsking, turnTo } from './asking';
import { note } from './behaviour';
import { noteCounted, takeNumber } from './numbers';
import { view, type Input, type Outcome, type TrackView } from './outcomes';
import { memoryOf, setMode, takeSettings, trackerOf, type Asking, type RuleMemory, type SieveState } from './state';
import { refusedTrail, trailOf, type Trail } from './words';

export { gateNames, type GateName } from './gate';
export { gates } from './gates';
export type { Input, Outcome, SieveEvent, TrackView } from './outcomes';
export { startState, type SieveState } from './state';
export { explainTrail } from './explain';
export { likeness } from './looks';
export { framesWords, secondsText, trailsOfUnwatching, type Step, type Trail } from './words';

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
    case 'learnt':
      learn(state.trackers.get(input.camera), input.track, input.looks);
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

/** A frame whose things were followed before: which tracks it shows, as they are by then, and which have ended; `seen` is not there for those
 * that ended between frames, as the clock went on. */
export type FollowedFrame = {
  readonly at: Instant;
  readonly camera: string;
  readonly seen?: readonly Track[];
  /** Those that are being followed from here on, seen in this picture or not. */
  readonly open: readonly Track[];
  readonly ended: readonly Track[];
};

/** Takes a frame in whose things someone else follows; otherwise the same as `step`. */
export function stepFollowed(site: CompiledSite, state: SieveState, { at, camera: id, seen, open, ended }: FollowedFrame): Outcome[] {
  const outcomes: Outcome[] = [];
  if (state.compiledFor !== site) takeSettings(state, site);
  const camera = site.cameras.get(id);
  if (!camera) return outcomes;
  if (camera.numbers.length > 0) trackerOf(state, id).tracks = [...open];
  if (seen) takeSeen(site, state, camera, at, seen, ended, outcomes);
  else endTracks(site, state, id, ended, at, outcomes);
  return outcomes;
}

/** The tracks that are being followed on a camera; with `at`, each where it should be by then. */
export const openTracks = (state: SieveState, camera: string, at?: Instant): TrackView[] =>
  (state.trackers.get(camera)?.tracks ?? [])
    .filter((t) => isReal(t, defaultTracker))
    .map((t) => view(camera, t, at === undefined ? t.box : shownAt(t, at)));

/** How far each track that is being followed on a camera has come through every rule up to now. */
export function currentTrails(site: CompiledSite, state: SieveState, cameraId: string): { track: TrackView; trails: Trail[] }[] {
  const camera = site.cameras.get(cameraId);
  const tracks = (state.trackers.get(cameraId)?.tracks ?? []).filter((t) => isReal(t, defaultTracker));
  return tracks.flatMap((track) => {
    const memory = state.memories.get(track);
    return camera && memory ? [{ track: view(cameraId, track), trails: trailsOf(site, camera, track, memory.all) }] : [];
  });
}

function takeFrame(site: CompiledSite, state: SieveState, frame: Frame, outcomes: Outcome[]): void {
  const camera = site.cameras.get(frame.camera);
  if (!camera) return;
  const { seen, ended } = follow(trackerOf(state, frame.camera), frame);
  takeSeen(site, state, camera, frame.at, seen, ended, outcomes);
}

function takeSeen(
  site: CompiledSite,
  state: SieveState,
  camera: CompiledCamera,
  at: Instant,
  seen: readonly Track[],
  ended: readonly Track[],
  outcomes: Outcome[],
): void {
  if (seen.length > 0 || camera.numbers.length > 0) {
    const asking = startAsking(site, state, camera, camera, at);
    for (const track of seen) takeTrack(site, state, asking, camera, track, at, outcomes);
    for (const i of camera.numbers) takeNumber(site, state, asking, camera, i, seen, at, outcomes);
  }
  if (ended.length > 0) endTracks(site, state, camera.id, ended, at, outcomes);
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
  const real = isReal(track, defaultTracker);
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
    if (!memories || !camera || !isReal(track, defaultTracker)) continue;
    // A rehearsal reads few of them: they are made when someone does.
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
