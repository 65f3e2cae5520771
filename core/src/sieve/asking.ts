// Putting a rule's question to the gates, about a track or about what is none, and what follows where all let it through.

import type { CompiledCamera, CompiledRule, CompiledSite } from '../site';
import type { Instant } from '../time';
import type { Track } from '../tracks';
import { isIn } from '../zones';
import { ask, bound, nearAtBound, see } from './ask';
import { gates } from './gates';
import { startNow, type Asked, type Home } from './gate';
import { view, type Outcome, type SieveEvent, type TrackView } from './outcomes';
import { gatesFor, isOnce, modeAt, type Asking, type RuleMemory, type SieveState } from './state';
import { trailOf, type Trail } from './words';

export type Source = { readonly id: string; readonly name: string; readonly area: string };

/** Points what the gates may look at to a camera or a sensor at an instant. One is kept with the state and filled again for each input. */
export function startAsking(
  site: CompiledSite,
  state: SieveState,
  source: Source,
  camera: CompiledCamera | undefined,
  at: Instant,
): Asking {
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
  for (const isHome of home.values()) if (isHome) return 'someone';
  return 'no one';
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

export function turnTo(state: SieveState, asked: Asked, track: Track): void {
  asked.track = track;
  state.scratch.mark++;
}

/** Asks the gates about the track at hand as it is seen now; what came furthest is remembered. Says whether it came through. */
export function askTrack(
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
  // One track, one event; but of a number in a zone each occasion is one, and what a track does again is a new one.
  memory.isClosed = isOnce(rule);
  const trail = trailOf(site, rule, reached, now);
  memory.event ??= trail;
  outcomes.push(letThrough(site, state, camera, undefined, rule, track.class, at, view(camera.id, track), trail));
  return true;
}

export function letThrough(
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

/** Asks the gates that are not about a track. */
export function askTrackless(site: CompiledSite, asking: Asking, rule: CompiledRule, at: Instant): Trail {
  const { now, asked } = asking;
  see(now, asking.sourceName, undefined, at, asked);
  return trailOf(site, rule, ask(rule, gatesFor(rule, 'other'), now, asked), now, true);
}
