// What was read off pictures, and what reminders remember between readings.

import { Op, type Transaction } from 'sequelize';
import type { ReminderState } from '@nibber/core/readings';
import type { Instant } from '@nibber/core/time';
import type { Database } from './database';
import type { Media } from './media';
import type { TakenRow } from './rows';

export type Readings = {
  add(row: TakenRow, transaction: Transaction): Promise<void>;
  change(id: string, values: Partial<TakenRow>, transaction: Transaction): Promise<void>;
  find(id: string): Promise<TakenRow | undefined>;
  /** In the order in which they are named; what is gone is left out. */
  some(ids: readonly string[]): Promise<TakenRow[]>;
  /** Newest last, from an instant on; the newest of them where there are more. */
  since(reading: string, from: Instant, max: number): Promise<TakenRow[]>;
  /** The newest that has a value. */
  last(reading: string): Promise<TakenRow | undefined>;
  /** The newest, with a value or not. */
  lastTried(reading: string): Promise<TakenRow | undefined>;
  correct(id: string, values: Pick<TakenRow, 'corrected' | 'correctedBy'>): Promise<void>;
  stateOf(reminder: string): Promise<ReminderState | undefined>;
  setState(reminder: string, state: ReminderState, transaction: Transaction): Promise<void>;
  /** Lets go of pictures that were taken before an instant; what was read off them stays. */
  tidy(before: Instant): Promise<void>;
};

const atOnce = 500;

export function openReadings({ tables: { taken, reminderStates }, write }: Database, media: Media): Readings {
  type Plain = { get(options: { plain: true }): TakenRow };
  const plain = (row: Plain | null) => row?.get({ plain: true });
  const newest = [['at', 'DESC']] as [string, string][];
  return {
    add: async (row, transaction) => void (await taken.create(row, { transaction })),
    change: async (id, values, transaction) => void (await taken.update(values, { where: { id }, transaction })),
    find: async (id) => plain(await taken.findByPk(id)),
    async some(ids) {
      const byId = new Map((await taken.findAll({ where: { id: [...ids] } })).map((r) => [r.id, plain(r)!]));
      return ids.flatMap((id) => byId.get(id) ?? []);
    },
    since: async (reading, from, max) =>
      (await taken.findAll({ where: { reading, at: { [Op.gte]: from } }, order: newest, limit: max })).map((r) => plain(r)!).reverse(),
    last: async (reading) => plain(await taken.findOne({ where: { reading, value: { [Op.ne]: null as never } }, order: newest })),
    lastTried: async (reading) => plain(await taken.findOne({ where: { reading }, order: newest })),
    correct: (id, values) => write(async (transaction) => void (await taken.update(values, { where: { id }, transaction }))),
    stateOf: async (reminder) => (await reminderStates.findByPk(reminder))?.get({ plain: true }).state,
    setState: async (reminder, state, transaction) => void (await reminderStates.upsert({ reminder, state }, { transaction })),
    async tidy(before) {
      for (;;) {
        const where = { at: { [Op.lt]: before }, hasPicture: true };
        const old = (await taken.findAll({ attributes: ['id'], where, limit: atOnce, raw: true })).map((r) => r.id);
        if (old.length === 0) return;
        await write(async (transaction) => {
          await media.letGo(transaction, 'reading', old);
          await taken.update({ hasPicture: false }, { where: { id: old }, transaction });
        });
      }
    },
  };
}
