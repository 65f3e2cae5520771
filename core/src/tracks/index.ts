// Detections of one camera become tracks: constant-velocity prediction, best assignment on overlap.

import { centre, holds, type Box, type Looks, type Point, type TypeName } from '../boxes';
import type { Instant } from '../time';
import { matched } from './match';
import { defaultTracker, predicted, type Frame, type SeenObject, type Track, type Tracker, type TrackerSettings } from './track';

export { assign } from './assign';
export * from './track';

/** Something moves where it does so in this share of its box, in one of its first looks … */
const minMoving = 0.3;
const firstLooks = 6;
/** … or where its centre has come this far, in its own sizes. */
const displaced = 0.5;

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
  matched(open, objects, at, begins).forEach((track, i) => {
    const object = objects[i]!;
    if (track) {
      renew(track, object, at);
      seen.push(track);
    } else if (object.score >= begins) seen.push(begin(tracker, object, at));
  });
}

const isMoving = (object: SeenObject): boolean => object.moves === undefined || object.moves >= minMoving;

function hasCome(start: Point, box: Box): boolean {
  const [x, y] = centre(box);
  return Math.abs(x - start[0]) > displaced * box[2] || Math.abs(y - start[1]) > displaced * box[3];
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
    unlike: 0,
    velocity: [0, 0],
  };
  tracker.tracks.push(track);
  return track;
}

/**
 * From one look to the next, the height of a thing changes by less than this factor, and by a little more for each second between them.
 * A detector that takes a post for someone's legs reports a larger change: it is believed only once it has lasted for a few looks.
 */
const steadyHeight = 1.5;
const heightASecond = 0.5;
const believedUnlike = 3;

function isUnlike(track: Track, object: SeenObject, dt: number): boolean {
  if (track.believed || track.hits < 2) return false;
  const [before, now] = [track.box[3], object.box[3]];
  return Math.max(before, now) > Math.min(before, now) * (steadyHeight + (heightASecond * dt) / 1000);
}

function renew(track: Track, object: SeenObject, at: Instant): void {
  const dt = at - track.lastSeen;
  track.unlike = isUnlike(track, object, dt) ? track.unlike + 1 : 0;
  if (track.unlike > 0 && track.unlike < believedUnlike) track.box = predicted(track, at);
  else move(track, object, dt);
  track.type = track.believed ? object.type : typeWith(track, object);
  if (object.looks) track.looks = { ...track.looks, ...object.looks };
  track.score = object.score;
  if (object.score > track.best) track.best = object.score;
  track.lastSeen = at;
  track.hits++;
  track.missed = 0;
}

function move(track: Track, object: SeenObject, dt: number): void {
  if (dt > 0 && !track.believed) {
    const [from, to] = [centre(track.box), centre(object.box)];
    const fresh = track.hits === 1 ? 1 : 0.5;
    track.velocity = [
      track.velocity[0] * (1 - fresh) + ((to[0] - from[0]) / dt) * fresh,
      track.velocity[1] * (1 - fresh) + ((to[1] - from[1]) / dt) * fresh,
    ];
  }
  track.moved ||= (track.hits < firstLooks && isMoving(object)) || hasCome(track.start, object.box);
  track.box = object.box;
  track.unlike = 0;
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
