// What is done again and again: one list, by cron's patterns (with seconds), each never twice at once.

import { Cron } from 'croner';
import { log } from './log';

export type Schedule = {
  /** @param pattern of cron, seconds first */
  every(pattern: string, what: string, work: () => void | Promise<void>): void;
  close(): void;
};

export function openSchedule(): Schedule {
  const jobs: Cron[] = [];
  return {
    every(pattern, what, work) {
      const caught = (thrown: unknown) => log.error({ what, error: (thrown as Error).message }, 'what is done by schedule failed');
      jobs.push(new Cron(pattern, { protect: true, catch: caught, unref: true }, work));
    },
    close: () => jobs.forEach((job) => job.stop()),
  };
}
