// What is still to be done for someone: the outbox. Its rows are the truth; whatever works them off can be killed at any time.

import { literal, Op, QueryTypes, type Transaction, type WhereOptions } from 'sequelize';
import type { Database } from './database';
import type { JobRow } from './rows';

/** Due at once, or after so long; of two fill-ins of the same alert and target that wait, one is enough. */
export type NewJob = Pick<JobRow, 'kind' | 'event' | 'lane'> & Partial<Pick<JobRow, 'alert' | 'target'>> & { readonly afterMs?: number };

export type Jobs = {
  add(jobs: readonly NewJob[], nowMachine: number, transaction: Transaction): Promise<void>;
  /** The next of every lane of a queue that is not `out`: the new before what is tried again. */
  next(queue: string, nowMachine: number, out: readonly string[], max: number): Promise<JobRow[]>;
  /** When the next of a queue is due that is not yet; undefined where nothing waits. */
  nextAt(queue: string, nowMachine: number): Promise<number | undefined>;
  /** Of one that is due: what was given up meanwhile stays so. */
  change(id: number, values: Partial<JobRow>, transaction: Transaction): Promise<void>;
  /** How many of a queue wait, and why the one that was tried last has failed. */
  waiting(queue: string): Promise<{ readonly waiting: number; readonly lastError: string | null }>;
  /** The job that first notified a target of an alert. */
  first(alert: string, target: string): Promise<JobRow | undefined>;
  /** Of an alert: how many targets were or may still be notified. */
  open(alert: string, transaction: Transaction): Promise<number>;
  /** The other jobs of an alert are ended. */
  endOf(alert: string, why: string, transaction: Transaction): Promise<void>;
  /** Why an alert has not gone through yet; undefined where nothing was refused. */
  lastErrorOf(alert: string): Promise<string | undefined>;
  /** How many targets that can be filled in have not been tried yet, without failing ones. */
  untold(event: string, failingLanes: readonly string[], waitingChannels: readonly string[]): Promise<number>;
  notifiedOf(event: string, transaction: Transaction): Promise<JobRow[]>;
  /** The waiting jobs of an event are due now. */
  dueNow(event: string, nowMachine: number, transaction: Transaction): Promise<void>;
  /** The waiting jobs of an event are ended. */
  untell(event: string, why: string, transaction: Transaction): Promise<void>;
};

/** Above every id. */
const retried = 1_000_000_000_000;
/** Lane by lane, from one to the next by the index: what has piled up in those that are out is not even looked at. */
const nextQuery = `
  WITH RECURSIVE lanes(lane) AS (
    SELECT MIN(lane) FROM outbox WHERE state = 'due' AND lane >= :from AND lane < :to
    UNION ALL
    SELECT (SELECT MIN(lane) FROM outbox WHERE state = 'due' AND lane > lanes.lane AND lane < :to) FROM lanes WHERE lanes.lane IS NOT NULL
  )
  SELECT rank FROM (
    SELECT (SELECT MIN((attempts > 0) * ${retried} + id) FROM outbox
            WHERE outbox.lane = lanes.lane AND state = 'due' AND nextAtMachine <= :now) AS rank
    FROM lanes WHERE lanes.lane IS NOT NULL AND lanes.lane NOT IN (:out)
  ) WHERE rank IS NOT NULL ORDER BY rank LIMIT :max`;

/** A lane of a queue: `push/` and the phone. Every sign of it comes before `0`. */
export const laneOf = (queue: string, of: string): string => `${queue}/${of}`;
const lanesOf = (queue: string) => ({ from: `${queue}/`, to: `${queue}0` });

export function openJobs({ tables: { outbox }, sequelize }: Database): Jobs {
  const plain = (row: { get(options: { plain: true }): JobRow } | null) => row?.get({ plain: true });
  return {
    async add(jobs, nowMachine, transaction) {
      const rows: Partial<JobRow>[] = [];
      for (const { afterMs = 0, ...job } of jobs) {
        const { kind, alert, target } = job;
        const waits = kind === 'fill-in' && { kind, alert: alert!, target: target!, state: 'due' as const, attempts: 0 };
        if (waits && (await outbox.count({ where: waits, transaction })) > 0) continue;
        rows.push({ ...job, attempts: 0, nextAtMachine: nowMachine + afterMs, state: 'due' });
      }
      await outbox.bulkCreate(rows as JobRow[], { transaction });
    },
    async next(queue, now, out, max) {
      const ranked = (await sequelize.query(nextQuery, {
        replacements: { ...lanesOf(queue), now, out: out.length ? out : [''], max },
        type: QueryTypes.SELECT,
      })) as { rank: number }[];
      const ids = ranked.map((r) => r.rank % retried);
      const rows = await outbox.findAll({ where: { id: ids }, raw: true });
      return ids.flatMap((id) => rows.find((r) => r.id === id) ?? []);
    },
    async nextAt(queue, now) {
      const { from, to } = lanesOf(queue);
      const row = await outbox.findOne({
        attributes: ['nextAtMachine'],
        where: { state: 'due', lane: { [Op.gte]: from, [Op.lt]: to }, nextAtMachine: { [Op.gt]: now } },
        order: [['nextAtMachine', 'ASC']],
      });
      return row?.nextAtMachine;
    },
    async waiting(queue) {
      const { from, to } = lanesOf(queue);
      const where = { state: 'due' as const, lane: { [Op.gte]: from, [Op.lt]: to } };
      const failed = await outbox.findOne({ where: { ...where, lastError: { [Op.ne]: null } }, order: [['id', 'DESC']], raw: true });
      return { waiting: await outbox.count({ where }), lastError: failed?.lastError ?? null };
    },
    change: async (id, values, transaction) => void (await outbox.update(values, { where: { id, state: 'due' }, transaction })),
    first: async (alert, target) => plain(await outbox.findOne({ where: { alert, target, kind: 'alert' } })),
    open: (alert, transaction) => outbox.count({ where: { alert, kind: 'alert', state: ['due', 'done'] }, transaction }),
    endOf: async (alert, why, transaction) =>
      void (await outbox.update({ state: 'given-up', lastError: why }, { where: { alert, state: 'due' }, transaction })),
    lastErrorOf: async (alert) =>
      (await outbox.findOne({ where: { alert, lastError: { [Op.ne]: null } }, order: [['id', 'DESC']], raw: true }))?.lastError ??
      undefined,
    untold: (event, failing, waiting) => {
      const isOut = { [Op.and]: [{ [Op.notIn]: [...failing, ''] }, ...waiting.map((channel) => ({ [Op.notLike]: `${channel}/%` }))] };
      const where = { event, kind: 'alert', state: 'due', attempts: 0, lane: isOut } as WhereOptions<JobRow>;
      return outbox.count({ where });
    },
    dueNow: async (event, nowMachine, transaction) =>
      void (await outbox.update(
        { nextAtMachine: nowMachine },
        { where: { event, kind: 'alert', state: 'due', attempts: 0 }, transaction },
      )),
    untell: async (event, why, transaction) =>
      void (await outbox.update(
        { state: 'given-up', lastError: why },
        { where: { event, kind: 'alert', state: 'due', attempts: 0 }, transaction },
      )),
    notifiedOf: async (event, transaction) =>
      (await outbox.findAll({ where: { event, kind: 'alert' }, order: [literal('id')], transaction })).map((r) => r.get({ plain: true })),
  };
}
