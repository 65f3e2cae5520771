// What is due in the outbox, a lane for each phone and for each camera's descriptions: one that does not answer holds up nobody else.
// In a lane the new comes before what is tried again, and a lane that fails rests, longer each time.

import { Op, QueryTypes } from 'sequelize';
import { log } from '../log';
import type { OutboxRow, Record } from '../record';

export type Tried = 'done' | 'failed' | 'later';

export type LanesParts = {
  readonly record: Record;
  readonly machine: () => number;
  readonly kinds: readonly OutboxRow['kind'][];
  /** What has a lane of its own. */
  readonly by: 'phone' | 'camera';
  readonly atOnce: number;
  readonly attempt: (row: OutboxRow) => Promise<Tried>;
};

export type Lanes = {
  wake(): void;
  /** Lanes whose last try failed. */
  failing(): ReadonlySet<string>;
  trouble(): string | undefined;
  close(): Promise<void>;
};

const idleMs = 30_000;
const stumbleMs = 1000;
const firstRestMs = 1000;
const longestRestMs = 5 * 60_000;
/** Above every id. */
const retried = 1_000_000_000_000;

const rank = `MIN((outbox.attempts > 0) * ${retried} + outbox.id)`;
const isDue = `outbox.state = 'due' AND outbox.kind IN (:kinds) AND outbox.nextAtMachine <= :now`;
/** Phone by phone, so that what has piled up for those that do not answer is not even looked at. */
const queries = {
  phone: `SELECT lane, rank FROM (SELECT phones.id AS lane, (SELECT ${rank} FROM outbox WHERE outbox.phone = phones.id AND ${isDue}) AS rank
          FROM phones WHERE phones.id NOT IN (:out)) WHERE rank IS NOT NULL ORDER BY rank LIMIT :most`,
  camera: `SELECT events.camera AS lane, ${rank} AS rank FROM outbox JOIN events ON events.id = outbox.event
           WHERE ${isDue} AND events.camera NOT IN (:out) GROUP BY events.camera ORDER BY rank LIMIT :most`,
} as const;

export function runLanes({ record, machine, kinds, by, atOnce, attempt }: LanesParts): Lanes {
  const busy = new Map<string, Promise<void>>();
  const resting = new Map<string, { fails: number; until: number }>();
  let closed = false;
  let woken = false;
  let wakeUp: () => void = () => {};
  let trouble: string | undefined;
  const wake = () => {
    woken = true;
    wakeUp();
  };
  /** The next of every lane that neither is busy nor rests. */
  const next = async (now: number): Promise<(OutboxRow & { lane: string })[]> => {
    const out = [...busy.keys(), ...[...resting].flatMap(([key, { until }]) => (until > now ? [key] : []))];
    const ranked = (await record.sequelize.query(queries[by], {
      replacements: { kinds, now, out: out.length ? out : [''], most: atOnce - busy.size },
      type: QueryTypes.SELECT,
    })) as { lane: string; rank: number }[];
    const rows = await record.tables.outbox.findAll({ where: { id: ranked.map((r) => r.rank % retried) }, raw: true });
    return ranked.flatMap(({ lane: key, rank }) => {
      const row = rows.find((r) => r.id === rank % retried);
      return row ? [{ ...row, lane: key }] : [];
    });
  };
  const start = (row: OutboxRow & { lane: string }) => {
    const { lane: key, ...own } = row;
    const run = attempt(own)
      .catch((thrown: Error): Tried => {
        log.error({ error: thrown.message }, 'outbox stumbles');
        return 'failed';
      })
      .then((tried) => {
        if (tried === 'done') resting.delete(key);
        if (tried === 'failed') {
          const fails = (resting.get(key)?.fails ?? 0) + 1;
          resting.set(key, { fails, until: machine() + Math.min(longestRestMs, firstRestMs * 2 ** (fails - 1)) });
        }
        busy.delete(key);
        wake();
      });
    busy.set(key, run);
  };
  /** Starts what is due. @returns how long until there may be more, ms */
  const startDue = async (): Promise<number> => {
    // One instant for all of it: what is not yet due now is what is waited for.
    const now = machine();
    if (busy.size < atOnce)
      for (const row of await next(now)) {
        start(row);
        // Each seals its message, which takes its time; whatever else waits comes in between.
        await new Promise((r) => setImmediate(r));
        if (closed) break;
      }
    const first = await record.tables.outbox.findOne({
      attributes: ['nextAtMachine'],
      where: { state: 'due', kind: [...kinds], nextAtMachine: { [Op.gt]: now } },
      order: [['nextAtMachine', 'ASC']],
    });
    const times = [...[...resting.values()].map((r) => r.until).filter((u) => u > now), ...(first ? [first.nextAtMachine] : [])];
    return Math.max(20, Math.min(idleMs, ...times.map((t) => t - machine())));
  };

  const running = (async () => {
    while (!closed) {
      woken = false;
      let wait = idleMs;
      try {
        wait = await startDue();
        trouble = undefined;
      } catch (thrown) {
        trouble = `What is to be told cannot be read: ${(thrown as Error).message}`;
        log.error({ error: (thrown as Error).message }, 'outbox stumbles');
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
    failing: () => new Set(resting.keys()),
    trouble: () => trouble,
    close() {
      closed = true;
      wake();
      return running;
    },
  };
}
