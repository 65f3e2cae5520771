// Brings a database up to date, each step (steps.ts) whole or not at all.

import { Umzug, SequelizeStorage } from 'umzug';
import { Sequelize } from 'sequelize';
import { log } from '../log';
import { steps } from './steps';

/**
 * @param file of the database
 * @param upTo the last step to take; all of them where none is named
 */
export async function migrate(file: string, upTo?: string): Promise<void> {
  // A table that is made anew would take with it whatever refers to it: references are not watched while steps are taken.
  const sequelize = new Sequelize({ dialect: 'sqlite', storage: file, logging: false, foreignKeys: false } as never);
  try {
    const umzug = new Umzug({
      migrations: steps.map(({ name, statements }) => ({
        name,
        up: () =>
          sequelize.transaction(async (transaction) => {
            for (const statement of statements) await sequelize.query(statement, { transaction });
          }),
      })),
      storage: new SequelizeStorage({ sequelize }),
      logger: undefined,
    });
    const done = await umzug.up(upTo === undefined ? {} : { to: upTo });
    if (done.length) log.info({ steps: done.map((d) => d.name) }, 'database brought up to date');
  } finally {
    await sequelize.close();
  }
}
