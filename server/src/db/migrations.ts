// Brings a database up to date, each step (steps.ts) whole or not at all.

import { QueryTypes, Sequelize } from 'sequelize';
import { Umzug, type UmzugStorage } from 'umzug';
import { log } from '../base/log';
import { steps } from './steps';

/** The table of the steps that were taken; its name is that of earlier versions. */
const done = 'SequelizeMeta';

/** Which steps were taken. Each enters itself. */
async function entriesOf(sequelize: Sequelize): Promise<UmzugStorage> {
  await sequelize.query(`CREATE TABLE IF NOT EXISTS ${done} (name VARCHAR(255) NOT NULL UNIQUE PRIMARY KEY)`);
  return {
    async executed() {
      const rows = await sequelize.query<{ name: string }>(`SELECT name FROM ${done} ORDER BY name`, { type: QueryTypes.SELECT });
      return rows.map((r) => r.name);
    },
    logMigration: async () => {},
    unlogMigration: async () => {},
  };
}

/**
 * @param file of the database
 * @param upTo the last step to take; all of them where none is named
 */
export async function migrate(file: string, upTo?: string): Promise<void> {
  // A table that is made again would take with it whatever refers to it: references are not watched while steps are taken.
  const sequelize = new Sequelize({ dialect: 'sqlite', storage: file, logging: false, foreignKeys: false } as never);
  try {
    const umzug = new Umzug({
      migrations: steps.map(({ name, statements }) => ({
        name,
        up: () =>
          sequelize.transaction(async (transaction) => {
            for (const statement of statements) await sequelize.query(statement, { transaction });
            // In the same transaction: a step that was broken off between the two would be taken twice, and fail for ever.
            await sequelize.query(`INSERT INTO ${done} (name) VALUES (:name)`, { transaction, replacements: { name } });
          }),
      })),
      storage: await entriesOf(sequelize),
      logger: undefined,
    });
    const taken = await umzug.up(upTo === undefined ? {} : { to: upTo });
    if (taken.length) log.info({ steps: taken.map((d) => d.name) }, 'database brought up to date');
  } finally {
    await sequelize.close();
  }
}
