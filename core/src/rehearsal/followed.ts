// A recording whose things were followed once: which tracks each frame shows does not hang on any rule, so that many settings can be judged
// over it, each for a fraction of what following costs.

import type { Recorded } from '../recorded';
import type { FollowedFrame, Input } from '../sieve';
import type { Instant } from '../time';
import { endings, follow, learn, newTracker, type Frame, type Track, type Tracker } from '../tracks';

/** What of a track changes from frame to frame. */
type Seen = Pick<Track, 'type' | 'looks' | 'score' | 'best' | 'moved' | 'box' | 'lastSeen' | 'hits'>;

export type Followed =
  | { readonly kind: 'frame'; readonly frame: FollowedFrame; readonly as: readonly Seen[] }
  | { readonly kind: 'input'; readonly input: Exclude<Input, { readonly kind: 'frame' | 'learnt' | 'clock' | 'end' }> }
  | Extract<Recorded, { readonly kind: 'start' | 'resting' }>;

/** A frame's tracks get the values that they had in it. Runs over one recording take turns: they share its tracks. */
export function turnBack({ frame, as }: Extract<Followed, { kind: 'frame' }>): void {
  for (let i = 0; i < as.length; i++) {
    const [track, then] = [frame.seen![i]!, as[i]!];
    track.type = then.type;
    track.looks = then.looks;
    track.score = then.score;
    track.best = then.best;
    track.moved = then.moved;
    track.box = then.box;
    track.lastSeen = then.lastSeen;
    track.hits = then.hits;
  }
}

const seenNow = ({ type, looks, score, best, moved, box, lastSeen, hits }: Track): Seen => ({
  type,
  looks,
  score,
  best,
  moved,
  box,
  lastSeen,
  hits,
});

export type Following = { take(entry: Recorded): void; readonly followed: readonly Followed[] };

/** Follows entry by entry, so that a long recording can be followed in parts. */
export function startFollowing(): Following {
  const followed: Followed[] = [];
  const trackers = new Map<string, Tracker>();
  const opens = new Map<string, readonly Track[]>();
  const openOf = (camera: string, { tracks }: Tracker): readonly Track[] => {
    const before = opens.get(camera);
    if (before?.length === tracks.length && before.every((t, i) => t === tracks[i])) return before;
    const now = [...tracks];
    opens.set(camera, now);
    return now;
  };
  const takeFrame = (frame: Frame) => {
    const { camera, at } = frame;
    let tracker = trackers.get(camera);
    if (!tracker) trackers.set(camera, (tracker = newTracker()));
    const { seen, ended } = follow(tracker, frame);
    followed.push({ kind: 'frame', frame: { at, camera, seen, open: openOf(camera, tracker), ended }, as: seen.map(seenNow) });
  };
  const end = (at: Instant, of: (tracker: Tracker) => Track[]) => {
    for (const [camera, tracker] of trackers) {
      const ended = of(tracker);
      if (ended.length > 0) followed.push({ kind: 'frame', frame: { at, camera, open: openOf(camera, tracker), ended }, as: [] });
    }
  };
  return {
    followed,
    take(entry) {
      if (entry.kind === 'site') return;
      if (entry.kind !== 'input') {
        if (entry.kind === 'start') trackers.clear();
        followed.push(entry);
        return;
      }
      const { input } = entry;
      if (input.kind === 'frame') takeFrame(input.frame);
      else if (input.kind === 'learnt') learn(trackers.get(input.camera), input.track, input.looks);
      else if (input.kind === 'clock') end(input.at, (tracker) => endings(tracker, input.at));
      else if (input.kind === 'end')
        end(input.at, (tracker) => {
          const all = tracker.tracks;
          tracker.tracks = [];
          return all;
        });
      else followed.push({ kind: 'input', input });
    },
  };
}
