// What paired cameras sent, a queue for each camera, into the sieve. What was accepted stays due until what became of it is on disk,
// in one transaction with that; after a kill it is fed again, and what the sieve knew before is fed to it first.

import { col, fn, literal, Op } from 'sequelize';
import { nothingMoves } from '@nibber/core/motion';
import type { Frame } from '@nibber/core/tracks';
import { understand } from '../intake/delivery';
import { log } from '../log';
import type { DeliveryRow, Record } from '../record';
import { removeUnused } from '../record/kept';
import type { SiteBook } from '../record/site';
import { isOfDisk } from '../record/trouble';
import { isByInfrared } from '../watch/small';
import type { SafePicture } from '../watch';
import { noPicture } from './drawings';
import type { Follow } from './index';
import type { LiveKeeper } from './keeper';
import { oneByOne } from './one-by-one';
import type { Recent } from './recent';

export type Deliveries = {
  /** Something of a camera is due. */
  wake(camera: string): void;
  trouble(): string | undefined;
  settled(): Promise<void>;
};

export type DeliveriesParts = {
  readonly record: Record;
  readonly site: SiteBook;
  readonly recent: Recent;
  readonly follow: Pick<Follow, 'told'>;
  readonly keeper: Pick<LiveKeeper, 'together' | 'remembering'>;
  /** A delivery has gone through. */
  readonly arrived: (camera: string) => void;
  /** What came before has been fed again. */
  readonly remembered: () => void;
};

const retryMs = 2000;
const atATime = 50;
/** So many are kept of each camera to show what came; their pictures stay with the tracks they belong to. */
const mostKept = 1000;
const pruneEvery = 200;
/** What a camera told in its last minutes, and so much of it, is what its open tracks are made of. */
const rememberedMs = 5 * 60_000;
const mostRemembered = 300;
/** In the order in which they were accepted. */
const asAccepted = [
  ['at', 'ASC'],
  [literal('rowid') as unknown as string, 'ASC'],
] as [string, string][];

/** From when on each paired camera's deliveries are fed again at start. */
export async function rememberedSince({ tables }: Record): Promise<Map<string, number>> {
  const rows = (await tables.deliveries.findAll({
    attributes: ['camera', [fn('MAX', col('at')), 'at']],
    where: { state: { [Op.ne]: 'due' } },
    group: ['camera'],
    raw: true,
  })) as unknown as { camera: string; at: number }[];
  return new Map(rows.map(({ camera, at }) => [camera, at - rememberedMs]));
}

/** @param since by camera: from when on it is fed again what came before the program was started */
export async function startDeliveries(parts: DeliveriesParts, since: ReadonlyMap<string, number>): Promise<Deliveries> {
  const { record, recent, follow, keeper } = parts;
  const { deliveries } = record.tables;
  const queues = oneByOne();
  const troubles = new Map<string, string>();
  const taken = new Map<string, number>();
  const pauses = new Set<() => void>();
  let isClosed = false;
  const isKnown = (camera: string) => parts.site.file.cameras.some((c) => c.id === camera);

  const feed = (row: DeliveryRow, frames: readonly Frame[], picture: SafePicture) => {
    for (const frame of frames)
      follow.told(
        { ...frame, objects: frame.objects.map((o, i) => ({ ...o, track: o.track ?? `${row.id}-${i}` })) },
        picture,
        row.at,
        row.id,
      );
  };
  /** Feeds one delivery; what becomes of it, and that it is done, are one transaction. */
  const take = async (row: DeliveryRow) => {
    const settle = async (state: DeliveryRow['state'], why: string | null) =>
      void (await record.write((transaction) => deliveries.update({ state, why }, { where: { id: row.id }, transaction })));
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
    await keeper.together(
      row.camera,
      () => feed(row, frames, picture),
      (transaction, refused) =>
        deliveries.update(refused.length ? { state: 'set-aside', why: refused.join(' · ') } : { state: 'done' }, {
          where: { id: row.id },
          transaction,
        }),
    );
  };
  const pictureOf = async (row: DeliveryRow): Promise<SafePicture> => {
    const rest = { camera: row.camera, motion: nothingMoves };
    if (row.picture)
      try {
        const jpeg = await record.pictures.read(row.picture);
        const picture = { ...rest, at: row.at, jpeg, isInfrared: row.isInfrared ?? (await isByInfrared(jpeg)) };
        recent.add(picture);
        return picture;
      } catch (thrown) {
        if (isOfDisk(thrown)) throw thrown;
        log.warn({ delivery: row.id, why: (thrown as Error).message }, 'its picture cannot be read any more');
      }
    return recent.latest(row.camera) ?? { ...rest, at: row.at, jpeg: await noPicture(), isInfrared: false };
  };

  const run = async (camera: string) => {
    for (;;) {
      const due = await deliveries.findAll({ where: { state: 'due', camera }, order: asAccepted, limit: atATime });
      for (const row of due) {
        if (isClosed) return;
        await take(row.get({ plain: true }));
        troubles.delete(camera);
        parts.arrived(camera);
        const count = (taken.get(camera) ?? 0) + 1;
        taken.set(camera, count);
        if (count % pruneEvery === 0) await prune(camera);
      }
      if (due.length < atATime) return;
    }
  };
  const prune = async (camera: string) => {
    const over = { camera, state: { [Op.ne]: 'due' as const } };
    const oldest = await deliveries.findOne({ where: over, order: [['at', 'DESC']], offset: mostKept });
    if (!oldest) return;
    const where = { ...over, at: { [Op.lte]: oldest.at } };
    const gone = await deliveries.findAll({ attributes: ['picture'], where });
    await record.write((transaction) => deliveries.destroy({ where, transaction }));
    await removeUnused(record, new Set(gone.flatMap((d) => d.picture ?? [])), parts.site.file.plan?.picture);
  };
  /** @returns whether the pause was not cut short by the end */
  const pause = () =>
    new Promise<void>((resolve) => {
      const done = () => {
        clearTimeout(timer);
        pauses.delete(done);
        resolve();
      };
      const timer = setTimeout(done, retryMs);
      pauses.add(done);
    });
  const wake = (camera: string) => {
    // One that waits already looks for all that is due when its turn comes.
    if (isClosed || queues.waiting(camera) > 1) return;
    void queues.add(camera, async () => {
      while (!isClosed)
        try {
          return await run(camera);
        } catch (thrown) {
          troubles.set(camera, (thrown as Error).message);
          log.error({ camera, error: (thrown as Error).message }, 'events of a camera wait');
          await pause();
        }
    });
  };

  const remember = async () => {
    for (const [camera, from] of since) {
      if (!isKnown(camera)) continue;
      const newest = await deliveries.findAll({
        where: { camera, state: { [Op.ne]: 'due' }, at: { [Op.gte]: from } },
        order: asAccepted.map(([by]) => [by, 'DESC'] as [string, string]),
        limit: mostRemembered,
      });
      for (const row of newest.reverse()) {
        const picture = await pictureOf(row);
        try {
          const frames = framesOf(row);
          keeper.remembering(() => feed(row, frames, picture));
        } catch (thrown) {
          log.warn({ delivery: row.id, why: (thrown as Error).message }, 'not remembered');
        }
      }
    }
  };
  await remember();
  parts.remembered();
  const due = await deliveries.findAll({ attributes: ['camera'], where: { state: 'due' }, group: ['camera'], raw: true });
  due.forEach(({ camera }) => wake(camera));

  return {
    wake,
    trouble() {
      const [first] = troubles;
      return first && `Events of ${parts.site.compiled.cameras.get(first[0])?.name ?? first[0]} wait to be looked at: ${first[1]}`;
    },
    async settled() {
      isClosed = true;
      pauses.forEach((end) => end());
      await queues.idle();
    },
  };
}

/** As they were understood when it came; of what came before that was kept, understood anew. @throws Trouble */
const framesOf = (row: DeliveryRow): readonly Frame[] => row.frames ?? understand(row.body, row.camera).frames;
