// Work done one after the other, a queue for each key: none holds up another.

export type OneByOne = {
  /** @returns what the work resolves to, once all that came before it under this key is over */
  add<T>(key: string, work: () => Promise<T>): Promise<T>;
  waiting(key: string): number;
  /** Resolves when nothing waits under any key. */
  idle(): Promise<void>;
};

export function oneByOne(): OneByOne {
  const tails = new Map<string, Promise<unknown>>();
  const counts = new Map<string, number>();
  return {
    add(key, work) {
      counts.set(key, (counts.get(key) ?? 0) + 1);
      const run = (tails.get(key) ?? Promise.resolve()).then(work).finally(() => {
        const left = counts.get(key)! - 1;
        if (left > 0) counts.set(key, left);
        else {
          counts.delete(key);
          tails.delete(key);
        }
      });
      tails.set(
        key,
        run.catch(() => {}),
      );
      return run;
    },
    waiting: (key) => counts.get(key) ?? 0,
    async idle() {
      while (tails.size > 0) await Promise.all(tails.values());
    },
  };
}
