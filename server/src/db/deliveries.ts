// What paired cameras sent. What was accepted is due until what became of it is on disk.

import { randomUUID } from 'node:crypto';
import { col, fn, literal, Op, type Transaction } from 'sequelize';
import type { Instant } from '@nibber/core/time';
import type { Database } from './database';
import type { StoredFile } from '../base/picture';
import type { Media } from './media';
import type { DeliveryRow, SeenInDelivery } from './rows';

export type NewDelivery = Omit<DeliveryRow, 'id' | 'state' | 'why'>;

export type Deliveries = {
  /** Keeps it with its picture; one that was kept before is not kept again. */
  accept(delivery: NewDelivery, picture: StoredFile | undefined): Promise<{ readonly id: string; readonly again: boolean }>;
  /** In the order in which they were accepted. */
  due(camera: string, max: number): Promise<DeliveryRow[]>;
  camerasDue(): Promise<string[]>;
  settle(id: string, state: DeliveryRow['state'], why: string | null, transaction: Transaction): Promise<void>;
  /** Of each camera, when the newest came that is not due any more. */
  newestDone(): Promise<Map<string, Instant>>;
  /** Those that are not due any more, from an instant on, in the order in which they were accepted: the newest so many. */
  doneSince(camera: string, from: Instant, max: number): Promise<DeliveryRow[]>;
  /** Newest first. */
  newest(camera: string, max: number): Promise<DeliveryRow[]>;
  count(camera: string): Promise<number>;
  seen(camera: string, max: number): Promise<(SeenInDelivery | null)[]>;
  /** When cameras said that it was, and when it came. */
  saidTimes(camera: string, max: number): Promise<{ saidAt: Instant; at: Instant }[]>;
  /** Lets go of all but the newest so many of a camera, what is due left out. */
  prune(camera: string, kept: number): Promise<void>;
};

/** In the order in which they were accepted. */
const asAccepted = [
  ['at', 'ASC'],
  [literal('rowid') as unknown as string, 'ASC'],
] as [string, string][];
const newestFirst = asAccepted.map(([by]) => [by, 'DESC'] as [string, string]);

export function openDeliveries({ tables: { deliveries }, write }: Database, media: Media): Deliveries {
  const done = { state: { [Op.ne]: 'due' as const } };
  return {
    accept: (delivery, picture) =>
      write(async (transaction) => {
        const { camera, key, at } = delivery;
        const before = await deliveries.findOne({ where: { camera, key }, transaction, attributes: ['id'] });
        if (before) return { id: before.id, again: true };
        const id = randomUUID();
        await deliveries.create({ ...delivery, id, state: 'due' }, { transaction });
        if (picture)
          await media.hold(transaction, { holder: 'delivery', holderId: id, role: 'picture', camera, takenAt: at, file: picture });
        return { id, again: false };
      }),
    due: async (camera, max) =>
      (await deliveries.findAll({ where: { state: 'due', camera }, order: asAccepted, limit: max })).map((d) => d.get({ plain: true })),
    camerasDue: async () =>
      (await deliveries.findAll({ attributes: ['camera'], where: { state: 'due' }, group: ['camera'], raw: true })).map((d) => d.camera),
    settle: async (id, state, why, transaction) => void (await deliveries.update({ state, why }, { where: { id }, transaction })),
    async newestDone() {
      const rows = (await deliveries.findAll({
        attributes: ['camera', [fn('MAX', col('at')), 'at']],
        where: done,
        group: ['camera'],
        raw: true,
      })) as unknown as { camera: string; at: number }[];
      return new Map(rows.map(({ camera, at }) => [camera, at]));
    },
    async doneSince(camera, from, max) {
      const rows = await deliveries.findAll({ where: { ...done, camera, at: { [Op.gte]: from } }, order: newestFirst, limit: max });
      return rows.map((d) => d.get({ plain: true })).reverse();
    },
    newest: async (camera, max) =>
      (await deliveries.findAll({ where: { camera }, order: newestFirst, limit: max })).map((d) => d.get({ plain: true })),
    count: (camera) => deliveries.count({ where: { camera } }),
    seen: async (camera, max) =>
      (await deliveries.findAll({ attributes: ['seen'], where: { camera }, order: newestFirst, limit: max })).map((d) => d.seen),
    async saidTimes(camera, max) {
      const where = { camera, saidAt: { [Op.ne]: null } };
      const rows = await deliveries.findAll({ attributes: ['at', 'saidAt'], where, order: newestFirst, limit: max });
      return rows.map((r) => ({ at: r.at, saidAt: r.saidAt! }));
    },
    async prune(camera, kept) {
      const over = { ...done, camera };
      const oldest = await deliveries.findOne({ where: over, order: [['at', 'DESC']], offset: kept });
      if (!oldest) return;
      await write(async (transaction) => {
        const where = { ...over, at: { [Op.lte]: oldest.at } };
        const gone = await deliveries.findAll({ attributes: ['id'], where, transaction, raw: true });
        await deliveries.destroy({ where, transaction });
        await media.letGo(
          transaction,
          'delivery',
          gone.map((d) => d.id),
        );
      });
    },
  };
}
