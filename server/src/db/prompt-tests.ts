// Wordings that were tried on stored moments: which moments, with what a good answer holds; which wordings; and what came of each.

import { Op } from 'sequelize';
import type { Database } from './database';
import type { ExampleRow, ResultRow, WordingRow } from './rows';

export type Tries = {
  examples(rule: string): Promise<ExampleRow[]>;
  /** In place of those that were there. */
  setExamples(rule: string, examples: readonly Omit<ExampleRow, 'rule'>[]): Promise<void>;
  /** Newest first. */
  wordings(rule: string): Promise<WordingRow[]>;
  addWording(wording: WordingRow): Promise<void>;
  /** With what came of it. */
  dropWording(id: string): Promise<void>;
  results(wordings: readonly string[]): Promise<ResultRow[]>;
  /** What was there before is kept as `before`. */
  setResult(row: Omit<ResultRow, 'before'>): Promise<void>;
};

export function openTries({ tables: { examples, wordings, results }, write }: Database): Tries {
  const one = { plain: true } as const;
  return {
    examples: async (rule) => (await examples.findAll({ where: { rule }, order: [['place', 'ASC']] })).map((r): ExampleRow => r.get(one)),
    setExamples: (rule, all) =>
      write(async (transaction) => {
        await examples.destroy({ where: { rule }, transaction });
        await examples.bulkCreate(all.map((e) => ({ ...e, rule })), { transaction }); // prettier-ignore
      }),
    wordings: async (rule) => (await wordings.findAll({ where: { rule }, order: [['at', 'DESC'], ['id', 'ASC']] })).map((r): WordingRow => r.get(one)), // prettier-ignore
    addWording: (wording) => write(async (transaction) => void (await wordings.create(wording, { transaction }))),
    dropWording: (id) =>
      write(async (transaction) => {
        await results.destroy({ where: { wording: id }, transaction });
        await wordings.destroy({ where: { id }, transaction });
      }),
    results: async (ids) => (await results.findAll({ where: { wording: { [Op.in]: [...ids] } } })).map((r): ResultRow => r.get(one)),
    setResult: (row) =>
      write(async (transaction) => {
        const { wording, event, service } = row;
        const before = (await results.findOne({ where: { wording, event, service }, transaction }))?.get({ plain: true });
        await results.upsert({ ...row, before: before ? before.line : null }, { transaction });
      }),
  };
}
