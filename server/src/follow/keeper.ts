// What the sieve decided, put on disk: pictures first, then one transaction with everything that hangs together; only then is anybody told.
// Each camera has a queue of its own. What the disk does not take now is written later; what can never be kept is set aside, and said.

import { randomUUID } from 'node:crypto';
import type { Transaction } from 'sequelize';
import { recipientsOf, type PersonState } from '@nibber/core/recipients';
import type { SieveEvent, Trail } from '@nibber/core/sieve';
import type { Rule } from '@nibber/core/site';
import type { Instant } from '@nibber/core/time';
import type { Clock } from '../clock';
import { log } from '../log';
import type { AlertRow, EventRow, OutboxRow, Record } from '../record';
import type { SiteBook } from '../record/site';
import { isOfDisk } from '../record/trouble';
import { startClips } from './clips';
import { croppedPicture, markedPicture, noPicture } from './drawings';
import type { FollowedTrack, Keeper } from './index';
import type { Masks } from './masks';
import { oneByOne } from './one-by-one';
import { workBudgets } from './budgets';
import type { Recent } from './recent';
import { sameId } from './same-id';

export type Kept = { readonly kind: 'event' | 'track' | 'clip'; readonly id: string };

export type KeeperParts = {
  readonly record: Record;
  readonly site: SiteBook;
  readonly clock: Clock;
  readonly recent: Recent;
  readonly masks: Masks;
  readonly canMakeClips: boolean;
  /** Called when something is on disk. */
  readonly kept: (kept: Kept) => void;
};

const retryMs = 2000;
const mostTries = 3;
const mostWaiting = 500;
/** When the program ends, the disk is waited for no longer than this. */
const patienceMs = 8000;
const mostTogether = 4;
const saidSetAsideMs = 24 * 3600_000;

/** Something to be kept: what it needs made before, then its rows. */
type Job = {
  readonly what: string;
  /** @param isLastTry a picture that cannot be drawn is then done without */
  prepare(isLastTry: boolean): Promise<(transaction: Transaction) => Promise<void>>;
  /** Called once it is on disk. */
  done(): void;
};

/** The rows that belong into the same transaction; `refused` says why parts of it cannot be kept. */
export type WithIt = (transaction: Transaction, refused: readonly string[]) => Promise<unknown>;

/** A keeper that also keeps what a walk test made happen, marked as such. */
export type LiveKeeper = Keeper & {
  tested(event: SieveEvent, track: FollowedTrack, test: string): { readonly id: string; readonly written: Promise<void> };
  /** Whatever is given to the keeper while `work` runs is kept in one transaction with what is done in `withIt`. @returns once it is on disk */
  together(camera: string, work: () => void, withIt: WithIt): Promise<void>;
  /** Feeds the sieve what it knew before the program ended: its events were kept then, or will come of what is still due. */
  remembering(work: () => void): void;
  troubles(): string[];
  /** The program is about to end: from now on the disk is waited for only so long. */
  ending(): void;
  settled(): Promise<void>;
};

export async function startKeeper(parts: KeeperParts): Promise<LiveKeeper> {
  const { record, clock, kept } = parts;
  const queues = oneByOne();
  const budgets = workBudgets();
  const waitsFor = new Map<string, string>();
  const setAside = new Map<string, { count: number; why: string; at: number }>();
  let gathering: Job[] | undefined;
  let isRemembering = false;
  let givesUpAt = Infinity;
  const clips = startClips({ ...parts, write: keepClip });
  // A clip that was being gathered when the program was killed will not come any more.
  await record.write((transaction) =>
    record.tables.events.update(
      { clipTrouble: 'The program ended while the clip was being taken.' },
      { where: { clip: null, clipTrouble: null }, transaction },
    ),
  );

  const keepJobs = async (camera: string, jobs: readonly Job[], withIt?: WithIt): Promise<void> => {
    const refused = new Map<Job | undefined, string>();
    const tries = new Map<Job | undefined, number>();
    for (;;) {
      let at: Job | undefined;
      const left = jobs.filter((j) => !refused.has(j));
      try {
        const writes: [Job, (transaction: Transaction) => Promise<void>][] = [];
        for (at of left) {
          const began = performance.now();
          writes.push([at, await at.prepare((tries.get(at) ?? 0) >= mostTries - 1)]);
          await budgets.spend(camera, performance.now() - began);
        }
        at = undefined;
        await record.write(async (transaction) => {
          for (const [job, write] of writes) {
            at = job;
            await write(transaction);
          }
          at = undefined;
          for (const [job, why] of refused)
            await record.tables.setAside.create({ at: clock.now(), camera, what: job?.what ?? 'a delivery', why }, { transaction });
          await withIt?.(transaction, [...refused.values()]);
        });
        waitsFor.delete(camera);
        left.forEach((j) => j.done());
        return;
      } catch (thrown) {
        const why = (thrown as Error).message;
        if (isOfDisk(thrown)) {
          waitsFor.set(camera, why);
          log.error({ camera, error: why }, 'what was seen waits to be written');
          if (Date.now() > givesUpAt) throw thrown;
          await new Promise((r) => setTimeout(r, Math.max(50, Math.min(retryMs, givesUpAt - Date.now()))));
          continue;
        }
        const tried = (tries.get(at) ?? 0) + 1;
        tries.set(at, tried);
        if (tried < mostTries) continue;
        log.error({ camera, what: at?.what, error: (thrown as Error).stack }, 'this can never be kept; it is set aside');
        setAside.set(camera, { count: (setAside.get(camera)?.count ?? 0) + 1, why, at: clock.machine() });
        if (at === undefined) throw thrown;
        refused.set(at, why);
      }
    }
  };
  const take = (camera: string, job: Job): Promise<void> => {
    if (gathering) {
      gathering.push(job);
      return Promise.resolve();
    }
    // What waits longer than the program lives is lost with it, and was said; nobody awaits it here.
    return queues.add(camera, () => keepJobs(camera, [job])).catch(() => {});
  };

  const keep = (event: SieveEvent, track: FollowedTrack, test: string | null) => {
    const { camera } = track.view;
    const id = sameId(track.id, event.rule, event.at, test ?? '');
    if (isRemembering) return { id, written: Promise.resolve() };
    const written = new Promise<void>((resolve) => {
      void take(camera, {
        what: `an event of ${event.rule}`,
        prepare: (isLastTry) => eventRows(parts, id, event, track, test, isLastTry),
        done() {
          kept({ kind: 'event', id });
          clips.gather({ id, track: track.id, camera, at: event.at });
          resolve();
        },
      });
    });
    return { id, written };
  };

  function keepClip(event: string, camera: string, update: Partial<EventRow>): Promise<void> {
    return take(camera, {
      what: 'a clip',
      prepare: async () => async (transaction) => void (await record.tables.events.update(update, { where: { id: event }, transaction })),
      done: () => kept({ kind: 'clip', id: event }),
    });
  }

  return {
    event: (event, track) => void keep(event, track, null),
    tested: keep,
    ended(track, trails) {
      const { camera, lastSeen } = track.view;
      clips.trackOver(track.id, lastSeen);
      // While nothing can be written an event is held for as long as it takes; of tracks that became none, only so many.
      if (queues.waiting(camera) >= mostWaiting) return log.error({ camera }, 'too much waits to be written; a track is let go');
      void take(camera, {
        what: 'a track',
        async prepare(isLastTry) {
          const picture = await pictureOf(track, isLastTry, async (jpeg) => record.pictures.keep(jpeg, 'jpg'));
          return async (transaction) => {
            await keepTrack(record, transaction, track, picture, null);
            for (const trail of trails) await keepTrail(record, transaction, track, trail);
          };
        },
        done: () => kept({ kind: 'track', id: track.id }),
      });
    },
    together(camera, work, withIt) {
      return queues.add(camera, async () => {
        const jobs: Job[] = (gathering = []);
        try {
          work();
        } finally {
          gathering = undefined;
        }
        // Many are kept in pieces, so that no camera holds the database; what is kept already is known when it is fed again.
        for (; jobs.length > mostTogether; jobs.splice(0, mostTogether)) await keepJobs(camera, jobs.slice(0, mostTogether));
        await keepJobs(camera, jobs, withIt);
      });
    },
    remembering(work) {
      isRemembering = true;
      try {
        work();
      } finally {
        isRemembering = false;
      }
    },
    troubles() {
      const nameOf = (id: string) => parts.site.compiled.cameras.get(id)?.name ?? id;
      const now = clock.machine();
      const [first] = waitsFor;
      return [
        ...(first ? [`Nothing can be written: ${first[1]}`] : []),
        ...[...setAside].flatMap(([camera, { count, why, at }]) =>
          now - at < saidSetAsideMs
            ? [`${count === 1 ? 'One thing' : `${count} things`} of ${nameOf(camera)} could not be kept and was set aside: ${why}`]
            : [],
        ),
      ];
    },
    ending: () => void (givesUpAt = Date.now() + patienceMs),
    async settled() {
      await clips.finish();
      await queues.idle();
    },
  };

  /** Makes something of the picture that shows a track best; on the last try a drawn one stands in, so that the event itself is not lost. */
  async function pictureOf<T>(track: FollowedTrack, isLastTry: boolean, make: (jpeg: Buffer) => Promise<T>): Promise<T> {
    try {
      return await make((await parts.masks.upToDate(track.best.picture)).jpeg);
    } catch (thrown) {
      if (!isLastTry || isOfDisk(thrown)) throw thrown;
      log.warn({ camera: track.view.camera, error: (thrown as Error).message }, 'a picture cannot be used; a drawn one stands in');
      return make(await noPicture());
    }
  }

  async function keepTrack(r: Record, transaction: Transaction, track: FollowedTrack, picture: string, test: string | null) {
    const { view } = track;
    const row = {
      id: track.id,
      camera: view.camera,
      class: view.class,
      type: view.type ?? null,
      firstSeen: view.firstSeen,
      lastSeen: view.lastSeen,
      path: [...track.path],
      picture,
      pictureBox: track.best.box,
      test,
    };
    await r.tables.tracks.upsert(row, { transaction });
  }

  async function keepTrail(r: Record, transaction: Transaction, track: FollowedTrack, trail: Trail) {
    const row = { ...trail, track: track.id, camera: track.view.camera, lastSeen: track.view.lastSeen, steps: [...trail.steps] };
    await r.tables.trails.upsert(row, { transaction });
  }

  /** When each person was last told of this rule; only asked where a channel rests. */
  async function lastAlerts(rule: Rule | undefined, transaction: Transaction): Promise<Map<string, Instant>> {
    if (!rule || !parts.site.file.channels?.push?.restSeconds) return new Map();
    const { alerts, events } = record.tables;
    const recent = await events.findAll({ where: { rule: rule.id, test: null }, order: [['at', 'DESC']], limit: 50, transaction });
    const told = await alerts.findAll({ where: { event: recent.map((e) => e.id), state: ['waiting', 'sent'] }, transaction });
    const at = new Map(recent.map((e) => [e.id, e.at]));
    const last = new Map<string, Instant>();
    for (const { person, event } of told) last.set(person, Math.max(last.get(person) ?? -Infinity, at.get(event)!));
    return last;
  }

  async function eventRows(
    { site }: KeeperParts,
    id: string,
    passed: SieveEvent,
    track: FollowedTrack,
    test: string | null,
    isLastTry: boolean,
  ): Promise<(transaction: Transaction) => Promise<void>> {
    const { rule: ruleId, at, trail, thread } = passed;
    const rule = site.file.rules?.find((r) => r.id === ruleId);
    const { best, view } = track;
    const store = async (bytes: Promise<Buffer> | Buffer) => record.pictures.keep(await bytes, 'jpg');
    const [picture, marked, crop] = await pictureOf(track, isLastTry, (jpeg) =>
      Promise.all([store(jpeg), store(markedPicture(jpeg, best.box, view.class)), store(croppedPicture(jpeg, best.box))]),
    );
    const event: Partial<EventRow> = {
      id,
      rule: ruleId,
      ruleName: rule?.name ?? ruleId,
      camera: view.camera,
      area: site.file.cameras.find((c) => c.id === view.camera)?.area ?? '',
      track: track.id,
      at,
      class: view.class,
      type: view.type ?? null,
      box: view.box,
      pictureAt: best.picture.at,
      pictureBox: best.box,
      picture,
      marked,
      crop,
      steps: [...trail.steps],
      thread: thread.id,
      joins: thread.joins,
      test,
    };
    const { alerts, events, outbox, phones } = record.tables;
    return async (transaction) => {
      // Fed again after the program was killed: it is kept already, and was told.
      if (await events.findByPk(id, { transaction, attributes: ['id'] })) return;
      await keepTrack(record, transaction, track, picture, test);
      await keepTrail(record, transaction, track, trail);
      await events.create(event, { transaction });
      const due = (row: Partial<OutboxRow>) => ({ event: id, attempts: 0, nextAtMachine: clock.machine(), state: 'due' as const, ...row });
      const signedUp = await phones.findAll({ attributes: ['id', 'person'], where: { goneAt: null }, transaction, raw: true });
      const lastTold = await lastAlerts(rule, transaction);
      const standing = (person: string): PersonState => ({
        snoozes: [],
        unreachable: () => (signedUp.some((p) => p.person === person) ? undefined : 'No phone is signed up'),
        // A test does not rest.
        lastTold: () => (test === null ? lastTold.get(person) : undefined),
      });
      // All at once: an event that many are told of must not hold the database longer than another.
      const alertRows: Partial<AlertRow>[] = [];
      const dueRows: Partial<OutboxRow>[] = [];
      for (const told of recipientsOf(site.file, toldOf(passed), (p) => standing(p.id))) {
        const person = told.person.id;
        const state =
          told.stoppedAt === null
            ? ({ state: 'waiting', why: null } as const)
            : ({ state: told.stoppedAt === 'channel' ? 'undeliverable' : 'held', why: told.why } as const);
        const alert = randomUUID();
        alertRows.push({ id: alert, event: id, person, channel: told.channel, ...state });
        if (told.stoppedAt !== null) continue;
        for (const phone of signedUp) if (phone.person === person) dueRows.push(due({ kind: 'alert', alert, phone: phone.id }));
      }
      if (rule?.message?.description) dueRows.push(due({ kind: 'describe' }));
      await alerts.bulkCreate(alertRows as AlertRow[], { transaction });
      await outbox.bulkCreate(dueRows as OutboxRow[], { transaction });
    };
  }
}

const toldOf = ({ at, rule, camera, area }: SieveEvent) => ({ at, rule, camera, area });
