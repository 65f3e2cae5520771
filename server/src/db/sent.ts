// Every picture that left the machine: written down before it goes, so that none goes unsaid; and what each service was asked and cost.

import { Op, QueryTypes } from 'sequelize';
import type { Instant } from '@nibber/core/time';
import type { Database } from './database';
import type { SentRow } from './rows';

/** What came back, or did not. */
export type Came = Pick<SentRow, 'ms' | 'outcome' | 'said' | 'tokensIn' | 'tokensOut' | 'cost'>;
/** Of one service in a span of time; `cost` in the last currency that it had. */
export type ServiceDay = { readonly serviceId: string; readonly answers: number; readonly failed: number; readonly cost: number };

export type Sent = {
  /** @returns its number */
  going(row: Omit<SentRow, 'id' | keyof Came>): Promise<number>;
  went(id: number, came: Came): Promise<void>;
  /** Of which pictures went, newest first, before a number. */
  page(before: number | undefined, max: number): Promise<SentRow[]>;
  since(at: Instant): Promise<Pick<SentRow, 'serviceId' | 'ms' | 'outcome'>[]>;
  /** What each service was asked from one instant to before another. */
  spent(from: Instant, to: Instant): Promise<ServiceDay[]>;
  /** The newest of one service that came back. */
  lastAnswers(serviceId: string, max: number): Promise<SentRow[]>;
};

export function openSent({ tables: { sent }, write, sequelize }: Database): Sent {
  const plain = (rows: readonly { get(options: { plain: true }): SentRow }[]) => rows.map((r) => r.get({ plain: true }));
  const nothingYet = { ms: null, outcome: 'waiting', said: null, tokensIn: null, tokensOut: null, cost: null } as const;
  return {
    going: (row) => write(async (transaction) => (await sent.create({ ...row, ...nothingYet } as SentRow, { transaction })).id),
    went: (id, came) => write(async (transaction) => void (await sent.update(came, { where: { id }, transaction }))),
    page: (before, max) =>
      sent
        .findAll({
          where: { use: { [Op.ne]: 'asking' }, ...(before === undefined ? {} : { id: { [Op.lt]: before } }) },
          order: [['id', 'DESC']],
          limit: max,
        })
        .then(plain),
    since: (at) => sent.findAll({ attributes: ['serviceId', 'ms', 'outcome'], where: { at: { [Op.gte]: at } }, raw: true }),
    spent: (from, to) =>
      sequelize.query(
        `SELECT serviceId, SUM(outcome != 'failed') AS answers, SUM(outcome = 'failed') AS failed, COALESCE(SUM(cost), 0) AS cost
         FROM sent WHERE at >= :from AND at < :to GROUP BY serviceId`,
        { replacements: { from, to }, type: QueryTypes.SELECT },
      ),
    lastAnswers: (serviceId, max) =>
      sent.findAll({ where: { serviceId, outcome: { [Op.ne]: 'waiting' } }, order: [['id', 'DESC']], limit: max }).then(plain),
  };
}
