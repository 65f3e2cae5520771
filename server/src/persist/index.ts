// The one door: stores what happened. Files first, then one transaction with everything that belongs together; only then is it published.

import type { Transaction } from 'sequelize';
import type { Trail } from '@nibber/core/sieve';
import type { Clock } from '../base/clock';
import { log } from '../base/log';
import { startClips, type Made } from '../media/clips';
import { noPicture } from '../media/drawings';
import type { Masks } from '../media/masks';
import type { ClipBuffer } from '../media/clip-buffer';
import type { Record } from '../db';
import type { StoreFile } from '../db/media';
import type { SiteBook } from '../db/site';
import { isOfDisk } from '../db/disk-problem';
import type { Channel } from '../notify/channels';
import { whoIsNotified } from '../notify/recipients';
import { askedAgain } from '../notify/describe';
import type { WorkBudgets } from './budgets';
import { eventPictures, showBetter } from './pictures';
import { eventRow, isWatching, trackRow, trailRow } from './rows';
import { startWriting, type Rows, type Thing } from './writing';
import type { Change, EventPicture, FollowedThing, NewEvent, Persist, Snapshot, Stored } from '../base/events';
import type { StoredFile } from '../base/picture';

export type PersistNeeds = {
  readonly record: Record;
  readonly site: SiteBook;
  readonly clock: Clock;
  readonly recent: ClipBuffer;
  readonly masks: Masks;
  readonly channels: readonly Channel[];
  readonly canMakeClips: boolean;
  /** How much of the machine a camera may take; its usual share if absent. */
  readonly budgets?: WorkBudgets;
  /** Called when something is on disk. */
  readonly stored: (what: Stored) => void;
};

/** While nothing can be written an event is held for as long as it takes; of all else, only so many in each lane. */
const maxWaiting = 500;

export async function startPersist(needs: PersistNeeds): Promise<Persist> {
  const { record, site, clock, stored } = needs;
  const writing = startWriting(record, clock, needs.budgets);
  const clips = startClips({
    ...needs,
    write: (event, camera, made) => writing.take(camera, [clipThing(needs, event, camera, made)]).catch(() => {}),
  });
  await record.events.endOpenClips('The program ended while the clip was being recorded.');

  const thingOf = (change: Change): Thing => {
    switch (change.kind) {
      case 'event':
        return eventThing(needs, change.event, () => {
          stored({ kind: 'event', id: change.event.id });
          const { event } = change;
          if (event.kind === 'track' || event.kind === 'zone')
            clips.gather({ id: event.id, track: event.thing.id, camera: event.thing.view.camera, at: event.at });
        });
      case 'track':
        return trackThing(needs, change.thing, change.trails);
      case 'better':
        return betterThing(needs, change.thing, change.events);
    }
  };

  return {
    name: 'keep',
    commit({ lane, changes, delivery, log: lines = [], rows }) {
      for (const c of changes) if (c.kind === 'track') clips.trackOver(c.thing.id, c.thing.view.lastSeen);
      const taken = writing.waiting(lane) < maxWaiting ? changes : changes.filter((c) => c.kind === 'event');
      if (taken.length < changes.length) log.error({ lane }, 'too much is waiting to be written; tracks are dropped');
      if (taken.length === 0 && delivery === undefined && lines.length === 0 && !rows) return Promise.resolve();
      return writing.take(lane, taken.map(thingOf), async (transaction, refused) => {
        for (const { who, what, event } of lines) await record.logbook.note(transaction, clock.now(), who, what, event);
        await rows?.(transaction);
        if (delivery === undefined) return;
        const [state, why] = refused.length ? (['set-aside', refused.join(' · ')] as const) : (['done', null] as const);
        await record.deliveries.settle(delivery, state, why, transaction);
      });
    },
    problems: () => writing.problems((id) => site.compiled.cameras.get(id)?.name ?? id),
    ending: writing.ending,
    async close() {
      await clips.finish();
      await writing.idle();
    },
  };
}

/** An event with its pictures, its track as it is by now, and who is notified of it. */
function eventThing(needs: PersistNeeds, event: NewEvent, done: () => void): Thing {
  const { record, site, clock } = needs;
  const { id } = event;
  const camera = cameraOf(event);
  return {
    what: `an event of ${event.rule ?? event.kind}`,
    done,
    async prepare(storeFile, isLastTry) {
      const shown = event.picture && (await filesOf(needs, event, event.picture, storeFile, isLastTry));
      return async (transaction) => {
        // Given again after a kill: it is stored already, and its alerts were made.
        if (await record.events.has(id, transaction)) return;
        const isTest = 'test' in event && event.test !== undefined;
        if (event.kind === 'track') {
          await keepTrack(needs, event.thing, shown!.files.picture, true, event.test, transaction);
          await record.tracks.keepTrail(trailRow(event.thing.id, event.passed.trail), transaction);
        }
        await record.events.add(eventRow(site, event), transaction);
        if (shown) {
          const holding = { holder: 'event', holderId: id, camera: camera ?? null, takenAt: shown.takenAt } as const;
          await record.media.hold(transaction, ...Object.entries(shown.files).map(([role, file]) => ({ ...holding, role, file })));
        }
        if (event.rule === undefined) return;
        const passed = { at: event.at, rule: event.rule, camera, area: event.area };
        const { alerts, jobs } = await whoIsNotified(needs, id, passed, isTest, transaction);
        await record.alerts.add(alerts, transaction);
        await record.jobs.add(jobs, clock.machine(), transaction);
      };
    },
  };
}

const cameraOf = (event: NewEvent): string | undefined =>
  'thing' in event ? event.thing.view.camera : 'camera' in event ? event.camera : undefined;

type Shown = { readonly takenAt: number; readonly files: { readonly picture: StoredFile } & { readonly [role: string]: StoredFile } };

/** The files of an event by what each shows. One of which nothing is to be marked is shown whole. */
async function filesOf(
  needs: Pick<PersistNeeds, 'masks'>,
  event: NewEvent,
  picture: EventPicture,
  storeFile: StoreFile,
  isLastTry: boolean,
): Promise<Shown> {
  const whole = (file: StoredFile) => ({ picture: file, marked: file, notice: file });
  if ('stored' in picture) return { takenAt: picture.takenAt, files: whole(picture.stored) };
  const { taken } = picture;
  const make = async (jpeg: Buffer) =>
    'thing' in event ? eventPictures(storeFile, jpeg, taken.box, event.thing.view.class) : whole(await storeFile(jpeg, 'jpg'));
  return { takenAt: taken.picture.at, files: await ofPicture(needs, taken, isLastTry, make) };
}

/** Makes something of a picture; on the last try a drawn one stands in, so that the event itself is not lost. */
async function ofPicture<T>(
  { masks }: Pick<PersistNeeds, 'masks'>,
  { picture }: Snapshot,
  isLastTry: boolean,
  make: (jpeg: Buffer) => Promise<T>,
): Promise<T> {
  try {
    return await make((await masks.upToDate(picture)).jpeg);
  } catch (thrown) {
    if (!isLastTry || isOfDisk(thrown)) throw thrown;
    log.warn({ camera: picture.camera, error: (thrown as Error).message }, 'a picture cannot be used; a drawn one is used instead');
    return make(await noPicture());
  }
}

async function keepTrack(
  { record }: Pick<PersistNeeds, 'record'>,
  thing: FollowedThing,
  picture: StoredFile,
  hasEvent: boolean,
  test: string | undefined,
  transaction: Transaction,
  trails: readonly Trail[] = [],
): Promise<void> {
  await record.tracks.keep(trackRow(thing, hasEvent, test, trails), transaction);
  const holding = { holder: 'track', holderId: thing.id, role: 'picture', camera: thing.view.camera } as const;
  await record.media.hold(transaction, { ...holding, takenAt: thing.best.picture.at, file: picture });
}

/** A track that is over, with how far it came by each rule; its events are given the pictures there are of it. */
function trackThing(needs: PersistNeeds, thing: FollowedThing, trails: readonly Trail[]): Thing {
  const { record, stored } = needs;
  return {
    what: 'a track',
    done: () => stored({ kind: 'track', id: thing.id }),
    async prepare(storeFile, isLastTry) {
      const picture = await ofPicture(needs, thing.best, isLastTry, (jpeg) => storeFile(jpeg, 'jpg'));
      const snapshots = await Promise.all(
        thing.snapshots.map(async (snapshot) => ({
          snapshot,
          file: await storeFile((await needs.masks.upToDate(snapshot.picture)).jpeg, 'jpg'),
        })),
      ).catch((thrown: unknown) => {
        // Without them there is no choice, and nothing else is lost.
        if (!isLastTry || isOfDisk(thrown)) throw thrown;
        return [];
      });
      return async (transaction) => {
        await keepTrack(needs, thing, picture, false, undefined, transaction, trails);
        if (snapshots.length) await keepSnapshots(needs, thing, snapshots, transaction);
        for (const t of trails.filter(isWatching)) await record.tracks.keepTrail(trailRow(thing.id, t), transaction);
      };
    },
  };
}

async function keepSnapshots(
  { record, site, clock }: PersistNeeds,
  { id, view: { camera } }: FollowedThing,
  snapshots: readonly { readonly snapshot: Snapshot; readonly file: StoredFile }[],
  transaction: Transaction,
): Promise<void> {
  for (const event of await record.events.ofTrack(id, transaction)) {
    const holding = { holder: 'event', holderId: event.id, camera } as const;
    const held = snapshots.map(({ snapshot, file }, i) => ({ ...holding, role: `snapshot ${i}`, takenAt: snapshot.picture.at, file }));
    await record.media.hold(transaction, ...held);
    await record.jobs.add(askedAgain(site.file, event), clock.machine(), transaction);
    const rows = snapshots.map(({ snapshot: { picture, box, quality } }) => ({ at: picture.at, box, quality }));
    await record.events.change(event.id, { snapshots: rows }, transaction);
  }
}

function betterThing(needs: PersistNeeds, { best, view }: FollowedThing, events: readonly string[]): Thing {
  const { record, site, clock, stored } = needs;
  return {
    what: 'a better picture',
    done: () => events.forEach((id) => stored({ kind: 'event', id })),
    async prepare(storeFile, isLastTry) {
      const pictures = await ofPicture(needs, best, isLastTry, (jpeg) => eventPictures(storeFile, jpeg, best.box, view.class));
      const chosen = { at: best.picture.at, box: best.box, by: null };
      return async (transaction) => {
        for (const id of events) {
          if (!(await showBetter({ ...needs, machine: clock.machine() }, id, pictures, chosen, transaction))) continue;
          const event = await record.events.find(id, transaction);
          // One that is not described yet will be with this picture.
          if (event?.description) await record.jobs.add(askedAgain(site.file, event), clock.machine(), transaction);
        }
      };
    },
  };
}

function clipThing({ record, stored }: PersistNeeds, event: string, camera: string, made: Made): Thing {
  return {
    what: 'a clip',
    done: () => stored({ kind: 'clip', id: event }),
    async prepare(storeFile): Promise<Rows> {
      const file = made.bytes && (await storeFile(made.bytes, 'mp4'));
      return async (transaction) => {
        // It may have been deleted while its clip was being made.
        if (!(await record.events.has(event, transaction))) return;
        const holding = { holder: 'event', holderId: event, role: 'clip', camera } as const;
        if (file) await record.media.hold(transaction, { ...holding, takenAt: made.from, file });
        else await record.events.change(event, { clipProblem: made.problem }, transaction);
      };
    },
  };
}
