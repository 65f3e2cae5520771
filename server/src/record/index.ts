// What is kept: SQLite (WAL) through Sequelize, pictures as files beside it.

import path from 'node:path';
import { QueryTypes, Sequelize, type Transaction } from 'sequelize';
import { log } from '../log';
import { closeFolder } from './folder';
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
  /** Whether the disk takes what is written; asked of it once in a while, whoever asks. */
  isWritable(): Promise<boolean>;
  close(): Promise<void>;
};

const checkEveryMs = 20_000;

export async function openRecord(dataFolder: string): Promise<Record> {
  closeFolder(dataFolder);
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
  let checked: { at: number; answer: Promise<boolean> } | undefined;
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
    isWritable() {
      const now = performance.now();
      if (!checked || now - checked.at > checkEveryMs)
        checked = {
          at: now,
          answer: setSetting('last health check', 'ok').then(
            () => true,
            () => false,
          ),
        };
      return checked.answer;
    },
    async close() {
      await queue;
      await sequelize.close();
    },
  };
}
