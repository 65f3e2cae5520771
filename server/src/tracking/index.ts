// Runs detections through the core's sieve: input in, and what is to be stored of it out. Owns the sieve's state.

import { randomUUID } from 'node:crypto';
import { classOf, type Box, type Looks } from '@nibber/core/boxes';
import {
  openTracks,
  currentTrails,
  startState,
  step,
  type Input,
  type Outcome,
  type SieveEvent,
  type SieveState,
  type TrackView,
  type Trail,
} from '@nibber/core/sieve';
import { asRecorded } from '@nibber/core/recorded';
import { isClearlyBetter } from '@nibber/core/stills';
import type { Instant } from '@nibber/core/time';
import type { Detections } from '../db/detections';
import type { Bus } from '../base/bus';
import type { SiteBook } from '../db/site';
import type { Delivered, SafePicture, Watched } from '../base/picture';
import { sameId } from '../base/same-id';
import { addSnapshot, note, snapshotsOf, thinned, type Followed } from './followed';
import type { Change, FollowedThing, NewEvent, Persist, SiteChange, Snapshot } from '../base/events';

/** Each input answers what is to be stored because of it, in order. */
export type Follow = {
  watched(watched: Watched): Change[];
  /** What a camera with its own detection says it saw. */
  delivered(delivered: Delivered): Change[];
  /** A picture in which nothing was looked for. Rules that count what is in a zone go by it: time passes there as well. */
  passed(picture: SafePicture): Change[];
  /** Tells the sieve how late it is, so that tracks no one looks at end. No picture taken before may still be under way. */
  tick(at: Instant): Change[];
  /** An area has another mode, or the site is another one. */
  changed(change: SiteChange): Change[];
  openBoxes(camera: string): Box[];
  /** How far what is being followed has come through every rule. */
  currentTrails(camera: string): { track: TrackView; trails: Trail[] }[];
  /** What is being followed; with `at`, where each should be by then. */
  open(camera: string, at?: Instant): TrackView[];
  /** What of it was seen in the newest picture. */
  seen(camera: string): TrackView[];
  /** When rules last let something through, as it is kept; what the sieve knows and is newer stays. */
  resting(lastEvents: readonly (readonly [string, Instant])[]): void;
  /** A further picture of what is being followed, taken beside the stream, with where it is in it. */
  shown(camera: string, track: string, snapshot: Snapshot): Change[];
  /** What someone who was asked knew of a thing, by its track's id; nothing where it is gone. */
  learnt(track: string, looks: Looks): Change[];
  stop(at: Instant): Change[];
};

const whole: Box = [0, 0, 1, 1];
const nowhere: Box = [0, 0, 0, 0];
const passedEveryMs = 1000;
/** The place's clock may be set back; beyond this, what is open ends and the sieve starts again. */
const backwardsMs = 2000;

/** What is followed by: the site as it is set up, or as a walk test asks it. */
export type FollowedSite = Pick<SiteBook, 'file' | 'compiled' | 'modes' | 'version'>;

/** Where a live sieve's inputs are recorded; a walk test's are not. */
export type Recorder = { readonly detections: Pick<Detections, 'frame' | 'note'>; readonly now: () => Instant };

/** @param test the walk test that events are of; none of what happens by itself */
export function startFollow(
  site: FollowedSite,
  lastEvents: readonly (readonly [string, Instant])[],
  record?: Recorder,
  test?: string,
): Follow {
  const modesNow = () => site.modes.map((m) => [m.area, m.mode] as const);
  const begin = (lasts: readonly (readonly [string, Instant])[], at?: Instant): SieveState => {
    const modes = modesNow();
    if (record) record.detections.note({ kind: 'start', at: at ?? record.now(), modes, lasts: [...lasts] });
    return startState(modes, lasts);
  };
  const noteSite = () => record?.detections.note({ kind: 'site', at: record.now(), version: site.version });
  noteSite();
  let state: SieveState = begin(lastEvents);
  const followed = new Map<string, Followed>();
  const keyOf = (t: TrackView) => `${t.camera} ${t.key}`;
  const newest = new Map<string, SafePicture>();
  /** The newest time that was taken in, by camera: cameras take turns at the detector, so only each by itself is in order. */
  const latest = new Map<string, Instant>();

  const take = (input: Input): Change[] => stepped(input).flatMap(changesOf);
  /** Takes an input in and records it; of the clock only what it ended, since nothing else comes of it. */
  const stepped = (input: Input): Outcome[] => {
    if (input.kind === 'frame') record?.detections.frame(input.frame);
    const before = input.kind === 'clock' && record ? followedNow() : 0;
    const result = step(site.compiled, state, input);
    state = result.state;
    const isNoted = input.kind !== 'frame' && (input.kind !== 'clock' || (record && followedNow() !== before));
    if (isNoted) record?.detections.note({ kind: 'input', input });
    return result.outcomes;
  };
  const followedNow = () => [...state.trackers.values()].reduce((sum, t) => sum + t.tracks.length, 0);

  const changesOf = (outcome: Outcome): Change[] => {
    if (outcome.kind === 'reported') return [];
    if (outcome.kind === 'event') {
      const thing = outcome.track ? asFollowed(outcome.track) : outcome.camera && asZone(outcome, outcome.camera);
      return thing ? [{ kind: 'event', event: eventOf(outcome, thing) }] : [];
    }
    const thing = asFollowed(outcome.track);
    followed.delete(keyOf(outcome.track));
    return thing ? [{ kind: 'track', thing, trails: outcome.trails }] : [];
  };
  const eventOf = (passed: SieveEvent, thing: FollowedThing): NewEvent => {
    const { at, area, rule } = passed;
    const id = sameId(thing.id, rule, at, test ?? '');
    const known = passed.track && followed.get(keyOf(passed.track));
    if (known) {
      const { events = [], quality = 0 } = known.notified ?? {};
      known.notified = { events: [...events, id], quality: Math.max(quality, thing.best.quality) };
    }
    return { kind: thing.kind, id, at, area, rule, passed, thing, test, picture: { taken: thing.best } };
  };
  const asFollowed = (view: TrackView): FollowedThing | undefined => {
    const known = followed.get(keyOf(view));
    if (!known) return undefined;
    return { kind: 'track', id: known.id, view, path: thinned(known.path), best: known.best, snapshots: snapshotsOf(known) };
  };
  /** No one being there, or too few, is of no track: what is kept is the whole picture of that moment. */
  const asZone = ({ at, rule }: SieveEvent, camera: string): FollowedThing | undefined => {
    const picture = newest.get(camera);
    if (!picture) return undefined;
    const named = site.file.rules?.find((r) => r.id === rule)?.classes[0];
    const cls = (named && classOf(named)) ?? 'other';
    const view: TrackView = { camera, key: `zone ${rule}`, name: '', class: cls, score: 1, box: whole, firstSeen: at, lastSeen: at };
    const best = { picture, box: whole, quality: 0 };
    return { kind: 'zone', id: sameId(camera, rule, at), view, path: [[at, whole]], best, snapshots: [] };
  };

  const startAnew = (at: Instant): Change[] => {
    const changes = take({ kind: 'end', at: Math.max(...latest.values()) });
    const lasts = [...state.lastEvents].filter(([, last]) => last <= at);
    state = begin(lasts, at);
    followed.clear();
    latest.clear();
    return changes;
  };
  /** A time that does not go backwards; the site's clock may have been set back, and then all starts again. */
  const reach = (camera: string, at: Instant): { readonly at: Instant; readonly changes: Change[] } => {
    const before = latest.get(camera) ?? at;
    const changes = at < before - backwardsMs ? startAnew(at) : [];
    const reached = Math.max(at, latest.get(camera) ?? at);
    latest.set(camera, reached);
    return { at: reached, changes };
  };

  const watched = (
    { picture, frame, sightings }: Watched,
    at: Instant,
    idOf: (track: TrackView) => string = () => randomUUID(),
  ): Change[] => {
    newest.set(frame.camera, picture);
    const given = asRecorded({ ...frame, at });
    const quality = new Map(given.objects.map((o, i) => [o.box, sightings[i]?.quality ?? 0]));
    // What a track looks like must be known before it can become an event, so the pictures are noted between tracking and telling.
    const outcomes = stepped({ kind: 'frame', frame: given });
    const better: Change[] = [];
    for (const t of [...openTracks(state, frame.camera), ...outcomes.map((o) => ('track' in o ? o.track : undefined))]) {
      if (t?.lastSeen !== given.at) continue;
      note(followed, keyOf(t), given.at, { picture, box: t.box, quality: quality.get(t.box) ?? 0 }, () => idOf(t));
      better.push(...betterOf(t, followed.get(keyOf(t))));
    }
    return [...better, ...outcomes.flatMap(changesOf)];
  };
  const betterOf = (view: TrackView, known: Followed | undefined): Change[] => {
    if (!known?.notified || !isClearlyBetter(known.best.quality, known.notified.quality)) return [];
    known.notified.quality = known.best.quality;
    return [{ kind: 'better', thing: asFollowed(view)!, events: known.notified.events }];
  };

  return {
    watched(seen) {
      const { at, changes } = reach(seen.frame.camera, seen.frame.at);
      return [...changes, ...watched(seen, at)];
    },
    delivered({ frame, picture, arrivedAt, delivery }) {
      // Its clock may be wrong, and what it says may come late: time does not run back for that, nor ahead.
      const at = Math.max(Math.min(frame.at, arrivedAt), latest.get(frame.camera) ?? -Infinity);
      latest.set(frame.camera, at);
      const sightings = frame.objects.map((o) => ({ ...o, quality: o.score }));
      return watched({ picture, frame, sightings }, at, (t) => sameId(frame.camera, delivery, t.name));
    },
    passed(picture) {
      const { camera } = picture;
      if (!site.compiled.cameras.get(camera)?.numbers.length || picture.at - (latest.get(camera) ?? -Infinity) < passedEveryMs) return [];
      newest.set(camera, picture);
      const { at, changes } = reach(camera, picture.at);
      return [...changes, ...take({ kind: 'frame', frame: asRecorded({ at, camera, objects: [], looked: nowhere }) })];
    },
    tick: (at) => ([...latest.values()].some((last) => at < last - backwardsMs) ? startAnew(at) : take({ kind: 'clock', at })),
    changed(change) {
      if (change.kind === 'site') {
        noteSite();
        return [];
      }
      const { area, mode, since } = change.change;
      return take({ kind: 'mode', change: { at: since, area, mode } });
    },
    openBoxes: (camera) => openTracks(state, camera).map((t) => t.box),
    currentTrails: (camera) => currentTrails(site.compiled, state, camera),
    open: (camera, at) => openTracks(state, camera, at),
    seen: (camera) => openTracks(state, camera).filter((t) => t.lastSeen === latest.get(camera)),
    resting(lasts) {
      if (record) record.detections.note({ kind: 'resting', at: record.now(), lasts });
      for (const [key, at] of lasts) state.lastEvents.set(key, Math.max(at, state.lastEvents.get(key) ?? -Infinity));
    },
    shown(camera, track, snapshot) {
      const view = openTracks(state, camera).find((t) => t.key === track);
      const known = view && followed.get(keyOf(view));
      if (!known) return [];
      addSnapshot(known, snapshot);
      return betterOf(view, known);
    },
    learnt(track, looks) {
      const found = [...followed].find(([, { id }]) => id === track);
      if (!found) return [];
      const [camera, key] = found[0].split(' ', 2) as [string, string];
      return take({ kind: 'learnt', at: latest.get(camera) ?? 0, camera, track: key, looks });
    },
    stop: (at) => take({ kind: 'end', at }),
  };
}

/** The live sieve on the bus: what comes of each input is committed. */
export type Tracking = {
  /** Hands over what came of an input that was given to the sieve beside the bus. */
  commit(changes: readonly Change[]): void;
};

export function startTracking(follow: Follow, bus: Bus, persist: Pick<Persist, 'commit'>): Tracking {
  // Nothing of it belongs together but what its camera saw: each is written by itself, so that no event waits for a track that is over.
  const commit = (changes: readonly Change[]) => {
    for (const change of changes)
      // A failure was reported where it came up, and what waits longer than the program lives is lost with it.
      persist.commit({ lane: laneOf(change), changes: [change] }).catch(() => {});
  };
  bus.on('picture', 'Tracking', ({ picture }) => commit(follow.passed(picture)));
  bus.on('watched', 'Tracking', (watched) => {
    commit(follow.watched(watched));
    const { camera } = watched.frame;
    const tracks = follow.seen(camera);
    if (tracks.length) bus.publish('sighted', { camera, at: tracks[0]!.lastSeen, tracks });
  });
  bus.on('reached', 'Tracking', (at) => commit(follow.tick(at)));
  bus.on('learnt', 'Tracking', ({ track, looks }) => commit(follow.learnt(track, looks)));
  bus.on('site', 'Tracking', (change) => commit(follow.changed(change)));
  return { commit };
}

/** All that tracking makes is of a camera. */
export const laneOf = (change: Change): string => {
  const thing = change.kind !== 'event' ? change.thing : 'thing' in change.event ? change.event.thing : undefined;
  return thing?.view.camera ?? '';
};
