// Everything that was done, by whom.

import type { Transaction } from 'sequelize';
import type { Instant } from '@nibber/core/time';
import type { Record } from './index';

export const noteInLogbook = (
  record: Record,
  transaction: Transaction,
  at: Instant,
  who: string,
  what: string,
  event: string | null = null,
) => record.tables.logbook.create({ at, who, what, event }, { transaction });

/** Notes what was done by itself, where nothing else is written with it. */
export const noteDeed = (record: Record, at: Instant, who: string, what: string): Promise<unknown> =>
  record.write((transaction) => noteInLogbook(record, transaction, at, who, what));
