// Rules that ask for a number in a zone: more than so many, fewer, or no one.

import type { CompiledCamera, CompiledRule, CompiledSite } from '../site';
import type { Instant } from '../time';
import { isReal, defaultTracker, type Track } from '../tracks';
import { askTrack, askTrackless, letThrough, turnTo } from './asking';
import { counts, see } from './ask';
import type { Outcome } from './outcomes';
import { isConfirmed, notePresence } from './presence';
import { trackerOf, type Asking, type NumberWatch, type RuleMemory, type SieveState } from './state';

/** A rule that asks for a number in a zone: counted over the tracks that are followed, seen in this picture or not. */
export function takeNumber(
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
  const isActive = behaviour.test === 'over' ? number > behaviour.than : number < behaviour.than;
  watch.presence = notePresence(watch.presence, isActive, at, behaviour.graceMs);
  if (watch.presence?.since !== watch.since) watch.isNotified = false;
  watch.since = watch.presence?.since;
  const holds = isActive && isConfirmed(watch.presence, behaviour);
  const count = {
    number,
    frames: watch.presence?.frames ?? 0,
    seconds: watch.presence ? (watch.presence.lastIn - watch.presence.since) / 1000 : 0,
    holds: holds && behaviour.test === 'over',
    isNotified: watch.isNotified,
  };
  asked.count = count;
  // The last to come made it one too many; for the others it has fired already.
  const tracks = count.holds && latest ? [latest, ...seen.filter((t) => t !== latest)] : seen;
  for (const track of tracks) {
    const memory = state.memories.get(track)?.all[i];
    if (!memory || memory.isClosed || !isReal(track, defaultTracker)) continue;
    turnTo(state, asked, track);
    if (askTrack(site, state, asking, camera, memory, at, outcomes)) watch.isNotified = count.isNotified = true;
  }
  if (behaviour.test === 'under' && holds && !watch.isNotified) {
    // Too few, or no one: there is no track that the event could be of.
    asked.track = undefined;
    count.holds = true;
    const trail = askTrackless(site, asking, rule, at);
    watch.isNotified = trail.stoppedAt === null;
    if (watch.isNotified)
      outcomes.push(letThrough(site, state, camera, undefined, rule, rule.rule.classes[0] ?? 'other', at, undefined, trail));
  }
  asked.count = undefined;
}

/** Whether a track that is seen now counts in the rule's zone; it does until it is seen otherwise. */
export function noteCounted({ asked, now, sourceName }: Asking, rule: CompiledRule, memory: RuleMemory, track: Track, at: Instant): void {
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
    if (doing?.kind !== 'number' || !doing.counts || !isReal(track, defaultTracker)) continue;
    number++;
    if (doing.inside && doing.inside.since >= latestSince) {
      latest = track;
      latestSince = doing.inside.since;
    }
  }
  return { number, latest };
}

function watchOf(state: SieveState, key: string): NumberWatch {
  let watch = state.watches.get(key);
  if (!watch) state.watches.set(key, (watch = { presence: undefined, since: undefined, isNotified: false }));
  return watch;
}
