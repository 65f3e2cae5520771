// How long the event loop goes without a turn. Measured by the processor time of the thread itself where the system says it (Linux; proc(5)), so
// that other work on the machine is not taken for ours; nor is what the host of a virtual machine takes away from it (`steal`).

import { existsSync, readFileSync } from 'node:fs';

const schedule = '/proc/self/schedstat';
const isLinux = existsSync(schedule);
const jiffyMs = 10;

/** `ran`: of the main thread. `stolen`: by processor, from this machine. Both ms. */
type Reading = { readonly ran: number; readonly stolen: readonly number[] };

function read(): Reading {
  if (!isLinux) return { ran: performance.now(), stolen: [] };
  const processors = readFileSync('/proc/stat', 'utf8').match(/^cpu\d.*$/gm) ?? [];
  return {
    ran: Number(readFileSync(schedule, 'utf8').split(' ')[0]) / 1e6,
    stolen: processors.map((line) => Number(line.split(/\s+/)[8]) * jiffyMs),
  };
}

/** The number of the processor that it runs on. */
const processor = () => (isLinux ? Number(readFileSync('/proc/self/stat', 'utf8').split(') ')[1]!.split(' ')[36]) : 0);

/** @returns ms that the thread ran between two readings. What was stolen counts as run by Linux, and is taken off again. */
function ranBetween(before: Reading, now: Reading): number {
  const ran = now.ran - before.ran;
  const at = processor();
  return Math.max(0, ran - Math.min(ran, (now.stolen[at] ?? 0) - (before.stolen[at] ?? 0)));
}

const lookEveryMs = 4;

/** @returns the longest stretch between two turns of the event loop while work went on, ms */
export async function longestTurn(work: () => Promise<unknown>): Promise<number> {
  let longest = 0;
  let last = read();
  const look = () => {
    const now = read();
    longest = Math.max(longest, ranBetween(last, now));
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
  const began = read();
  const rows = Array.from({ length: 2000 }, (_, i) => ({
    id: `row-${i}`,
    at: i * 1000,
    box: [0.1, 0.2, 0.3, 0.4],
    words: 'a person in a red coat',
  }));
  for (let i = 0; i < 8; i++) if ((JSON.parse(JSON.stringify(rows)) as unknown[]).length !== rows.length) throw new Error('never');
  return ranBetween(began, read());
}

/** How long a turn may be here and now: a core that is shared does the same work in more of its time. */
export function maxHeldUpMs(): number {
  const times = Array.from({ length: 5 }, reference).sort((a, b) => a - b);
  return tolerance * maxMs * Math.max(1, times[2]! / referenceMs);
}
