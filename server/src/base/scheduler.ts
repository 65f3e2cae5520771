// What is done again and again: one list, by cron's patterns (with seconds), each never twice at once.

import { Cron } from 'croner';
import type { Failures } from './failures';

export type Schedule = {
  /** @param pattern of cron, seconds first @param what it is, as a failure of it is reported */
  every(pattern: string, what: string, work: () => void | Promise<void>): void;
  close(): void;
};

export function openSchedule({ report }: Pick<Failures, 'report'>): Schedule {
  const jobs: Cron[] = [];
  return {
    every(pattern, what, work) {
      jobs.push(new Cron(pattern, { protect: true, catch: (thrown) => report(what, thrown), unref: true }, work));
    },
    close: () => jobs.forEach((job) => job.stop()),
  };
}
