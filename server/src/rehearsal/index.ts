// What a rule would have done in the last days, asked again while it is changed. The thread that works it out begins with the first question
// and goes when no one has asked for a while.

import { once } from 'node:events';
import path from 'node:path';
import type { Worker } from 'node:worker_threads';
import { log } from '../base/log';
import type { Station } from '../base/station';
import { startThread } from '../vision/thread';
import type { RehearsalAsked, RehearsalSaid, RehearsalProgress } from './rehearsal';

export type Rehearsals = Station & {
  /**
   * Tells how far it is, and last the result. Who goes away is not answered.
   * @throws Error where it cannot be worked out
   */
  week(asked: Omit<RehearsalAsked, 'number'>, say: (said: RehearsalSaid) => void, gone: AbortSignal): Promise<void>;
};

const idleMs = 120_000;

export function startRehearsals(dataFolder: string): Rehearsals {
  let thread: Worker | undefined;
  let number = 0;
  let idle: NodeJS.Timeout | undefined;
  const asking = new Map<number, { say: (said: RehearsalSaid) => void; end: (failure?: Error) => void }>();
  const failAll = (failure: Error) => [...asking.values()].forEach((a) => a.end(failure));
  const close = async () => {
    clearTimeout(idle);
    const ended = thread;
    thread = undefined;
    failAll(new Error('It was ended.'));
    await ended?.terminate();
  };
  const begin = (): Worker => {
    const begun = startThread(path.join(__dirname, `rehearsal.worker${path.extname(__filename)}`), { dataFolder });
    begun.on('message', (said: RehearsalSaid) => {
      const asked = asking.get(said.number);
      if (said.kind === 'failed') return asked?.end(new Error(said.message));
      asked?.say(said);
      if (said.kind === 'done') asked?.end();
    });
    const gone = (failure: Error) => {
      if (thread !== begun) return;
      thread = undefined;
      log.error({ error: failure.message }, 'the thread of rehearsals has ended');
      failAll(failure);
    };
    begun.on('error', gone);
    begun.on('exit', () => gone(new Error('The thread has ended.')));
    return begun;
  };
  return {
    name: 'rehearse',
    problems: () => [],
    async week(asked, say, gone) {
      const own = ++number;
      clearTimeout(idle);
      const notify = (notified: RehearsalProgress) => (thread ??= begin()).postMessage(notified);
      try {
        await new Promise<void>((resolve, reject) => {
          asking.set(own, { say, end: (failure) => (failure ? reject(failure) : resolve()) });
          notify({ ask: { ...asked, number: own } });
          if (gone.aborted) reject(gone.reason as Error);
          void once(gone, 'abort').then(() => reject(gone.reason as Error));
        });
      } finally {
        asking.delete(own);
        if (gone.aborted) notify({ stop: own });
        clearTimeout(idle);
        idle = setTimeout(() => asking.size === 0 && void close(), idleMs);
        idle.unref();
      }
    },
    close,
  };
}
