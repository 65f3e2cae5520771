// How long the event loop goes without a turn. Measured by the processor time of the thread itself where the system says it (Linux), so that other
// work on the machine is not taken for ours.

import { existsSync, readFileSync } from 'node:fs';

const schedule = '/proc/self/schedstat';
/** Of the main thread, ms. */
const spent: () => number = existsSync(schedule)
  ? () => Number(readFileSync(schedule, 'utf8').split(' ')[0]) / 1e6
  : () => performance.now();

const lookEveryMs = 4;

/** @returns the longest stretch between two turns of the event loop while work went on, ms */
export async function longestTurn(work: () => Promise<unknown>): Promise<number> {
  let longest = 0;
  let last = spent();
  const look = () => {
    const now = spent();
    longest = Math.max(longest, now - last);
    last = now;
  };
  const timer = setInterval(look, lookEveryMs);
  try {
    await work();
  } finally {
    look();
    clearInterval(timer);
  }
  return longest;
}

/** What no single device, delivery or request may take more of than an idle server does, ms. */
export const mostHeldUpMs = 100;
