// Work that may take long, or too long, in a thread beside the one that answers everyone. A thread is started when it is first needed, used
// again, ended when no one needs it, and ended at once where one piece of work takes longer than it may.

import { Piscina } from 'piscina';
import { log } from './log';

export type Threads<Task, Answer> = {
  /** @throws what the work throws; `late()` where it took too long, or too much memory */
  run(task: Task): Promise<Answer>;
  close(): Promise<void>;
};

const usualIdleMs = 30_000;
const maxMegabytes = 512;

/**
 * @param file whose default export does the work
 * @param limitMs how long one piece of it may take
 * @param idleMs how long a thread that no one needs is kept
 */
export function openThreads<Task, Answer>(file: string, limitMs: number, late: () => Error, idleMs = usualIdleMs): Threads<Task, Answer> {
  let pool: Piscina<Task, Answer> | undefined;
  const open = () =>
    new Piscina<Task, Answer>({
      filename: file,
      minThreads: 0,
      maxThreads: 1,
      idleTimeout: idleMs,
      resourceLimits: { maxOldGenerationSizeMb: maxMegabytes },
      ...(file.endsWith('.ts') ? { execArgv: ['--require', require.resolve('tsx/cjs')] } : {}),
    });
  return {
    async run(task) {
      pool ??= open();
      const ending = new AbortController();
      const timer = setTimeout(() => ending.abort(), limitMs);
      try {
        return await pool.run(task, { signal: ending.signal });
      } catch (thrown) {
        log.warn({ file, why: (thrown as Error).message }, 'work in a thread did not end well');
        throw late();
      } finally {
        clearTimeout(timer);
      }
    },
    close: async () => void (await pool?.destroy()),
  };
}
