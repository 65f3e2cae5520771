// Detections of one camera become tracks: constant-velocity prediction, best assignment on overlap.

import {
  centre,
  holds,
  overlap,
  shareOfSmaller,
  type Box,
  type ClassName,
  type Detection,
  type Looks,
  type Point,
  type TypeName,
} from '../boxes';
import type { Instant } from '../time';
import { assign } from './assign';

export { assign };

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

const minAffinity = 0.02;
const longestPredictionMs = 1500;
/** A box is drawn no farther ahead of where its thing was seen. */
const longestShownMs = 500;
/** Something moves where it does so in this share of its box, in one of its first looks … */
const minMoving = 0.3;
const firstLooks = 6;
/** … or where its centre has come this far, in its own sizes. */
const displaced = 0.5;
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

/** Where a track is expected at an instant. */
export const predicted = (t: Track, at: Instant): Box => ahead(t, Math.min(at - t.lastSeen, longestPredictionMs));

/** Where it may be shown at an instant: half a second ahead of where it was seen at most. */
export const shownAt = (t: Track, at: Instant): Box => ahead(t, Math.min(at - t.lastSeen, longestShownMs));

function ahead(t: Track, dt: number): Box {
  return [t.box[0] + t.velocity[0] * dt, t.box[1] + t.velocity[1] * dt, t.box[2], t.box[3]];
}

/** Takes one frame in: which tracks it shows, and which have ended by now. Frames come in order of time. */
export function follow(tracker: Tracker, frame: Frame, settings: TrackerSettings = defaultTracker): { seen: Track[]; ended: Track[] } {
  const { objects, at } = frame;
  const seen: Track[] = [];
  let ended = none;
  let unnamed = nothing;
  for (let i = 0; i < objects.length; i++) {
    const object = objects[i]!;
    if (object.track === undefined) {
      if (unnamed === nothing) unnamed = [];
      unnamed.push(object);
      continue;
    }
    const before = named(tracker, object.track);
    if (before && !isSame(before, object, at, settings)) ended = [...ended, before];
    seen.push(believe(tracker, object, object.track, at, before, settings));
  }
  if (unnamed.length > 0) match(tracker, unnamed, at, frame.begins ?? 0, seen);
  const { tracks } = tracker;
  let isAnyGone = false;
  for (let i = 0; i < tracks.length; i++) {
    const t = tracks[i]!;
    if (t.lastSeen === at) continue;
    if (!t.believed && wasLookedFor(t, frame)) t.missed++;
    isAnyGone ||= isGone(t, at, settings);
  }
  const gone = isAnyGone ? endings(tracker, at, settings) : none;
  return { seen, ended: gone.length === 0 ? ended : [...ended, ...gone] };
}

/** Whether a frame examined the place where a track was last, or should be by now: who has left the picture is not there to be found. */
const wasLookedFor = (t: Track, { looked, at }: Frame): boolean =>
  !looked || holds(looked, centre(t.box)) || holds(looked, centre(predicted(t, at)));

/** The tracks that have ended by an instant; they leave the tracker. */
export function endings(tracker: Tracker, at: Instant, settings: TrackerSettings = defaultTracker): Track[] {
  const gone = tracker.tracks.filter((t) => isGone(t, at, settings));
  if (gone.length > 0) tracker.tracks = tracker.tracks.filter((t) => !gone.includes(t));
  return gone;
}

const none: Track[] = [];
const nothing: SeenObject[] = [];

function isGone(t: Track, at: Instant, settings: TrackerSettings): boolean {
  const unseen = at - t.lastSeen;
  return unseen > settings.silentMs || (!t.believed && t.missed >= settings.misses && unseen > settings.gapMs);
}

function named(tracker: Tracker, name: string): Track | undefined {
  const { tracks } = tracker;
  for (let i = 0; i < tracks.length; i++) if (tracks[i]!.believed && tracks[i]!.name === name) return tracks[i];
  return undefined;
}

/** Whether a camera's id still means the thing that it meant before. */
const isSame = (before: Track, object: SeenObject, at: Instant, settings: TrackerSettings): boolean =>
  before.class === object.class && at - before.lastSeen <= settings.silentMs;

function believe(
  tracker: Tracker,
  object: SeenObject,
  name: string,
  at: Instant,
  before: Track | undefined,
  settings: TrackerSettings,
): Track {
  if (before && isSame(before, object, at, settings)) {
    renew(before, object, at);
    return before;
  }
  if (before) tracker.tracks = tracker.tracks.filter((t) => t !== before);
  return begin(tracker, object, at, name);
}

/** Gives each object to the track it most likely is, or begins one with it; what may not begin one is passed over. */
function match(tracker: Tracker, objects: readonly SeenObject[], at: Instant, begins: number, seen: Track[]): void {
  const open = tracker.tracks.filter((t) => !t.believed);
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
  objects.forEach((object, i) => {
    const column = chosen[i]!;
    if (column < 0 || affinity[i]![column]! < minAffinity) {
      if (object.score >= begins) seen.push(begin(tracker, object, at));
      return;
    }
    const track = open[column]!;
    renew(track, object, at);
    seen.push(track);
  });
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

const isMoving = (object: SeenObject): boolean => object.moves === undefined || object.moves >= minMoving;

function hasCome(start: Point, box: Box): boolean {
  const [x, y] = centre(box);
  return Math.abs(x - start[0]) > displaced * box[2] || Math.abs(y - start[1]) > displaced * box[3];
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

function begin(tracker: Tracker, object: SeenObject, at: Instant, name?: string): Track {
  const number = ++tracker.made;
  const track: Track = {
    key: String(number),
    name: name ?? `t${number}`,
    class: object.class,
    firstSeen: at,
    believed: name !== undefined,
    type: object.type,
    typeScores: object.type ? { [object.type]: object.score } : {},
    looks: object.looks,
    score: object.score,
    best: object.score,
    moved: name !== undefined || isMoving(object),
    start: centre(object.box),
    box: object.box,
    lastSeen: at,
    hits: 1,
    missed: 0,
    velocity: [0, 0],
  };
  tracker.tracks.push(track);
  return track;
}

function renew(track: Track, object: SeenObject, at: Instant): void {
  const dt = at - track.lastSeen;
  if (dt > 0 && !track.believed) {
    const [from, to] = [centre(track.box), centre(object.box)];
    const fresh = track.hits === 1 ? 1 : 0.5;
    track.velocity = [
      track.velocity[0] * (1 - fresh) + ((to[0] - from[0]) / dt) * fresh,
      track.velocity[1] * (1 - fresh) + ((to[1] - from[1]) / dt) * fresh,
    ];
  }
  track.type = track.believed ? object.type : typeWith(track, object);
  if (object.looks) track.looks = { ...track.looks, ...object.looks };
  track.score = object.score;
  if (object.score > track.best) track.best = object.score;
  track.moved ||= (track.hits < firstLooks && isMoving(object)) || hasCome(track.start, object.box);
  track.box = object.box;
  track.lastSeen = at;
  track.hits++;
  track.missed = 0;
}

function typeWith({ type, typeScores }: Track, object: SeenObject): TypeName | undefined {
  if (object.type === undefined) return type;
  const score = (typeScores[object.type] = (typeScores[object.type] ?? 0) + object.score);
  return type === undefined || score > typeScores[type]! ? object.type : type;
}

/** What is said of a track's looks by someone who was asked; nothing of one that is gone. */
export function learn(tracker: Tracker | undefined, key: string, looks: Looks): void {
  const track = tracker?.tracks.find((t) => t.key === key);
  if (track) track.looks = { ...track.looks, ...looks, ...(looks.fields ? { fields: { ...track.looks?.fields, ...looks.fields } } : {}) };
}
