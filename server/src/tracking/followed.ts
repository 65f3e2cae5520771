// What is remembered of a thing while it is followed: its path, and the pictures that show it.

import { spreadOver } from '@nibber/core/stills';
import type { Instant } from '@nibber/core/time';
import type { PathPoint, Snapshot } from '../base/events';

export type Followed = {
  id: string;
  path: PathPoint[];
  best: Snapshot;
  snapshots: Snapshot[];
  /** Its events, and how well the picture in their alerts shows it. */
  notified: { readonly events: readonly string[]; quality: number } | undefined;
};

const maxPathPoints = 400;
/** Of these so many are kept; while it is followed up to so many are held. */
const storedSnapshots = 6;
const heldSnapshots = 18;

/** The pictures that are stored of it: a few, spread over its track, once it has an event. */
export const snapshotsOf = ({ notified, snapshots }: Followed): Snapshot[] => (notified ? spread(snapshots, storedSnapshots) : []);

/** So many of a track's shots, spread over it. */
const spread = (snapshots: readonly Snapshot[], max: number): Snapshot[] =>
  spreadOver(
    snapshots.map((s) => ({ ...s, at: s.picture.at })),
    max,
  );

export function note(followed: Map<string, Followed>, key: string, at: Instant, snapshot: Snapshot, newId: () => string): void {
  const known = followed.get(key);
  if (!known) {
    followed.set(key, { id: newId(), path: [[at, snapshot.box]], best: snapshot, snapshots: [snapshot], notified: undefined });
    return;
  }
  if (known.path.at(-1)?.[0] === at) return;
  known.path.push([at, snapshot.box]);
  addSnapshot(known, snapshot);
}

/** In order of time; one that was taken beside the stream may be a little older than the newest. */
export function addSnapshot(known: Followed, snapshot: Snapshot): void {
  if (snapshot.quality > known.best.quality) known.best = snapshot;
  const after = known.snapshots.findLastIndex((s) => s.picture.at <= snapshot.picture.at);
  known.snapshots.splice(after + 1, 0, snapshot);
  if (known.snapshots.length > heldSnapshots) known.snapshots = spread(known.snapshots, heldSnapshots / 2);
}

export function thinned(path: readonly PathPoint[]): PathPoint[] {
  if (path.length <= maxPathPoints) return [...path];
  const every = path.length / maxPathPoints;
  return Array.from({ length: maxPathPoints }, (_, i) => path[Math.floor(i * every)]!);
}
