// Everything that was done, by whom.

import type { Transaction } from 'sequelize';
import type { Instant } from '@nibber/core/time';
import type { Doer } from '../base/events';
import type { Database } from './database';
import type { LogRow } from './rows';

export type Logbook = {
  /** Notes what was done in the transaction in which it was. `event`: the one that it is about. */
  note(transaction: Transaction, at: Instant, who: Doer, what: string, event?: string): Promise<void>;
  /** Notes what was done by itself, where nothing else is written with it. */
  noteDeed(at: Instant, who: Doer, what: string): Promise<void>;
  /** What was done about these events, in order of time. */
  about(events: readonly string[]): Promise<LogRow[]>;
  /** Newest first. */
  newest(max: number): Promise<LogRow[]>;
};

export function openLogbook({ tables: { logbook }, writeAnyway }: Pick<Database, 'tables' | 'writeAnyway'>): Logbook {
  const note: Logbook['note'] = async (transaction, at, who, what, event) =>
    void (await logbook.create({ at, who: who.name, person: who.person ?? null, what, event: event ?? null }, { transaction }));
  return {
    note,
    noteDeed: (at, who, what) => writeAnyway((transaction) => note(transaction, at, who, what)),
    about: async (events) =>
      (await logbook.findAll({ where: { event: [...events] }, order: [['id', 'ASC']] })).map((l) => l.get({ plain: true })),
    newest: async (max) => (await logbook.findAll({ order: [['id', 'DESC']], limit: max })).map((l) => l.get({ plain: true })),
  };
}
