// How finely one camera's pictures are looked at, and what other settings would have made of its last minutes.

import { around, grown, overlap, type Box, type ClassName, type TypeName } from '../boxes';
import { judge, defaultMotion, type Judged, type MotionSettings } from '../motion';
import type { TuningFile } from '../site';
import type { Instant } from '../time';
import { unpackCells } from './cells';

export { cellFloor, packCells, unpackCells } from './cells';

/** All of it said. `confidence`: what is less sure than this is followed, but comes through no rule of this camera. */
export type Tuning = Required<TuningFile>;

export const defaultTuning: Tuning = {
  threshold: defaultMotion.threshold,
  smallestPart: defaultMotion.smallestPart,
  contrast: defaultMotion.contrast,
  confidence: 0,
};

export const tuningOf = (file: TuningFile | undefined): Tuning => ({ ...defaultTuning, ...file });

export const motionSettings = ({ threshold, smallestPart, contrast }: Tuning): MotionSettings => ({
  ...defaultMotion,
  threshold,
  smallestPart,
  contrast,
});

/** One picture of the last minutes as motion detection saw it: `cells` as `packCells` makes them, masked ones left out. */
export type RecentFrame = {
  readonly at: Instant;
  readonly width: number;
  readonly height: number;
  /** How many cells are not masked. */
  readonly counted: number;
  readonly cells: Uint8Array;
};

export type RecentDetection = {
  readonly track: string;
  readonly class: ClassName;
  readonly type?: TypeName | undefined;
  readonly score: number;
  readonly box: Box;
};

/** What the detector found in one picture. */
export type RecentDetections = { readonly at: Instant; readonly objects: readonly RecentDetection[] };

/**
 * What a picture would have been judged to be. Exact for the settings that were live; for others the background is the one that the
 * live settings left behind, which differs after a change of light only.
 */
export const judgeRecentFrames = ({ cells, width, height, counted }: RecentFrame, tuning: Tuning): Judged =>
  judge(unpackCells(cells, width * height), width, height, counted, motionSettings(tuning));

/** A picture that was judged. */
export type JudgedFrame = { readonly at: Instant } & Judged;

/** One thing that was followed, and what would have become of it: `motion` would not have moved enough to be looked for. */
export type RecentObject = {
  readonly track: string;
  readonly class: ClassName;
  readonly type?: TypeName | undefined;
  readonly from: Instant;
  readonly to: Instant;
  readonly best: number;
  readonly lostTo: 'motion' | 'confidence' | undefined;
};

export type Effect = {
  readonly pictures: number;
  /** In how many of them something large enough moved. */
  readonly moving: number;
  /** In how many of them something moved that was too small. */
  readonly smallOnly: number;
  readonly lightChanges: number;
  readonly things: readonly RecentObject[];
};

/** The detector looks at the surroundings of what moves as well, so a thing is found by what moves near it: so many times its own room. */
const surroundings = 2;
/** A thing is followed a little before it is found for the first time. */
const beforeMs = 2000;

export function effectOf(frames: readonly JudgedFrame[], sights: readonly RecentDetections[], tuning: Tuning): Effect {
  const moves = (m: JudgedFrame) => m.parts.some((p) => p.counts);
  return {
    pictures: frames.length,
    moving: frames.filter(moves).length,
    smallOnly: frames.filter((m) => m.parts.length > 0 && !moves(m)).length,
    lightChanges: frames.filter((m) => m.isLightChange).length,
    things: thingsOf(sights).map(({ boxes, ...thing }) => ({ ...thing, lostTo: lostTo({ ...thing, boxes }, frames, tuning) })),
  };
}

type Found = Omit<RecentObject, 'lostTo'> & { readonly boxes: readonly Box[] };

function thingsOf(sights: readonly RecentDetections[]): Found[] {
  const found = new Map<string, Found>();
  for (const { at, objects } of sights)
    for (const { track, class: cls, type, score, box } of objects) {
      const known = found.get(track);
      found.set(
        track,
        known
          ? { ...known, to: at, best: Math.max(known.best, score), boxes: [...known.boxes, box] }
          : { track, class: cls, type, from: at, to: at, best: score, boxes: [box] },
      );
    }
  return [...found.values()];
}

function lostTo({ best, from, to, boxes }: Found, frames: readonly JudgedFrame[], { confidence }: Tuning): RecentObject['lostTo'] {
  if (best < confidence) return 'confidence';
  const during = frames.filter((m) => m.at >= from - beforeMs && m.at <= to);
  // Nothing is known of pictures that are not kept any more, or of a camera that looks for itself.
  if (during.length === 0) return undefined;
  const room = grown(around(boxes)!, surroundings);
  return during.some((m) => m.parts.some((p) => p.counts && overlap(p.box, room) > 0)) ? undefined : 'motion';
}
