// A track, and where it should be.

import type { Box, ClassName, Detection, Looks, Point, TypeName } from '../boxes';
import type { Instant } from '../time';

/**
 * A detection that may carry the camera's own id for the thing. `moves`: the share of its box in which something moved; absent where
 * no one looked for that.
 */
export type SeenObject = Detection & { readonly track?: string; readonly moves?: number };

/** What was found in one picture. `looked` is the part of the picture that was examined; all of it if absent. */
export type Frame = {
  readonly at: Instant;
  readonly camera: string;
  readonly objects: readonly SeenObject[];
  readonly looked?: Box;
  /** The least score with which a track may begin; any if absent: what a camera or a file says is believed. */
  readonly begins?: number;
};

export type Track = {
  /** Unique within one tracker, also where a camera uses an id again. */
  readonly key: string;
  /** The id as the camera or the tracker says it. */
  readonly name: string;
  readonly class: ClassName;
  readonly firstSeen: Instant;
  readonly believed: boolean;
  /** The type with the highest sum of scores so far, so that one look in between that takes a dog for a sheep changes nothing. */
  type: TypeName | undefined;
  readonly typeScores: Partial<Record<TypeName, number>>;
  /** What has been learnt of its looks, newest first to be believed. */
  looks: Looks | undefined;
  score: number;
  /** The highest score so far. */
  best: number;
  /** Whether it was seen to move: what only stands there, a rock or a sign, is followed and never becomes real. */
  moved: boolean;
  /** Where its centre was first. */
  readonly start: Point;
  box: Box;
  lastSeen: Instant;
  hits: number;
  /** Looks at the place where it should be, since it was last seen. */
  missed: number;
  /** Looks in a row at which it was of quite another height than before. */
  unlike: number;
  /** Change of the centre, picture widths and heights a millisecond. */
  velocity: readonly [number, number];
};

export type TrackerSettings = {
  /** Hits after which a track is real. */
  readonly hits: number;
  /** Misses after which a track can be gone … */
  readonly misses: number;
  /** … when it has not been seen for this long, ms. */
  readonly gapMs: number;
  /** A track no one looks at, or whose id its camera no longer uses, is gone after this, ms. */
  readonly silentMs: number;
};

export const defaultTracker: TrackerSettings = { hits: 2, misses: 3, gapMs: 1000, silentMs: 60_000 };

/** Owned by the tracker: callers use the returned one. */
export type Tracker = { tracks: Track[]; made: number };

export const newTracker = (): Tracker => ({ tracks: [], made: 0 });

export const isReal = (t: Track, settings: TrackerSettings): boolean => t.believed || (t.hits >= settings.hits && t.moved);

export const longestPredictionMs = 1500;
/** A box is drawn no farther ahead of where its thing was seen. */
const longestShownMs = 500;
/** Where a track is expected at an instant. */
export const predicted = (t: Track, at: Instant): Box => ahead(t, Math.min(at - t.lastSeen, longestPredictionMs));

/** Where it may be shown at an instant: half a second ahead of where it was seen at most. */
export const shownAt = (t: Track, at: Instant): Box => ahead(t, Math.min(at - t.lastSeen, longestShownMs));

function ahead(t: Track, dt: number): Box {
  return [t.box[0] + t.velocity[0] * dt, t.box[1] + t.velocity[1] * dt, t.box[2], t.box[3]];
}
