// What paired cameras sent, a queue for each camera, into the sieve. What was accepted stays due until what became of it is on disk,
// in one transaction with that; after a kill it is fed again, and what the sieve knew before is fed to it first.

import { nothingMoves } from '@nibber/core/motion';
import type { Instant } from '@nibber/core/time';
import type { Frame } from '@nibber/core/tracks';
import { inTurn } from '../base/in-turn';
import { log } from '../base/log';
import { noPicture } from '../media/drawings';
import type { ClipBuffer } from '../media/clip-buffer';
import { isByInfrared } from '../media/small';
import type { Bus } from '../base/bus';
import type { Failures } from '../base/failures';
import { problemsOf, type Station } from '../base/station';
import type { DeliveryRow, Record } from '../db';
import type { SiteBook } from '../db/site';
import { isOfDisk } from '../db/disk-problem';
import type { Delivered, SafePicture } from '../base/picture';
import { understand } from './delivery';
import type { Change, Persist } from '../base/events';
import { pause } from '../base/pause';

export type Deliveries = Station & {
  /** Something of a camera is due. */
  wake(camera: string): void;
};

export type DeliveriesNeeds = {
  readonly record: Record;
  readonly site: SiteBook;
  readonly recent: ClipBuffer;
  readonly bus: Bus;
  readonly failures: Pick<Failures, 'report'>;
  readonly persist: Pick<Persist, 'commit'>;
  /** Feeds the sieve. What it throws keeps the delivery from being done; other listeners hear of it on the bus. */
  readonly follow: (delivered: Delivered) => readonly Change[];
  /** What came before has been fed again. */
  readonly remembered: () => void;
};

const retryMs = 2000;
/** One that still fails then is set aside, so that it holds up no other. */
const maxAttempts = 3;
const atATime = 50;
/** So many are kept of each camera to show what came; their pictures stay with the tracks they belong to. */
const maxKept = 1000;
const pruneEvery = 200;
/** The recent events of a camera, and so many, from which its open tracks are rebuilt. */
const rememberedMs = 5 * 60_000;
const maxRemembered = 300;

/** From when on each paired camera's deliveries are fed again at start. */
export async function rememberedSince({ deliveries }: Record): Promise<Map<string, Instant>> {
  return new Map([...(await deliveries.newestDone())].map(([camera, at]) => [camera, at - rememberedMs]));
}

/** @param since by camera: from when on it is fed again what came before the program was started */
export async function startDeliveries(needs: DeliveriesNeeds, since: ReadonlyMap<string, number>): Promise<Deliveries> {
  const { record, recent, bus, persist } = needs;
  const { deliveries } = record;
  const queues = inTurn();
  const problems = new Map<string, string>();
  const taken = new Map<string, number>();
  const attempts = new Map<string, number>();
  const closing = new AbortController();
  const isKnown = (camera: string) => needs.site.file.cameras.some((c) => c.id === camera);

  const deliveredOf = (row: DeliveryRow, frames: readonly Frame[], picture: SafePicture): Delivered[] =>
    frames.map((frame) => {
      const objects = frame.objects.map((o, i) => ({ ...o, track: o.track ?? `${row.id}-${i}` }));
      return { frame: { ...frame, objects }, picture, arrivedAt: row.at, delivery: row.id };
    });
  /** Feeds one delivery; what becomes of it, and that it is done, are one transaction. */
  const take = async (row: DeliveryRow) => {
    const settle = async (state: DeliveryRow['state'], why: string | null) =>
      record.write((transaction) => deliveries.settle(row.id, state, why, transaction));
    if (!isKnown(row.camera)) return settle('done', null);
    let frames: readonly Frame[];
    try {
      frames = framesOf(row);
    } catch (thrown) {
      // It was understood when it came; should it no longer be, it must not hold up what came after it.
      log.error({ delivery: row.id, why: (thrown as Error).message }, 'an event of a camera is set aside');
      return settle('set-aside', (thrown as Error).message);
    }
    const picture = await pictureOf(row);
    const delivered = deliveredOf(row, frames, picture);
    const changes = delivered.flatMap(needs.follow);
    delivered.forEach((d) => bus.publish('delivered', d));
    await persist.commit({ lane: row.camera, changes, delivery: row.id });
  };
  /** @throws while it is worth another attempt */
  const takeOrSetAside = async (row: DeliveryRow) => {
    try {
      await take(row);
    } catch (thrown) {
      // A full disk is waited for, and is no fault of the delivery.
      if (isOfDisk(thrown)) throw thrown;
      const count = (attempts.get(row.id) ?? 0) + 1;
      attempts.set(row.id, count);
      if (count < maxAttempts) throw thrown;
      needs.failures.report('Deliveries', thrown);
      await record.write((transaction) => deliveries.settle(row.id, 'set-aside', (thrown as Error).message, transaction));
    }
    attempts.delete(row.id);
  };
  const pictureOf = async (row: DeliveryRow): Promise<SafePicture> => {
    const rest = { camera: row.camera, motion: nothingMoves };
    const held = (await record.media.of('delivery', [row.id])).get(row.id)?.picture;
    if (held)
      try {
        const jpeg = await record.media.read(held.name);
        const picture = { ...rest, at: row.at, jpeg, isInfrared: row.isInfrared ?? (await isByInfrared(jpeg)) };
        recent.add(picture);
        return picture;
      } catch (thrown) {
        if (isOfDisk(thrown)) throw thrown;
        log.warn({ delivery: row.id, why: (thrown as Error).message }, 'its picture can no longer be read');
      }
    return recent.latest(row.camera) ?? { ...rest, at: row.at, jpeg: await noPicture(), isInfrared: false };
  };

  const run = async (camera: string) => {
    for (;;) {
      const due = await deliveries.due(camera, atATime);
      for (const row of due) {
        if (closing.signal.aborted) return;
        await takeOrSetAside(row);
        problems.delete(camera);
        bus.publish('arrived', { camera });
        const count = (taken.get(camera) ?? 0) + 1;
        taken.set(camera, count);
        if (count % pruneEvery === 0) await deliveries.prune(camera, maxKept);
      }
      if (due.length < atATime) return;
    }
  };
  const wake = (camera: string) => {
    // One that waits already looks for all that is due when its turn comes.
    if (closing.signal.aborted || queues.waiting(camera) > 1) return;
    void queues.add(camera, async () => {
      while (!closing.signal.aborted)
        try {
          return await run(camera);
        } catch (thrown) {
          problems.set(camera, (thrown as Error).message);
          log.error({ camera, error: (thrown as Error).message }, 'events of a camera wait');
          await pause(retryMs, closing.signal);
        }
    });
  };

  const remember = async () => {
    for (const [camera, from] of since) {
      if (!isKnown(camera)) continue;
      for (const row of await deliveries.doneSince(camera, from, maxRemembered)) {
        const picture = await pictureOf(row);
        try {
          // What came of it then is stored, or comes of what is still due.
          deliveredOf(row, framesOf(row), picture).forEach(needs.follow);
        } catch (thrown) {
          log.warn({ delivery: row.id, why: (thrown as Error).message }, 'not remembered');
        }
      }
    }
  };
  await remember();
  needs.remembered();
  (await deliveries.camerasDue()).forEach(wake);

  return {
    name: 'deliveries',
    wake,
    problems: () => {
      const nameOf = (camera: string) => needs.site.compiled.cameras.get(camera)?.name ?? camera;
      return problemsOf('degraded', ...[...problems].map(([camera, why]) => `Events of ${nameOf(camera)} are waiting: ${why}`));
    },
    async close() {
      closing.abort();
      await queues.idle();
    },
  };
}

/** As they were understood when it came; of what came before that was kept, understood again. @throws Problem */
const framesOf = (row: DeliveryRow): readonly Frame[] => row.frames ?? understand(row.body, row.camera).frames;
