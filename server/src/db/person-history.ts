// What is stored of a person beside the site file: alerts, what they viewed, what they did. To be read out, and deleted.

import { Op } from 'sequelize';
import type { Database } from './database';
import type { AlertRow, LogRow, SnoozeRow, ViewRow } from './rows';

export type StoredDataOfPerson = { readonly alerts: number; readonly views: number; readonly logbook: number; readonly snoozes: number };

export type PersonHistory = {
  stored(person: string): Promise<StoredDataOfPerson>;
  /** The events that they were notified of or viewed, in order of id; after one. */
  eventsOf(person: string, after: string, max: number): Promise<string[]>;
  alertsOf(person: string, events: readonly string[]): Promise<AlertRow[]>;
  viewsOf(person: string, events: readonly string[]): Promise<ViewRow[]>;
  /** What they did, in order, after an entry. */
  logbookOf(person: string, after: number, max: number): Promise<LogRow[]>;
  snoozesOf(person: string): Promise<SnoozeRow[]>;
  /**
   * Deletes their alerts that are not to be sent any more, what they viewed and what they snoozed. What they did stays in the logbook and in the history of
   * the site, without their name. @returns how much there was
   */
  forget(person: string, name: string): Promise<StoredDataOfPerson>;
};

/** Stands where their name stood. */
const nobody = 'someone';

export function openPersonHistory({ tables, sequelize, write }: Database): PersonHistory {
  const { alerts, views, logbook, snoozes } = tables;
  /** What is still to be sent, by itself or with the morning's summary, stays. */
  const over = (person: string) => ({
    person,
    [Op.or]: [
      { state: ['sent', 'undeliverable', 'rerouted', 'combined'] as AlertRow['state'][] },
      { state: 'suppressed' as const, inSummary: false },
    ],
  });
  const stored = async (person: string): Promise<StoredDataOfPerson> => ({
    alerts: await alerts.count({ where: over(person) }),
    views: await views.count({ where: { person } }),
    logbook: await logbook.count({ where: { person } }),
    snoozes: await snoozes.count({ where: { person } }),
  });
  return {
    stored,
    async eventsOf(person, after, max) {
      const [rows] = await sequelize.query(
        `SELECT event FROM (SELECT event FROM alerts WHERE person = :person UNION SELECT event FROM views WHERE person = :person)
         WHERE event > :after ORDER BY event LIMIT :max`,
        { replacements: { person, after, max } },
      );
      return (rows as { event: string }[]).map((r) => r.event);
    },
    alertsOf: async (person, events) =>
      (await alerts.findAll({ where: { person, event: [...events] } })).map((a) => a.get({ plain: true })),
    viewsOf: async (person, events) => (await views.findAll({ where: { person, event: [...events] } })).map((v) => v.get({ plain: true })),
    logbookOf: async (person, after, max) =>
      (await logbook.findAll({ where: { person, id: { [Op.gt]: after } }, order: [['id', 'ASC']], limit: max })).map((l) =>
        l.get({ plain: true }),
      ),
    snoozesOf: async (person) => (await snoozes.findAll({ where: { person } })).map((s) => s.get({ plain: true })),
    async forget(person, name) {
      const before = await stored(person);
      await write(async (transaction) => {
        const options = <W extends object>(where: W) => ({ where, transaction });
        await alerts.destroy(options(over(person)));
        await views.destroy(options({ person }));
        await snoozes.destroy(options({ person }));
        await logbook.update({ who: nobody, person: null }, options({ person }));
        // These know them by name alone; no two people have one that looks alike.
        await tables.siteVersions.update({ by: nobody }, options({ by: name }));
        await tables.walkTests.update({ by: nobody }, options({ by: name }));
        await tables.promptVersions.update({ by: nobody }, options({ by: name }));
        await tables.events.update({ chosenBy: nobody }, options({ chosenBy: name }));
        await tables.readingValues.update({ correctedBy: nobody }, options({ correctedBy: name }));
      });
      return before;
    },
  };
}
