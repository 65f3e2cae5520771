// Choosing among the pictures of a track.

import type { Instant } from '../time';

/** A picture must be this much better than the one that was sent for the alert to be filled in with it. */
const clearly = 1.5;

export const isClearlyBetter = (score: number, than: number): boolean => score > than * clearly;

/**
 * Up to `k` pictures spread over a track: its time is cut into equal parts, and the best of each is taken.
 * @param shots in order of time; `shows` is their `pictureScore`
 */
export function spreadOver<S extends { readonly at: Instant; readonly shows: number }>(shots: readonly S[], k: number): S[] {
  if (shots.length <= k) return [...shots];
  const first = shots[0]!.at;
  const length = Math.max(1, shots.at(-1)!.at - first + 1);
  const best: (S | undefined)[] = new Array<S | undefined>(k).fill(undefined);
  for (const shot of shots) {
    const part = Math.min(k - 1, Math.floor(((shot.at - first) / length) * k));
    if (!best[part] || shot.shows > best[part].shows) best[part] = shot;
  }
  return best.filter((s): s is S => s !== undefined);
}
