// Things that are to be on disk, one queue for each lane, such as a camera. What the disk does not take now is written later; what can never be kept is set
// aside, and said.

import type { Transaction } from 'sequelize';
import type { Clock } from '../base/clock';
import { inTurn } from '../base/in-turn';
import { log } from '../base/log';
import type { Record } from '../db';
import type { StoreFile } from '../db/media';
import { isOfDisk } from '../db/disk-problem';
import { workBudgets } from './budgets';
import { problemsOf, type StationProblem } from '../base/station';
import { pause } from '../base/pause';

/** Writes rows, within a transaction. */
export type Rows = (transaction: Transaction) => Promise<void>;

/** Something to be kept: what it needs made before, then its rows. */
export type Thing = {
  readonly what: string;
  /** @param isLastTry a picture that cannot be drawn is then done without */
  prepare(storeFile: StoreFile, isLastTry: boolean): Promise<Rows>;
  /** Called once it is on disk. */
  done(): void;
};

/** The rows that belong into the same transaction; `refused` says why parts of it can never be stored. */
export type Beside = (transaction: Transaction, refused: readonly string[]) => Promise<void>;

export type Writing = {
  /**
   * Writes these in one transaction, when the lane's turn comes; what can never be stored of it is left out.
   * @returns once it is on disk
   * @throws where the program ends before that, or what is beside them can never be written
   */
  take(lane: string, things: readonly Thing[], beside?: Beside): Promise<void>;
  waiting(lane: string): number;
  /** @param nameOf a lane */
  problems(nameOf: (lane: string) => string): readonly StationProblem[];
  /** The program is about to end: from now on the disk is waited for only so long. */
  ending(): void;
  idle(): Promise<void>;
};

const retryMs = 2000;
const maxTries = 3;
/** When the program ends, the disk is waited for no longer than this. */
const patienceMs = 8000;
const saidSetAsideMs = 24 * 3600_000;

export function startWriting(record: Record, clock: Clock, budgets = workBudgets()): Writing {
  const queues = inTurn();
  const waitsFor = new Map<string, string>();
  const setAside = new Map<string, { count: number; why: string; at: number }>();
  let givesUpAt = Infinity;

  /** @param at is told which one is being worked on, so that a failure is that one's */
  const writeOnce = (lane: string, things: readonly Thing[], isLast: (t: Thing) => boolean, at: (t?: Thing) => void, last: Rows) =>
    record.media.using(async (storeFile) => {
      const writes: [Thing, Rows][] = [];
      for (const thing of things) {
        at(thing);
        const began = performance.now();
        writes.push([thing, await thing.prepare(storeFile, isLast(thing))]);
        await budgets.spend(lane, performance.now() - began);
      }
      at();
      await record.write(async (transaction) => {
        for (const [thing, write] of writes) {
          at(thing);
          await write(transaction);
        }
        at();
        await last(transaction);
      });
    });

  const write = async (lane: string, things: readonly Thing[], beside?: Beside): Promise<void> => {
    const refused = new Map<Thing, string>();
    const attempts = new Map<Thing | undefined, number>();
    for (;;) {
      let at: Thing | undefined;
      const left = things.filter((t) => !refused.has(t));
      const isLast = (thing: Thing) => (attempts.get(thing) ?? 0) >= maxTries - 1;
      const last: Rows = async (transaction) => {
        for (const [{ what }, why] of refused) await record.setAside(transaction, clock.now(), lane, what, why);
        await beside?.(transaction, [...refused.values()]);
      };
      try {
        await writeOnce(lane, left, isLast, (thing) => (at = thing), last);
        waitsFor.delete(lane);
        left.forEach((t) => t.done());
        return;
      } catch (thrown) {
        const why = (thrown as Error).message;
        if (isOfDisk(thrown)) {
          waitsFor.set(lane, why);
          log.error({ lane, error: why }, 'detections are waiting to be written');
          if (Date.now() > givesUpAt) throw thrown;
          await pause(Math.max(50, Math.min(retryMs, givesUpAt - Date.now())));
          continue;
        }
        const tried = (attempts.get(at) ?? 0) + 1;
        attempts.set(at, tried);
        if (tried < maxTries) continue;
        log.error({ lane, what: at?.what, error: (thrown as Error).stack }, 'this can never be stored; it is set aside');
        setAside.set(lane, { count: (setAside.get(lane)?.count ?? 0) + 1, why, at: clock.machine() });
        if (at === undefined) throw thrown;
        refused.set(at, why);
      }
    }
  };

  return {
    take: (lane, things, beside) => queues.add(lane, () => write(lane, things, beside)),
    waiting: (lane) => queues.waiting(lane),
    problems(nameOf) {
      const now = clock.machine();
      const [first] = waitsFor;
      const lost = [...setAside].map(([lane, { count, why, at }]) =>
        now - at < saidSetAsideMs
          ? `${count === 1 ? 'One item' : `${count} items`} of ${nameOf(lane)} could not be saved: ${why}`
          : undefined,
      );
      return [...problemsOf('outage', first && `Data cannot be saved: ${first[1]}`), ...problemsOf('degraded', ...lost)];
    },
    ending: () => void (givesUpAt = Date.now() + patienceMs),
    idle: () => queues.idle(),
  };
}
