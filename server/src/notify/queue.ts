// A queue of jobs that are kept in the outbox (db/jobs.ts), worked off in lanes: one that does not answer holds up no one else. In a lane
// the new comes before what is tried again, and a lane that fails rests, longer each time. What became of a job is written before the next.

import { setImmediate as turn } from 'node:timers/promises';
import type { Transaction } from 'sequelize';
import { log } from '../base/log';
import type { Clock } from '../base/clock';
import type { JobRow, Record } from '../db';

export type Result =
  | { readonly kind: 'done' }
  /** It is not its time yet. */
  | { readonly kind: 'later'; readonly ms: number }
  | { readonly kind: 'failed'; readonly why: string }
  | { readonly kind: 'given-up'; readonly why: string };

/** What is known of a kind of job. */
export type JobKind = {
  readonly maxAttempts: number;
  run(job: JobRow): Promise<Result>;
  /** Writes what became of it, in the transaction in which the job itself changes. `isLast`: it will not be tried again. */
  settle?(job: JobRow, result: Result, isLast: boolean, transaction: Transaction): Promise<void>;
  /** Called once that is on disk; not for what comes later. */
  settled?(job: JobRow, result: Result): void;
};

export type QueueNeeds = {
  readonly record: Pick<Record, 'jobs' | 'write'>;
  readonly clock: Clock;
  /** The first part of its lanes' names. */
  readonly name: string;
  readonly atOnce: number;
  readonly kinds: { readonly [K in JobRow['kind']]?: JobKind };
};

export type Queue = {
  wake(): void;
  /** Lanes whose last try failed. */
  failing(): readonly string[];
  problem(): string | undefined;
  close(): Promise<void>;
};

const idleMs = 30_000;
const stumbleMs = 1000;
const firstRestMs = 1000;
const longestRestMs = 5 * 60_000;
/** What became of several tries is written together: a hundred phones that do not answer must not keep the disk from what is new. */
const togetherMs = 30;

/** How long to wait after so many failures, ms. */
const waitAfter = (fails: number) => Math.min(longestRestMs, firstRestMs * 2 ** (fails - 1));

export function runQueue({ record, clock, name, atOnce, kinds }: QueueNeeds): Queue {
  const busy = new Map<string, Promise<void>>();
  const resting = new Map<string, { fails: number; until: number }>();
  const settle = settleTogether(record, clock, kinds);
  let closed = false;
  let woken = false;
  let wakeUp: () => void = () => {};
  let problem: string | undefined;
  const wake = () => {
    woken = true;
    wakeUp();
  };
  const attempt = async (job: JobRow): Promise<Result['kind']> => {
    const result = await kinds[job.kind]!.run(job);
    await settle(job, result);
    return result.kind;
  };
  const start = (job: JobRow) => {
    const { lane } = job;
    const run = attempt(job)
      .catch((thrown: Error): Result['kind'] => {
        log.error({ error: thrown.message }, 'a job stumbles');
        return 'failed';
      })
      .then((came) => {
        if (came === 'done' || came === 'given-up') resting.delete(lane);
        if (came === 'failed') {
          const fails = (resting.get(lane)?.fails ?? 0) + 1;
          resting.set(lane, { fails, until: clock.machine() + waitAfter(fails) });
        }
        busy.delete(lane);
        wake();
      });
    busy.set(lane, run);
  };
  /** Starts what is due. @returns how long until there may be more, ms */
  const startDue = async (): Promise<number> => {
    // One instant for all of it: what is not yet due now is what is waited for.
    const now = clock.machine();
    const out = [...busy.keys(), ...[...resting].flatMap(([lane, { until }]) => (until > now ? [lane] : []))];
    if (busy.size < atOnce)
      for (const job of await record.jobs.next(name, now, out, atOnce - busy.size)) {
        start(job);
        // Each seals its message, which takes its time; whatever else waits comes in between.
        await turn();
        if (closed) break;
      }
    const next = await record.jobs.nextAt(name, now);
    const times = [...[...resting.values()].map((r) => r.until).filter((u) => u > now), ...(next === undefined ? [] : [next])];
    return Math.max(20, Math.min(idleMs, ...times.map((t) => t - clock.machine())));
  };

  const running = (async () => {
    while (!closed) {
      woken = false;
      let wait = idleMs;
      try {
        wait = await startDue();
        problem = undefined;
      } catch (thrown) {
        problem = `The waiting alerts cannot be read: ${(thrown as Error).message}`;
        log.error({ error: (thrown as Error).message }, 'the outbox stumbles');
        wait = stumbleMs;
      }
      if (closed || woken) continue;
      await new Promise<void>((resolve) => {
        const timer = setTimeout(resolve, wait);
        wakeUp = () => {
          clearTimeout(timer);
          resolve();
        };
      });
    }
    await Promise.all(busy.values());
  })();
  return {
    wake,
    failing: () => [...resting.keys()],
    problem: () => problem,
    close() {
      closed = true;
      wake();
      return running;
    },
  };
}

type Settling = { readonly job: JobRow; readonly result: Result; readonly done: () => void; readonly failed: (e: Error) => void };

/** @returns what resolves once what became of a try is on disk */
function settleTogether(record: QueueNeeds['record'], clock: Clock, kinds: QueueNeeds['kinds']) {
  let waiting: Settling[] = [];
  const write = async ({ job, result }: Settling, transaction: Transaction) => {
    const kind = kinds[job.kind]!;
    const attempts = job.attempts + 1;
    const isLast = result.kind === 'given-up' || (result.kind === 'failed' && attempts >= kind.maxAttempts);
    const nextAtMachine = clock.machine() + (result.kind === 'later' ? result.ms : waitAfter(attempts));
    const change: Partial<JobRow> =
      result.kind === 'done'
        ? { state: 'done', attempts }
        : result.kind === 'later'
          ? { nextAtMachine }
          : { state: isLast ? 'given-up' : 'due', attempts, lastError: result.why, nextAtMachine };
    await record.jobs.change(job.id, change, transaction);
    await kind.settle?.(job, result, isLast, transaction);
    if ('why' in result) log.warn({ kind: job.kind, why: result.why, attempts, isLast }, 'not done yet');
  };
  const flush = async () => {
    const all = waiting;
    waiting = [];
    if (all.length === 0) return;
    try {
      await record.write(async (transaction) => {
        for (const one of all) await write(one, transaction);
      });
      for (const { job, result, done } of all) {
        if (result.kind !== 'later') kinds[job.kind]!.settled?.(job, result);
        done();
      }
    } catch (thrown) {
      all.forEach(({ failed }) => failed(thrown as Error));
    }
  };
  return (job: JobRow, result: Result) =>
    new Promise<void>((done, failed) => {
      waiting.push({ job, result, done, failed });
      // What went well is written at once: until then it would be done again after a kill.
      if (result.kind === 'done') void flush();
      else if (waiting.length === 1) setTimeout(() => void flush(), togetherMs);
    });
}
