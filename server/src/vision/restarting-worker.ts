// A worker, in a thread or a process of its own, that is started again when it dies, after growing waits; what it was doing is said to be lost,
// so that no one waits for it.

import { log } from '../base/log';
import { inThread, type Started } from './thread';

export type RestartingWorker<Request> = {
  post(request: Request): void;
  /** Ends it where it hangs; restarting it. */
  restart(why: string): void;
  /** Why it does not run; undefined while it does. */
  problem(): string | undefined;
  close(): Promise<void>;
};

export type ThreadNeeds<Request, Answer> = {
  readonly name: string;
  readonly file: string;
  readonly data?: unknown;
  /** As a thread, where it is not said. */
  readonly start?: (file: string, data: unknown) => Started<Request, Answer>;
  readonly answered: (answer: Answer) => void;
  /** A new one begins, at first and after each death; what the one before was given is lost. */
  readonly begun: () => void;
};

const firstWaitMs = 500;
const longestWaitMs = 60_000;
/** One that has run for so long has been well. */
const wellMs = 60_000;

export function restartingWorker<Request, Answer>({
  name,
  file,
  data = {},
  start: startOne = inThread,
  answered,
  begun,
}: ThreadNeeds<Request, Answer>): RestartingWorker<Request> {
  let worker: Started<Request, Answer> | undefined;
  let problem: string | undefined;
  let wait = firstWaitMs;
  let timer: NodeJS.Timeout | undefined;
  let closing = false;

  const start = () => {
    const own = startOne(file, data);
    const startedAt = performance.now();
    worker = own;
    own.onAnswer((answer) => {
      problem = undefined;
      answered(answer);
    });
    own.onEnd((said) => {
      if (closing || worker !== own) return;
      worker = undefined;
      const why = said === undefined ? `The ${name} stopped.` : `The ${name} stopped: ${said}`;
      problem ??= why;
      if (performance.now() - startedAt > wellMs) wait = firstWaitMs;
      log.error({ why, againMs: wait }, 'restarting it');
      timer = setTimeout(start, wait);
      wait = Math.min(longestWaitMs, wait * 2);
    });
    begun();
  };
  start();
  return {
    post: (request) => worker?.post(request),
    restart(why) {
      problem = why;
      void worker?.end();
    },
    problem: () => problem,
    async close() {
      closing = true;
      clearTimeout(timer);
      await worker?.end();
    },
  };
}
