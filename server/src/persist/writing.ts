// Things that are to be on disk, one queue for each camera. What the disk does not take now is written later; what can never be kept is set
// aside, and said.

import type { Transaction } from 'sequelize';
import type { Clock } from '../base/clock';
import { inTurn } from '../base/in-turn';
import { log } from '../base/log';
import type { Record } from '../db';
import type { StoreFile } from '../db/media';
import { isOfDisk } from '../db/disk-problem';
import { workBudgets } from './budgets';
import type { WithIt } from '../base/events';
import { problemsOf, type StationProblem } from '../base/station';
import { pause } from '../base/pause';

/** Something to be kept: what it needs made before, then its rows. */
export type Thing = {
  readonly what: string;
  /** @param isLastTry a picture that cannot be drawn is then done without */
  prepare(keep: StoreFile, isLastTry: boolean): Promise<(transaction: Transaction) => Promise<void>>;
  /** Called once it is on disk. */
  done(): void;
};

export type Writing = {
  /** Resolves once it is on disk, or will never be. */
  take(camera: string, thing: Thing): Promise<void>;
  /** Whatever is taken while `work` runs is kept in one transaction with what is done in `withIt`. @returns once it is on disk */
  together(camera: string, work: () => void, withIt: WithIt): Promise<void>;
  waiting(camera: string): number;
  /** @param nameOf a camera */
  problems(nameOf: (camera: string) => string): readonly StationProblem[];
  /** The program is about to end: from now on the disk is waited for only so long. */
  ending(): void;
  idle(): Promise<void>;
};

const retryMs = 2000;
const maxTries = 3;
/** When the program ends, the disk is waited for no longer than this. */
const patienceMs = 8000;
const maxTogether = 4;
const saidSetAsideMs = 24 * 3600_000;

export function startWriting(record: Record, clock: Clock, budgets = workBudgets()): Writing {
  const queues = inTurn();
  const waitsFor = new Map<string, string>();
  const setAside = new Map<string, { count: number; why: string; at: number }>();
  let gathering: Thing[] | undefined;
  let givesUpAt = Infinity;

  const writeOnce = (
    camera: string,
    things: readonly Thing[],
    isLast: (t: Thing) => boolean,
    at: (t: Thing | undefined) => void,
    last: WithIt,
  ) =>
    // prettier-ignore
    record.media.using(async (keep) => {
      const writes: [Thing, (transaction: Transaction) => Promise<void>][] = [];
      for (const thing of things) {
        at(thing);
        const began = performance.now();
        writes.push([thing, await thing.prepare(keep, isLast(thing))]);
        await budgets.spend(camera, performance.now() - began);
      }
      at(undefined);
      await record.write(async (transaction) => {
        for (const [thing, write] of writes) {
          at(thing);
          await write(transaction);
        }
        at(undefined);
        await last(transaction, []);
      });
    });

  const write = async (camera: string, things: readonly Thing[], withIt?: WithIt): Promise<void> => {
    const refused = new Map<Thing, string>();
    const promptTests = new Map<Thing | undefined, number>();
    for (;;) {
      let at: Thing | undefined;
      const left = things.filter((t) => !refused.has(t));
      const isLast = (thing: Thing) => (promptTests.get(thing) ?? 0) >= maxTries - 1;
      try {
        await writeOnce(camera, left, isLast, (thing) => (at = thing), async (transaction) => {
          for (const [{ what }, why] of refused) await record.setAside(transaction, clock.now(), camera, what, why);
          await withIt?.(transaction, [...refused.values()]);
        }); // prettier-ignore
        waitsFor.delete(camera);
        left.forEach((t) => t.done());
        return;
      } catch (thrown) {
        const why = (thrown as Error).message;
        if (isOfDisk(thrown)) {
          waitsFor.set(camera, why);
          log.error({ camera, error: why }, 'detections are waiting to be written');
          if (Date.now() > givesUpAt) throw thrown;
          await pause(Math.max(50, Math.min(retryMs, givesUpAt - Date.now())));
          continue;
        }
        const tried = (promptTests.get(at) ?? 0) + 1;
        promptTests.set(at, tried);
        if (tried < maxTries) continue;
        log.error({ camera, what: at?.what, error: (thrown as Error).stack }, 'this can never be stored; it is set aside');
        setAside.set(camera, { count: (setAside.get(camera)?.count ?? 0) + 1, why, at: clock.machine() });
        if (at === undefined) throw thrown;
        refused.set(at, why);
      }
    }
  };

  return {
    take(camera, thing) {
      if (gathering) {
        gathering.push(thing);
        return Promise.resolve();
      }
      // What waits longer than the program lives is lost with it, and was said; no one awaits it here.
      return queues.add(camera, () => write(camera, [thing])).catch(() => {});
    },
    together: (camera, work, withIt) =>
      queues.add(camera, async () => {
        const things: Thing[] = (gathering = []);
        try {
          work();
        } finally {
          gathering = undefined;
        }
        // Many are kept in pieces, so that no camera holds the database; what is kept already is known when it is fed again.
        for (; things.length > maxTogether; things.splice(0, maxTogether)) await write(camera, things.slice(0, maxTogether));
        await write(camera, things, withIt);
      }),
    waiting: (camera) => queues.waiting(camera),
    problems(nameOf) {
      const now = clock.machine();
      const [first] = waitsFor;
      const lost = [...setAside].map(([camera, { count, why, at }]) =>
        now - at < saidSetAsideMs
          ? `${count === 1 ? 'One item' : `${count} items`} of ${nameOf(camera)} could not be saved: ${why}`
          : undefined,
      );
      return [...problemsOf('outage', first && `Data cannot be saved: ${first[1]}`), ...problemsOf('degraded', ...lost)];
    },
    ending: () => void (givesUpAt = Date.now() + patienceMs),
    idle: () => queues.idle(),
  };
}
