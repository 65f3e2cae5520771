// What is kept: SQLite (WAL) through Sequelize, pictures as files beside it.

import { randomBytes } from 'node:crypto';
import { mkdirSync } from 'node:fs';
import path from 'node:path';
import { QueryTypes, Sequelize, type Transaction } from 'sequelize';
import { log } from '../log';
import { migrate } from './migrations';
import { openPictures, type PictureStore } from './pictures';
import { tablesOf, type Tables } from './rows';

export type * from './rows';

export type Record = {
  readonly tables: Tables;
  readonly pictures: PictureStore;
  readonly sequelize: Sequelize;
  /** Writes one after the other, each whole or not at all. */
  write<T>(work: (transaction: Transaction) => Promise<T>): Promise<T>;
  setting(key: string): Promise<string | undefined>;
  setSetting(key: string, value: string): Promise<void>;
  /** A secret of this data folder, made when first asked for. */
  secret(name: string): Promise<Buffer>;
  isWritable(): Promise<boolean>;
  close(): Promise<void>;
};

export async function openRecord(dataFolder: string): Promise<Record> {
  mkdirSync(dataFolder, { recursive: true, mode: 0o700 });
  const sequelize = new Sequelize({
    dialect: 'sqlite',
    storage: path.join(dataFolder, 'nibber.sqlite'),
    logging: (sql) => log.trace({ sql }),
  });
  // Kept in the file. SQLite syncs fully by itself (synchronous = FULL): a committed event is on disk, also when the power goes.
  await sequelize.query('PRAGMA journal_mode = WAL', { type: QueryTypes.SELECT });
  await migrate(sequelize);
  const tables = tablesOf(sequelize);
  const pictures = await openPictures(dataFolder);
  let queue: Promise<unknown> = Promise.resolve();
  const write = <T>(work: (transaction: Transaction) => Promise<T>): Promise<T> => {
    const run = queue.then(() => sequelize.transaction(work));
    queue = run.catch(() => undefined);
    return run;
  };
  const setting = async (key: string) => (await tables.settings.findByPk(key))?.value;
  const setSetting = (key: string, value: string) =>
    write(async (transaction) => void (await tables.settings.upsert({ key, value }, { transaction })));
  return {
    tables,
    pictures,
    sequelize,
    write,
    setting,
    setSetting,
    async secret(name) {
      const known = await setting(`secret ${name}`);
      if (known) return Buffer.from(known, 'base64url');
      const made = randomBytes(32);
      await setSetting(`secret ${name}`, made.toString('base64url'));
      return made;
    },
    isWritable: () =>
      setSetting('last health check', 'ok').then(
        () => true,
        () => false,
      ),
    async close() {
      await queue;
      await sequelize.close();
    },
  };
}
