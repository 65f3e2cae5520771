// Tests prompts on stored events: every event with every prompt and service is a cell; as many run at once as the services allow, and
// each result is on disk before the next starts. No one is notified.

import { composed } from '@nibber/core/describing';
import type { Prompt, AiService } from '@nibber/core/site';
import { log } from '../base/log';
import type { Ground } from '../db/ground';
import { station, type Station } from '../base/station';
import { askAbout } from './event';
import type { AiServices } from './index';

export type Running = { readonly done: number; readonly of: number };
type Cell = { readonly promptVersion: string; readonly prompt: Prompt; readonly event: string; readonly service: AiService };

export type PromptTestStation = Station & {
  /** One run for each rule; a run that is under way is not disturbed. @returns whether it began */
  start(rule: string, cells: readonly Cell[]): boolean;
  stop(rule: string): void;
  running(rule: string): Running | null;
};

export function startPromptTests(
  { record, site, clock }: Pick<Ground, 'record' | 'site' | 'clock'>,
  aiServices: AiServices,
): PromptTestStation {
  const runs = new Map<string, { done: number; of: number; isStopped: boolean; work: Promise<unknown> }>();
  const answer = async ({ promptVersion, prompt, event: id, service }: Cell) => {
    const event = await record.events.find(id);
    if (!event) return;
    const said = await askAbout({ record, site, aiServices }, event, 'descriptions', prompt, {
      service,
      why: `testing prompts for ${event.ruleName}`,
    });
    const { seconds, cost, sent } = said;
    const what = said.ok
      ? { line: composed(prompt, said), fields: said.fields, problems: said.problems, why: null }
      : { line: null, fields: {}, problems: [], why: said.why };
    await record.promptTests.setResult({
      promptVersion,
      event: id,
      service: service.id,
      at: clock.now(),
      ...what,
      seconds,
      cost,
      pictures: sent,
    });
  };
  return {
    ...station('promptTests', {
      async close() {
        for (const run of runs.values()) run.isStopped = true;
        await Promise.allSettled([...runs.values()].map((r) => r.work));
      },
    }),
    start(rule, cells) {
      if (runs.has(rule)) return false;
      const run = { done: 0, of: cells.length, isStopped: false, work: Promise.resolve() as Promise<unknown> };
      runs.set(rule, run);
      const left = [...cells];
      // So many at once as all services together take; each by itself keeps to its own.
      const atOnce = [...new Set(cells.map((c) => c.service))].reduce((sum, s) => sum + (s.atOnce ?? 4), 0);
      const worker = async () => {
        for (let cell = left.shift(); cell && !run.isStopped; cell = left.shift()) {
          await answer(cell).catch((thrown: Error) => log.warn({ error: thrown.message }, 'a prompt could not be tested'));
          run.done++;
        }
      };
      run.work = Promise.all(Array.from({ length: Math.min(atOnce, cells.length) }, worker)).finally(() => runs.delete(rule));
      return true;
    },
    stop(rule) {
      const run = runs.get(rule);
      if (run) run.isStopped = true;
    },
    running(rule) {
      const run = runs.get(rule);
      return run ? { done: run.done, of: run.of } : null;
    },
  };
}
