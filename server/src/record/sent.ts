// Every picture that left the machine: written down before it goes, so that none goes unsaid.

import { Op } from 'sequelize';
import type { Instant } from '@nibber/core/time';
import type { Database } from './database';
import type { SentRow } from './rows';

export type Sent = {
  /** @returns its number */
  going(row: Omit<SentRow, 'id' | 'ms' | 'outcome' | 'said'>): Promise<number>;
  went(id: number, came: Pick<SentRow, 'ms' | 'outcome' | 'said'>): Promise<void>;
  /** Newest first, before a number. */
  page(before: number | undefined, most: number): Promise<SentRow[]>;
  since(at: Instant): Promise<Pick<SentRow, 'ms' | 'outcome'>[]>;
};

export function openSent({ tables: { sent }, write }: Database): Sent {
  return {
    going: (row) =>
      write(
        async (transaction) => (await sent.create({ ...row, ms: null, outcome: 'waiting', said: null } as SentRow, { transaction })).id,
      ),
    went: (id, came) => write(async (transaction) => void (await sent.update(came, { where: { id }, transaction }))),
    page: async (before, most) =>
      (await sent.findAll({ where: before === undefined ? {} : { id: { [Op.lt]: before } }, order: [['id', 'DESC']], limit: most })).map(
        (s) => s.get({ plain: true }),
      ),
    since: async (at) =>
      (await sent.findAll({ attributes: ['ms', 'outcome'], where: { at: { [Op.gte]: at } }, raw: true })) as Pick<
        SentRow,
        'ms' | 'outcome'
      >[],
  };
}
