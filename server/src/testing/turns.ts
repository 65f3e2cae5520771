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

/** What no single device, delivery or request may take more of than an idle server does, ms, on a machine that has nothing else to do. */
const maxMs = 100;
/**
 * On a machine that does other work beside this one the caches and half of each core are not ours, now more and now less: so many times as much is
 * taken for the same. What this stands guard against took seconds.
 */
const tolerance = 3;
/** What the reference takes on such a machine, ms. */
const referenceMs = 32;

/** Work of a fixed size, of the kinds that a request is made of. @returns the processor time that it takes here and now, ms */
function reference(): number {
  const began = spent();
  const rows = Array.from({ length: 2000 }, (_, i) => ({
    id: `row-${i}`,
    at: i * 1000,
    box: [0.1, 0.2, 0.3, 0.4],
    words: 'a person in a red coat',
  }));
  for (let i = 0; i < 8; i++) if ((JSON.parse(JSON.stringify(rows)) as unknown[]).length !== rows.length) throw new Error('never');
  return spent() - began;
}

/** How long a turn may be here and now: a core that is shared does the same work in more of its time. */
export function maxHeldUpMs(): number {
  const times = Array.from({ length: 5 }, reference).sort((a, b) => a - b);
  return tolerance * maxMs * Math.max(1, times[2]! / referenceMs);
}
