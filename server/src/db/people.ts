// What is kept of people beside the site file: what they snoozed, what they looked at, what they did from a notification.

import { randomUUID } from 'node:crypto';
import { Op, UniqueConstraintError, type Transaction, type WhereOptions } from 'sequelize';
import type { Snooze } from '@nibber/core/recipients';
import type { Instant } from '@nibber/core/time';
import type { Database } from './database';
import type { ViewRow, SnoozeRow } from './rows';

export type People = {
  /** Those that hold at an instant: of one person, or of all. */
  snoozes(at: Instant, person?: string, transaction?: Transaction): Promise<SnoozeRow[]>;
  /** One of the same thing is replaced. @returns its id */
  snooze(snooze: Omit<SnoozeRow, 'id'>, transaction: Transaction): Promise<string>;
  /** @returns what it was, if there is one of theirs */
  endSnooze(id: string, person: string, transaction: Transaction): Promise<SnoozeRow | undefined>;
  /** Those that hold until the mode of an area changes are over; so are those whose time is. */
  modeChanged(area: string, now: Instant): Promise<void>;
  /** @returns whether it is the first time */
  look(event: string, person: string, at: Instant): Promise<boolean>;
  viewsOf(events: readonly string[]): Promise<ViewRow[]>;
  /** @returns whether this was not done before; true only for the first of two at once */
  useAction(alert: string, action: string, at: Instant, transaction: Transaction): Promise<boolean>;
};

/** As the gates ask for it. */
export const snoozeOf = ({ until, rule, camera, area }: SnoozeRow): Snooze => ({
  until,
  rule: rule ?? undefined,
  camera: camera ?? undefined,
  area: area ?? undefined,
});

export function openPeople({ tables: { snoozes, views, usedActions }, write }: Database): People {
  return {
    async snoozes(at, person, transaction) {
      const holds = { until: { [Op.or]: [{ [Op.is]: null }, { [Op.gt]: at }] } } as object;
      const where = { ...holds, ...(person === undefined ? {} : { person }) };
      return (await snoozes.findAll({ where, order: [['madeAt', 'DESC']], transaction: transaction ?? null })).map((s) =>
        s.get({ plain: true }),
      );
    },
    async snooze(snooze, transaction) {
      const { person, rule, camera, area } = snooze;
      await snoozes.destroy({ where: { person, rule, camera, area }, transaction });
      const id = randomUUID();
      await snoozes.create({ ...snooze, id }, { transaction });
      return id;
    },
    async endSnooze(id, person, transaction) {
      const found = await snoozes.findOne({ where: { id, person }, transaction });
      await snoozes.destroy({ where: { id, person }, transaction });
      return found?.get({ plain: true });
    },
    async modeChanged(area, now) {
      const ofArea = { until: null, [Op.or]: [{ area }, { area: null }] };
      const where = { [Op.or]: [ofArea, { until: { [Op.lte]: now } }] } as WhereOptions<SnoozeRow>;
      await write((transaction) => snoozes.destroy({ where, transaction }));
    },
    async look(event, person, at) {
      if (await views.findOne({ where: { event, person } })) return false;
      return write(async (transaction) => {
        const [, isNew] = await views.findOrCreate({ where: { event, person }, defaults: { event, person, at }, transaction });
        return isNew;
      });
    },
    viewsOf: async (events) =>
      (await views.findAll({ where: { event: [...events] }, order: [['at', 'ASC']] })).map((l) => l.get({ plain: true })),
    async useAction(alert, action, at, transaction) {
      try {
        await usedActions.create({ alert, action, at }, { transaction });
        return true;
      } catch (thrown) {
        if (thrown instanceof UniqueConstraintError) return false;
        throw thrown;
      }
    },
  };
}
