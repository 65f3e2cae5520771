// Choosing among the pictures of a track.

import { overlap, type Box } from '../boxes';
import type { Instant } from '../time';

/** A picture must be this much better than the one that was sent for the alert to be filled in with it. */
const clearly = 1.5;

export const isClearlyBetter = (score: number, than: number): boolean => score > than * clearly;

/** Boxes of one that stands still differ by so much from picture to picture. */
const trembling = 0.1;

/**
 * Up to `k` pictures spread over a track: it is cut into parts in which it came equally far, and the best of each is taken. While it stands still
 * one picture is like the other; of one that never moved the parts are of equal time.
 * @param shots in order of time; `quality` is their `pictureScore`
 */
export function spreadOver<S extends { readonly at: Instant; readonly quality: number; readonly box: Box }>(
  snapshots: readonly S[],
  k: number,
): S[] {
  if (snapshots.length <= k) return [...snapshots];
  const first = snapshots[0]!.at;
  let way = 0;
  const ways = snapshots.map(({ box }, i) => (way += i === 0 ? 0 : Math.max(0, 1 - overlap(snapshots[i - 1]!.box, box) - trembling)));
  const length = way > 0 ? way : Math.max(1, snapshots.at(-1)!.at - first);
  const best: (S | undefined)[] = new Array<S | undefined>(k).fill(undefined);
  snapshots.forEach((snapshot, i) => {
    const come = way > 0 ? ways[i]! : snapshot.at - first;
    const part = Math.min(k - 1, Math.floor((come / length) * k));
    if (!best[part] || snapshot.quality > best[part].quality) best[part] = snapshot;
  });
  return best.filter((s): s is S => s !== undefined);
}
