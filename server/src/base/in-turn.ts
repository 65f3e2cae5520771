// Work done one after the other, a queue for each key: none holds up another.

import PQueue from 'p-queue';

export type InTurn = {
  /** @returns what the work resolves to, once all that came before it under this key is over */
  add<T>(key: string, work: () => Promise<T>): Promise<T>;
  /** How many wait or are being done under a key. */
  waiting(key: string): number;
  /** Resolves when nothing waits under any key. */
  idle(): Promise<void>;
};

export function inTurn(): InTurn {
  const queues = new Map<string, PQueue>();
  const isEmpty = (queue: PQueue) => queue.size + queue.pending === 0;
  return {
    add(key, work) {
      let queue = queues.get(key);
      if (!queue) queues.set(key, (queue = new PQueue({ concurrency: 1 })));
      const own = queue;
      return own.add(work).finally(() => {
        if (isEmpty(own) && queues.get(key) === own) queues.delete(key);
      });
    },
    waiting(key) {
      const queue = queues.get(key);
      return queue ? queue.size + queue.pending : 0;
    },
    async idle() {
      while (queues.size > 0) await Promise.all([...queues.values()].map((q) => q.onIdle()));
    },
  };
}
