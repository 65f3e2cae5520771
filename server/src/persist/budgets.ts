// How much of the machine one camera may take for pictures that are drawn: more than its share, and it waits between them.

import { pause } from '../base/pause';

const overMs = 10_000;
/** Of ten seconds; about what fifteen events cost. */
const freeMs = 1500;
/** A camera over its share works one part of this many. */
const slower = 5;

export type WorkBudgets = {
  /** Notes work of a camera; resolves at once, or after a rest where the camera has had its share. */
  spend(camera: string, ms: number): Promise<void>;
};

export function workBudgets(now: () => number = () => performance.now()): WorkBudgets {
  const spent = new Map<string, { ms: number; at: number }>();
  return {
    async spend(camera, ms) {
      const at = now();
      const before = spent.get(camera);
      const left = before ? before.ms * Math.max(0, 1 - (at - before.at) / overMs) : 0;
      spent.set(camera, { ms: left + ms, at });
      if (left + ms > freeMs) await pause(ms * (slower - 1));
    },
  };
}
