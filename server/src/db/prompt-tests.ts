// Prompt tests: the stored events with their checks, the prompts, and the results.

import { Op } from 'sequelize';
import type { Database } from './database';
import type { ExampleRow, ResultRow, PromptVersionRow } from './rows';

export type PromptTests = {
  examples(rule: string): Promise<ExampleRow[]>;
  /** In place of those that were there. */
  setExamples(rule: string, examples: readonly Omit<ExampleRow, 'rule'>[]): Promise<void>;
  /** Newest first. */
  promptVersions(rule: string): Promise<PromptVersionRow[]>;
  addPromptVersion(promptVersion: PromptVersionRow): Promise<void>;
  /** With what came of it. */
  deletePrompt(id: string): Promise<void>;
  results(promptVersions: readonly string[]): Promise<ResultRow[]>;
  /** What was there before is kept as `before`. */
  setResult(row: Omit<ResultRow, 'before'>): Promise<void>;
};

export function openPromptTests({ tables: { examples, promptVersions, results }, write }: Database): PromptTests {
  const one = { plain: true } as const;
  return {
    examples: async (rule) => (await examples.findAll({ where: { rule }, order: [['place', 'ASC']] })).map((r): ExampleRow => r.get(one)),
    setExamples: (rule, all) =>
      write(async (transaction) => {
        await examples.destroy({ where: { rule }, transaction });
        await examples.bulkCreate(
          all.map((e) => ({ ...e, rule })),
          { transaction },
        );
      }),
    promptVersions: async (rule) =>
      (
        await promptVersions.findAll({
          where: { rule },
          order: [
            ['at', 'DESC'],
            ['id', 'ASC'],
          ],
        })
      ).map((r): PromptVersionRow => r.get(one)),
    addPromptVersion: (promptVersion) => write(async (transaction) => void (await promptVersions.create(promptVersion, { transaction }))),
    deletePrompt: (id) =>
      write(async (transaction) => {
        await results.destroy({ where: { promptVersion: id }, transaction });
        await promptVersions.destroy({ where: { id }, transaction });
      }),
    results: async (ids) => (await results.findAll({ where: { promptVersion: { [Op.in]: [...ids] } } })).map((r): ResultRow => r.get(one)),
    setResult: (row) =>
      write(async (transaction) => {
        const { promptVersion, event, service } = row;
        const before = (await results.findOne({ where: { promptVersion, event, service }, transaction }))?.get({ plain: true });
        await results.upsert({ ...row, before: before ? before.line : null }, { transaction });
      }),
  };
}
