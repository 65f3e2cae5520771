// Which of several tracks an object most likely is.

import { centre, overlap, shareOfSmaller, type Box, type Looks } from '../boxes';
import type { Instant } from '../time';
import { assign } from './assign';
import { longestPredictionMs, predicted, type SeenObject, type Track } from './track';

const minAffinity = 0.02;
/** How much overlap, distance and looks weigh, where it is open which of several things is which; found on the stage's crossing walks. */
const overlapWeighs = 0.5;
const distanceWeighs = 1;
const looksWeigh = 0.4;
/** As far as a thing can be from where it should be, in its own heights, and be it as little as any farther one. */
const farSizes = 0.5;
/** How far a thing may be from where it is expected, in its own sizes: at once, and more for each second unseen. */
const reachAtOnce = 0.3;
const reachASecond = { young: 1.1, known: 0.4 };
/** A share of the width is this much longer than one of the height, on the usual picture. */
const defaultAspect = 16 / 9;

/**
 * @param begins the least score with which a track may begin
 * @returns for each object the track that it is; undefined where it is none of them
 */
export function matched(open: readonly Track[], objects: readonly SeenObject[], at: Instant, begins: number): (Track | undefined)[] {
  const places = open.map((t) => reachOf(t, at));
  const affinity = objects.map((o) => {
    const box = reached(o.box, reachAtOnce);
    const least = o.score < begins && objects.some((other) => isSecondLook(o, other)) ? minOfSecondLook : 0;
    return open.map((t, i) =>
      t.class === o.class && (least === 0 || overlap(predicted(t, at), o.box) >= least) ? overlap(places[i]!, box) : 0,
    );
  });
  const chosen = assign(
    affinity.map((row, i) => row.map((a, k) => (a >= minAffinity ? overlapWeighs * (1 - a) + doubt(open[k]!, objects[i]!, at) : noMatch))),
  );
  return chosen.map((column, i) => (column < 0 || affinity[i]![column]! < minAffinity ? undefined : open[column]));
}

/**
 * A detector may find one thing twice: surely, and doubtfully with more or less around it. The doubtful one is of someone else only where
 * someone else is expected just there; or else who has left the picture would go on as who is still in it.
 */
const isSecondLook = (o: SeenObject, other: SeenObject): boolean =>
  other.score > o.score && other.class === o.class && shareOfSmaller(o.box, other.box) >= minShared;
const minShared = 0.7;
const minOfSecondLook = 0.3;

/** Dearer than any match. */
const noMatch = 3;

/** What speaks against an object being a track, beside overlap: how far from where it should be, and that it wears something else. */
function doubt(t: Track, object: SeenObject, at: Instant): number {
  const [from, to] = [centre(predicted(t, at)), centre(object.box)];
  const height = Math.max(t.box[3], object.box[3], 1e-6);
  const far = Math.hypot((to[0] - from[0]) * defaultAspect, to[1] - from[1]) / height;
  return distanceWeighs * Math.min(1, far / farSizes) + looksWeigh * otherwise(t.looks, object.looks);
}

/** The share of what is known of both that differs, 0..1. */
function otherwise(a: Looks | undefined, b: Looks | undefined): number {
  if (!a || !b) return 0;
  let [known, differs] = [0, 0];
  for (const key of ['colour', 'upper', 'lower'] as const) {
    if (a[key] === undefined || b[key] === undefined) continue;
    known++;
    if (a[key] !== b[key]) differs++;
  }
  return known ? differs / known : 0;
}

/** Where a track may be by now. A track seen once has no velocity yet and may be anywhere it can have walked to. */
function reachOf(t: Track, at: Instant): Box {
  const seconds = Math.min(at - t.lastSeen, longestPredictionMs) / 1000;
  return reached(predicted(t, at), reachAtOnce + seconds * (t.hits === 1 ? reachASecond.young : reachASecond.known));
}

function reached([x, y, w, h]: Box, sizes: number): Box {
  const across = sizes * Math.max(w, h / defaultAspect);
  const along = (sizes * h) / 2;
  return [x - across, y - along, w + 2 * across, h + 2 * along];
}
