// What paired cameras sent, one after the other into the sieve. What was accepted stays due until it has gone through, also over a restart.

import { Op } from 'sequelize';
import sharp from 'sharp';
import { Trouble } from '@nibber/core/trouble';
import { nothingMoves } from '@nibber/core/motion';
import { understand } from '../intake/delivery';
import { log } from '../log';
import type { DeliveryRow, Record } from '../record';
import { removeUnused } from '../record/kept';
import type { SiteBook } from '../record/site';
import { isByInfrared } from '../watch/small';
import { safePicture, safeWayOf } from '../watch/safe';
import type { SafePicture } from '../watch';
import type { Follow } from './index';
import type { Recent } from './recent';

export type Deliveries = {
  wake(): void;
  /** Keeps a picture as it may be shown: turned, its privacy masks burnt in. @returns its name in the picture store */
  keepPicture(camera: string, jpeg: Buffer): Promise<string>;
  settled(): Promise<void>;
};

export type DeliveriesParts = {
  readonly record: Record;
  readonly site: SiteBook;
  readonly recent: Recent;
  readonly follow: Pick<Follow, 'told'>;
  readonly arrived: (camera: string) => void;
};

const retryMs = 2000;
/** So many are kept of each camera to show what came; their pictures stay with the tracks they belong to. */
const mostKept = 1000;
const pruneEvery = 200;

export function startDeliveries(parts: DeliveriesParts): Deliveries {
  const { record, recent, follow } = parts;
  const { deliveries } = record.tables;
  let running: Promise<void> | undefined;
  let again = false;
  let taken = 0;
  let isClosed = false;

  const run = async () => {
    do {
      again = false;
      const due = await deliveries.findAll({ where: { state: 'due' }, order: [['at', 'ASC']], limit: 100 });
      for (const row of due) {
        if (isClosed) return;
        try {
          await take(row);
        } catch (thrown) {
          // It was understood when it came; should it no longer be, it must not hold up what came after it.
          if (!(thrown instanceof Trouble)) throw thrown;
          log.error({ delivery: row.id, why: thrown.message }, 'an event of a camera is let go');
        }
        await record.write((transaction) => row.update({ state: 'done' }, { transaction }));
        parts.arrived(row.camera);
        if (++taken % pruneEvery === 0) await prune(row.camera);
      }
      again ||= due.length === 100;
    } while (again);
  };
  const prune = async (camera: string) => {
    const oldest = await deliveries.findOne({ where: { camera, state: 'done' }, order: [['at', 'DESC']], offset: mostKept });
    if (!oldest) return;
    const where = { camera, state: 'done' as const, at: { [Op.lte]: oldest.at } };
    const gone = await deliveries.findAll({ attributes: ['picture'], where });
    await record.write((transaction) => deliveries.destroy({ where, transaction }));
    await removeUnused(record, new Set(gone.flatMap((d) => d.picture ?? [])));
  };
  const take = async (row: DeliveryRow) => {
    if (!parts.site.file.cameras.some((c) => c.id === row.camera)) return;
    const picture = await pictureOf(row);
    for (const frame of understand(row.body, row.camera).frames)
      follow.told({ ...frame, objects: frame.objects.map((o, i) => ({ ...o, track: o.track ?? `${row.id}-${i}` })) }, picture, row.at);
  };
  const pictureOf = async (row: DeliveryRow): Promise<SafePicture> => {
    const rest = { camera: row.camera, motion: nothingMoves };
    if (row.picture) {
      const jpeg = await record.pictures.read(row.picture);
      const picture = { ...rest, at: row.at, jpeg, isInfrared: await isByInfrared(jpeg) };
      recent.add(picture);
      return picture;
    }
    return recent.latest(row.camera) ?? { ...rest, at: row.at, jpeg: await noPicture(), isInfrared: false };
  };
  const wake = () => {
    again = true;
    running ??= run()
      .catch((thrown: Error) => {
        log.error({ error: thrown.message }, 'events of cameras wait');
        setTimeout(wake, retryMs).unref();
      })
      .finally(() => {
        running = undefined;
        if (again && !isClosed) wake();
      });
  };
  wake();
  return {
    wake,
    async keepPicture(id, jpeg) {
      const camera = parts.site.file.cameras.find((c) => c.id === id)!;
      const safe = await safePicture(jpeg, safeWayOf(camera)).catch(() => {
        throw new Trouble('bad-input', 'The picture cannot be decoded.', 'Send a whole JPEG, or the event without a picture.');
      });
      return record.pictures.keep(safe, 'jpg');
    },
    async settled() {
      isClosed = true;
      await running;
    },
  };
}

/** Stands where a camera sent an event and never a picture. */
let drawn: Promise<Buffer> | undefined;
const noPicture = () =>
  (drawn ??= sharp(
    Buffer.from(
      '<svg xmlns="http://www.w3.org/2000/svg" width="960" height="540"><rect width="960" height="540" fill="#D8D1C1"/><path d="M330 180h300v180h-300zM330 180l300 180M630 180l-300 180" fill="none" stroke="#5A6158" stroke-width="3"/></svg>',
    ),
  )
    .jpeg()
    .toBuffer());
