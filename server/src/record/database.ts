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

/**
 * What is safe is on disk before anything goes on. What is being made anew, and is thrown away where it is broken off, need not be: it is
 * written many at a time.
 */
export type Haste = 'safe' | 'made anew';
const writesAtOnce = 100;

export async function openDatabase(dataFolder: string, haste: Haste = 'safe'): Promise<Database> {
  const storage = path.join(dataFolder, 'nibber.sqlite');
  const sequelize = new Sequelize({ dialect: 'sqlite', storage, logging: (sql) => log.trace({ sql }) });
  // Kept in the file. SQLite syncs fully by itself (synchronous = FULL): a committed event is on disk, also when the power goes.
  await sequelize.query('PRAGMA journal_mode = WAL', { type: QueryTypes.SELECT });
  await migrate(storage);
  let turn: Promise<unknown> = Promise.resolve();
  let open: { readonly transaction: Transaction; writes: number } | undefined;
  const end = async () => {
    await open?.transaction.commit();
    open = undefined;
  };
  const together = async <T>(work: (transaction: Transaction) => Promise<T>): Promise<T> => {
    open ??= { transaction: await sequelize.transaction(), writes: 0 };
    const result = await work(open.transaction);
    if (++open.writes >= writesAtOnce) await end();
    return result;
  };
  return {
    tables: tablesOf(sequelize),
    sequelize,
    write(work) {
      const run = turn.then(() => (haste === 'safe' ? sequelize.transaction(work) : together(work)));
      turn = run.catch(() => undefined);
      return run;
    },
    bytes: () => [storage, `${storage}-wal`].reduce((sum, file) => sum + (statSync(file, { throwIfNoEntry: false })?.size ?? 0), 0),
    async close() {
      await turn;
      await end();
      await sequelize.close();
    },
  };
}

/** Of what is kept, that which happened by itself: no walk test made it happen. */
export const byItself = { test: null } as const;
