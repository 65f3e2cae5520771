// A worker thread that is started again when it dies, after growing waits; what it was doing is said to be lost, so that nobody waits for it.

import type { Worker } from 'node:worker_threads';
import { log } from '../log';
import { startThread } from './thread';

export type KeptThread<Request> = {
  post(request: Request): void;
  /** Ends it where it hangs; it is started again. */
  restart(why: string): void;
  /** Why it does not run; undefined while it does. */
  trouble(): string | undefined;
  close(): Promise<void>;
};

export type ThreadNeeds<Answer> = {
  readonly name: string;
  readonly file: string;
  readonly data?: unknown;
  readonly answered: (answer: Answer) => void;
  /** A new one begins, at first and after each death; what the one before was given is lost. */
  readonly begun: () => void;
};

const firstWaitMs = 500;
const longestWaitMs = 60_000;
/** One that has run for so long has been well. */
const wellMs = 60_000;

export function keepThread<Request, Answer>({ name, file, data, answered, begun }: ThreadNeeds<Answer>): KeptThread<Request> {
  let worker: Worker | undefined;
  let trouble: string | undefined;
  let wait = firstWaitMs;
  let timer: NodeJS.Timeout | undefined;
  let closing = false;

  const start = () => {
    const own = startThread(file, data);
    const startedAt = performance.now();
    let why = `The ${name} stopped.`;
    worker = own;
    own.on('message', (answer: Answer) => {
      trouble = undefined;
      answered(answer);
    });
    own.on('error', (error: Error) => (why = `The ${name} stopped: ${error.message}`));
    own.on('exit', () => {
      if (closing || worker !== own) return;
      worker = undefined;
      trouble ??= why;
      if (performance.now() - startedAt > wellMs) wait = firstWaitMs;
      log.error({ why, againMs: wait }, 'a thread is started again');
      timer = setTimeout(start, wait);
      wait = Math.min(longestWaitMs, wait * 2);
    });
    begun();
  };
  start();
  return {
    post: (request) => worker?.postMessage(request),
    restart(why) {
      trouble = why;
      void worker?.terminate();
    },
    trouble: () => trouble,
    async close() {
      closing = true;
      clearTimeout(timer);
      await worker?.terminate();
    },
  };
}
