// What was read off pictures, and what reminders remember between readings.

import { Op, type Transaction } from 'sequelize';
import type { ReminderState } from '@nibber/core/readings';
import type { Instant } from '@nibber/core/time';
import type { Database } from './database';
import type { Media } from './media';
import type { ReadingValueRow } from './rows';

export type Readings = {
  add(row: ReadingValueRow, transaction: Transaction): Promise<void>;
  change(id: string, values: Partial<ReadingValueRow>, transaction: Transaction): Promise<void>;
  find(id: string): Promise<ReadingValueRow | undefined>;
  /** In the order in which they are named; what is gone is left out. */
  some(ids: readonly string[]): Promise<ReadingValueRow[]>;
  /** Newest last, from an instant on; the newest of them where there are more. */
  since(reading: string, from: Instant, max: number): Promise<ReadingValueRow[]>;
  /** The newest that has a value. */
  last(reading: string): Promise<ReadingValueRow | undefined>;
  /** The newest, with a value or not. */
  lastTried(reading: string): Promise<ReadingValueRow | undefined>;
  correct(id: string, values: Pick<ReadingValueRow, 'corrected' | 'correctedBy'>): Promise<void>;
  stateOf(reminder: string): Promise<ReminderState | undefined>;
  setState(reminder: string, state: ReminderState, transaction: Transaction): Promise<void>;
  /** Lets go of pictures that were taken before an instant; what was read off them stays. */
  tidy(before: Instant): Promise<void>;
};

const atOnce = 500;

export function openReadings({ tables: { readingValues, reminderStates }, write }: Database, media: Media): Readings {
  type Plain = { get(options: { plain: true }): ReadingValueRow };
  const plain = (row: Plain | null) => row?.get({ plain: true });
  const newest = [['at', 'DESC']] as [string, string][];
  return {
    add: async (row, transaction) => void (await readingValues.create(row, { transaction })),
    change: async (id, values, transaction) => void (await readingValues.update(values, { where: { id }, transaction })),
    find: async (id) => plain(await readingValues.findByPk(id)),
    async some(ids) {
      const byId = new Map((await readingValues.findAll({ where: { id: [...ids] } })).map((r) => [r.id, plain(r)!]));
      return ids.flatMap((id) => byId.get(id) ?? []);
    },
    since: async (reading, from, max) =>
      (await readingValues.findAll({ where: { reading, at: { [Op.gte]: from } }, order: newest, limit: max }))
        .map((r) => plain(r)!)
        .reverse(),
    last: async (reading) => plain(await readingValues.findOne({ where: { reading, value: { [Op.ne]: null as never } }, order: newest })),
    lastTried: async (reading) => plain(await readingValues.findOne({ where: { reading }, order: newest })),
    correct: (id, values) => write(async (transaction) => void (await readingValues.update(values, { where: { id }, transaction }))),
    stateOf: async (reminder) => (await reminderStates.findByPk(reminder))?.get({ plain: true }).state,
    setState: async (reminder, state, transaction) => void (await reminderStates.upsert({ reminder, state }, { transaction })),
    async tidy(before) {
      for (;;) {
        const where = { at: { [Op.lt]: before }, hasPicture: true };
        const old = (await readingValues.findAll({ attributes: ['id'], where, limit: atOnce, raw: true })).map((r) => r.id);
        if (old.length === 0) return;
        await write(async (transaction) => {
          await media.letGo(transaction, 'reading', old);
          await readingValues.update({ hasPicture: false }, { where: { id: old }, transaction });
        });
      }
    },
  };
}
