// SQLite (WAL) through Sequelize: opening it, and writing one after the other.

import { statSync } from 'node:fs';
import path from 'node:path';
import { QueryTypes, Sequelize, type Transaction } from 'sequelize';
import { log } from '../log';
import { migrate } from './migrations';
import { tablesOf, type Tables } from './tables';

export type Database = {
  readonly tables: Tables;
  readonly sequelize: Sequelize;
  /** Writes one after the other, each whole or not at all. */
  write<T>(work: (transaction: Transaction) => Promise<T>): Promise<T>;
  /** On the disk. */
  bytes(): number;
  close(): Promise<void>;
};

export async function openDatabase(dataFolder: string): Promise<Database> {
  const storage = path.join(dataFolder, 'nibber.sqlite');
  const sequelize = new Sequelize({ dialect: 'sqlite', storage, logging: (sql) => log.trace({ sql }) });
  // Kept in the file. SQLite syncs fully by itself (synchronous = FULL): a committed event is on disk, also when the power goes.
  await sequelize.query('PRAGMA journal_mode = WAL', { type: QueryTypes.SELECT });
  await migrate(storage);
  let turn: Promise<unknown> = Promise.resolve();
  return {
    tables: tablesOf(sequelize),
    sequelize,
    write(work) {
      const run = turn.then(() => sequelize.transaction(work));
      turn = run.catch(() => undefined);
      return run;
    },
    bytes: () => [storage, `${storage}-wal`].reduce((sum, file) => sum + (statSync(file, { throwIfNoEntry: false })?.size ?? 0), 0),
    async close() {
      await turn;
      await sequelize.close();
    },
  };
}

/** Of what is kept, that which happened by itself: no walk test made it happen. */
export const byItself = { test: null } as const;
