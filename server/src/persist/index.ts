// Stores what the sieve decided: pictures first, then one transaction with everything that belongs together; only then alerts.

import type { Transaction } from 'sequelize';
import type { SieveEvent } from '@nibber/core/sieve';
import type { Clock } from '../base/clock';
import { sameId } from '../tracking/same-id';
import { log } from '../base/log';
import { startClips } from '../media/clips';
import { noPicture } from '../media/drawings';
import type { Masks } from '../media/masks';
import type { ClipBuffer } from '../media/clip-buffer';
import type { EventRow, Record, TrackRow } from '../db';
import type { StoreFile, StoredFile } from '../db/media';
import type { SiteBook } from '../db/site';
import { isOfDisk } from '../db/disk-problem';
import type { Channel } from '../notify/channels';
import { whoIsNotified } from '../notify/recipients';
import { askedAgain } from '../notify/describe';
import type { WorkBudgets } from './budgets';
import { eventPictures, showBetter } from './pictures';
import { startWriting } from './writing';
import type { FollowedThing, LivePersist, Snapshot, Stored } from '../base/events';

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

const maxWaiting = 500;

export async function startPersist(needs: PersistNeeds): Promise<LivePersist> {
  const { record, site, clock, masks, stored } = needs;
  const writing = startWriting(record, clock, needs.budgets);
  let isRemembering = false;
  const clips = startClips({
    ...needs,
    write: (event, camera, made) =>
      writing.take(camera, {
        what: 'a clip',
        async prepare(keep) {
          const file = made.bytes && (await keep(made.bytes, 'mp4'));
          return async (transaction) => {
            // It may have been deleted while its clip was being made.
            if (!(await record.events.has(event, transaction))) return;
            const holding = { holder: 'event', holderId: event, role: 'clip', camera } as const;
            if (file) await record.media.hold(transaction, { ...holding, takenAt: made.from, file });
            else await record.events.change(event, { clipProblem: made.problem }, transaction);
          };
        },
        done: () => stored({ kind: 'clip', id: event }),
      }),
  });
  await record.events.endOpenClips('The program ended while the clip was being recorded.');

  /** Makes something of the picture that shows a thing best; on the last try a drawn one stands in, so that the event itself is not lost. */
  const ofPicture = async <T>({ best, view }: FollowedThing, isLastTry: boolean, make: (jpeg: Buffer) => Promise<T>): Promise<T> => {
    try {
      return await make((await masks.upToDate(best.picture)).jpeg);
    } catch (thrown) {
      if (!isLastTry || isOfDisk(thrown)) throw thrown;
      log.warn({ camera: view.camera, error: (thrown as Error).message }, 'a picture cannot be used; a drawn one is used instead');
      return make(await noPicture());
    }
  };
  const keepTrack = async (thing: FollowedThing, picture: StoredFile, hasEvent: boolean, test: string | null, transaction: Transaction) => {
    await record.tracks.keep(trackRow(thing, hasEvent, test), transaction);
    const holding = { holder: 'track', holderId: thing.id, role: 'picture', camera: thing.view.camera } as const;
    await record.media.hold(transaction, { ...holding, takenAt: thing.best.picture.at, file: picture });
  };

  const eventRows = async (
    storeFile: StoreFile,
    id: string,
    passed: SieveEvent,
    thing: FollowedThing,
    test: string | null,
    isLastTry: boolean,
  ) => {
    // prettier-ignore
    const { best, view } = thing;
    const pictures = await ofPicture(thing, isLastTry, (jpeg) => eventPictures(storeFile, jpeg, best.box, view.class));
    return async (transaction: Transaction) => {
      // Fed again after a kill: it is stored already, and its alerts were made.
      if (await record.events.has(id, transaction)) return;
      if (thing.kind === 'track') {
        await keepTrack(thing, pictures.picture, true, test, transaction);
        await record.tracks.keepTrail({ ...passed.trail, track: thing.id, steps: [...passed.trail.steps] }, transaction);
      }
      await record.events.add(eventRow(site, id, passed, thing, test), transaction);
      const holding = { holder: 'event', holderId: id, camera: view.camera, takenAt: best.picture.at } as const;
      await record.media.hold(transaction, ...Object.entries(pictures).map(([role, file]) => ({ ...holding, role, file })));
      const { alerts, jobs } = await whoIsNotified(needs, id, passed, test !== null, transaction);
      await record.alerts.add(alerts, transaction);
      await record.jobs.add(jobs, clock.machine(), transaction);
    };
  };

  const keepSnapshots = async (
    track: string,
    camera: string,
    snapshots: readonly { snapshot: Snapshot; file: StoredFile }[],
    transaction: Transaction,
  ) => {
    if (snapshots.length === 0) return;
    for (const event of await record.events.ofTrack(track, transaction)) {
      const holding = { holder: 'event', holderId: event.id, camera } as const;
      await record.media.hold(transaction, ...snapshots.map(({ snapshot, file }, i) => ({ ...holding, role: `snapshot ${i}`, takenAt: snapshot.picture.at, file }))); // prettier-ignore
      await record.jobs.add(askedAgain(site.file, event), clock.machine(), transaction);
      await record.events.change(event.id, { snapshots: snapshots.map(({ snapshot }) => ({ at: snapshot.picture.at, box: snapshot.box, quality: snapshot.quality })) }, transaction); // prettier-ignore
    }
  };
  const keep = (event: SieveEvent, thing: FollowedThing, test: string | null) => {
    const { camera } = thing.view;
    const id = sameId(thing.id, event.rule, event.at, test ?? '');
    if (isRemembering) return { id, written: Promise.resolve() };
    const written = new Promise<void>((resolve) => {
      void writing.take(camera, {
        what: `an event of ${event.rule}`,
        prepare: (storeFile, isLastTry) => eventRows(storeFile, id, event, thing, test, isLastTry),
        done() {
          stored({ kind: 'event', id });
          clips.gather({ id, track: thing.id, camera, at: event.at });
          resolve();
        },
      });
    });
    return { id, written };
  };

  return {
    name: 'keep',
    event: (event, thing) => void keep(event, thing, null),
    tested: keep,
    better(thing, events) {
      const { best, view } = thing;
      if (isRemembering || writing.waiting(view.camera) >= maxWaiting) return;
      void writing.take(view.camera, {
        what: 'a better picture',
        async prepare(storeFile, isLastTry) {
          const pictures = await ofPicture(thing, isLastTry, (jpeg) => eventPictures(storeFile, jpeg, best.box, view.class));
          const chosen = { at: best.picture.at, box: best.box, by: null };
          return async (transaction) => {
            for (const { rule, at } of events) await showBetter({ ...needs, machine: clock.machine() }, sameId(thing.id, rule, at, ''), pictures, chosen, transaction); // prettier-ignore
          };
        },
        done: () => events.forEach(({ rule, at }) => stored({ kind: 'event', id: sameId(thing.id, rule, at, '') })),
      });
    },
    ended(thing, trails) {
      const { camera, lastSeen } = thing.view;
      clips.trackOver(thing.id, lastSeen);
      // While nothing can be written an event is held for as long as it takes; of tracks that became none, only so many.
      if (writing.waiting(camera) >= maxWaiting) return log.error({ camera }, 'too much is waiting to be written; a track is dropped');
      void writing.take(camera, {
        what: 'a track',
        async prepare(storeFile, isLastTry) {
          const picture = await ofPicture(thing, isLastTry, (jpeg) => storeFile(jpeg, 'jpg'));
          const snapshots = await Promise.all(
            thing.snapshots.map(async (snapshot) => ({
              snapshot,
              file: await storeFile((await masks.upToDate(snapshot.picture)).jpeg, 'jpg'),
            })),
          ).catch((thrown: unknown) => {
            // Without them there is no choice, and nothing else is lost.
            if (!isLastTry || isOfDisk(thrown)) throw thrown;
            return [];
          });
          return async (transaction) => {
            await keepTrack(thing, picture, false, null, transaction);
            await keepSnapshots(thing.id, camera, snapshots, transaction);
            for (const t of trails) await record.tracks.keepTrail({ ...t, track: thing.id, steps: [...t.steps] }, transaction);
          };
        },
        done: () => stored({ kind: 'track', id: thing.id }),
      });
    },
    together: writing.together,
    remembering(work) {
      isRemembering = true;
      try {
        work();
      } finally {
        isRemembering = false;
      }
    },
    problems: () => writing.problems((id) => site.compiled.cameras.get(id)?.name ?? id),
    ending: writing.ending,
    async close() {
      await clips.finish();
      await writing.idle();
    },
  };
}

const trackRow = ({ id, view, path, best }: FollowedThing, hasEvent: boolean, test: string | null): TrackRow => ({
  id,
  camera: view.camera,
  class: view.class,
  type: view.type ?? null,
  firstSeen: view.firstSeen,
  lastSeen: view.lastSeen,
  path: [...path],
  pictureBox: best.box,
  hasEvent,
  test,
});

function eventRow({ file }: SiteBook, id: string, passed: SieveEvent, thing: FollowedThing, test: string | null): EventRow {
  const { rule, at, trail, thread, area } = passed;
  const { view, best } = thing;
  return {
    id,
    kind: thing.kind,
    rule,
    ruleName: file.rules?.find((r) => r.id === rule)?.name ?? rule,
    camera: view.camera,
    sensor: null,
    area,
    track: thing.kind === 'track' ? thing.id : null,
    at,
    class: view.class,
    type: view.type ?? null,
    box: view.box,
    pictureBox: best.box,
    chosenBy: null,
    snapshots: null,
    clipProblem: null,
    steps: [...trail.steps],
    description: null,
    descriptionProblem: null,
    fields: null,
    question: null,
    mark: null,
    thread: thread.id,
    joins: thread.joins,
    test,
  };
}
