// What the sieve decided, put on disk: pictures first, then one transaction with everything that hangs together; only then is anybody told.

import { randomUUID } from 'node:crypto';
import type { Transaction } from 'sequelize';
import { recipientsOf, type PersonState } from '@nibber/core/recipients';
import type { SieveEvent, Trail } from '@nibber/core/sieve';
import type { Rule } from '@nibber/core/site';
import type { Instant } from '@nibber/core/time';
import type { Clock } from '../clock';
import { log } from '../log';
import type { EventRow, OutboxRow, Record } from '../record';
import type { SiteBook } from '../record/site';
import type { SafePicture } from '../watch';
import { encodeClip } from './clip';
import { croppedPicture, markedPicture } from './drawings';
import type { FollowedTrack, Keeper } from './index';
import type { Masks } from './masks';
import type { Recent } from './recent';

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

const beforeMs = 3000;
const longestMs = 20_000;
const afterTrackMs = 2000;
const retryMs = 2000;
const mostWaiting = 500;

/** A keeper that also keeps what a walk test made happen, marked as such. */
export type LiveKeeper = Keeper & {
  tested(event: SieveEvent, track: FollowedTrack, test: string): { readonly id: string; readonly written: Promise<void> };
  trouble(): string | undefined;
  settled(): Promise<void>;
};

export function startKeeper(parts: KeeperParts): LiveKeeper {
  const { record, clock, kept } = parts;
  let queue: Promise<void> = Promise.resolve();
  let waiting = 0;
  let trouble: string | undefined;
  const clips = new Set<Clip>();
  const byTrack = new Map<string, Clip[]>();

  /** One after the other; what cannot be written now is written later. */
  const inOrder = (work: () => Promise<void>): Promise<void> => {
    waiting++;
    queue = queue.then(() => untilDone(work)).finally(() => waiting--);
    return queue;
  };
  const untilDone = async (work: () => Promise<void>) => {
    for (;;) {
      try {
        await work();
        trouble = undefined;
        return;
      } catch (thrown) {
        trouble = `Nothing can be written: ${(thrown as Error).message}`;
        log.error({ error: (thrown as Error).message }, 'an event waits to be written');
        await new Promise((r) => setTimeout(r, retryMs));
      }
    }
  };

  const keep = (event: SieveEvent, track: FollowedTrack, test: string | null) => {
    const eventId = randomUUID();
    const written = inOrder(async () => {
      await keepEvent(parts, eventId, event, track, test);
      kept({ kind: 'event', id: eventId });
    });
    const clip = recordClip(
      parts,
      eventId,
      track.view.camera,
      event.at,
      () => written,
      () => clips.delete(clip),
    );
    clips.add(clip);
    byTrack.set(track.id, [...(byTrack.get(track.id) ?? []), clip]);
    return { id: eventId, written };
  };
  return {
    event: (event, track) => void keep(event, track, null),
    tested: keep,
    ended(track, trails) {
      byTrack.get(track.id)?.forEach((clip) => clip.end(track.view.lastSeen));
      byTrack.delete(track.id);
      // While nothing can be written an event is held for as long as it takes; of tracks that became none, only so many.
      if (waiting >= mostWaiting) return log.error('too much waits to be written; a track is let go');
      void inOrder(async () => {
        const { jpeg } = await parts.masks.upToDate(track.best.picture);
        const picture = await record.pictures.keep(jpeg, 'jpg');
        await record.write(async (transaction) => {
          await keepTrack(record, transaction, track, picture, null);
          for (const trail of trails) await keepTrail(record, transaction, track, trail);
        });
        kept({ kind: 'track', id: track.id });
      });
    },
    trouble: () => trouble,
    async settled() {
      await Promise.all([...clips].map((clip) => clip.finish()));
      await queue;
    },
  };

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

  async function keepEvent({ site }: KeeperParts, id: string, passed: SieveEvent, track: FollowedTrack, test: string | null) {
    const { rule: ruleId, at, trail, thread } = passed;
    const rule = site.file.rules?.find((r) => r.id === ruleId);
    const { best, view } = track;
    const { jpeg } = await parts.masks.upToDate(best.picture);
    const [picture, marked, crop] = await Promise.all([
      record.pictures.keep(jpeg, 'jpg'),
      markedPicture(jpeg, best.box, view.class).then((b) => record.pictures.keep(b, 'jpg')),
      croppedPicture(jpeg, best.box).then((b) => record.pictures.keep(b, 'jpg')),
    ]);
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
    await record.write(async (transaction) => {
      await keepTrack(record, transaction, track, picture, test);
      await keepTrail(record, transaction, track, trail);
      await events.create(event, { transaction });
      const due = (row: Partial<OutboxRow>) =>
        outbox.create({ event: id, attempts: 0, nextAtMachine: clock.machine(), state: 'due', ...row }, { transaction });
      const signedUp = await phones.findAll({ where: { goneAt: null }, transaction });
      const lastTold = await lastAlerts(rule, transaction);
      const standing = (person: string): PersonState => ({
        snoozes: [],
        unreachable: () => (signedUp.some((p) => p.person === person) ? undefined : 'No phone is signed up'),
        // A test does not rest.
        lastTold: () => (test === null ? lastTold.get(person) : undefined),
      });
      for (const told of recipientsOf(site.file, toldOf(passed), (p) => standing(p.id))) {
        const person = told.person.id;
        const state =
          told.stoppedAt === null
            ? ({ state: 'waiting', why: null } as const)
            : ({ state: told.stoppedAt === 'channel' ? 'undeliverable' : 'held', why: told.why } as const);
        const alert = await alerts.create({ id: randomUUID(), event: id, person, channel: told.channel, ...state }, { transaction });
        if (told.stoppedAt !== null) continue;
        for (const phone of signedUp) if (phone.person === person) await due({ kind: 'alert', alert: alert.id, phone: phone.id });
      }
      if (rule?.message?.description) await due({ kind: 'describe' });
    });
  }
}

const toldOf = ({ at, rule, camera, area }: SieveEvent) => ({ at, rule, camera, area });

type Clip = { end(lastSeen: Instant): void; finish(): Promise<void> };

/** Gathers the pictures of an event's clip and keeps it when it is whole, or when the program ends. */
function recordClip(
  { recent, record, masks, canMakeClips, kept }: KeeperParts,
  event: string,
  camera: string,
  at: Instant,
  written: () => Promise<void>,
  done: () => void,
): Clip {
  const pictures: SafePicture[] = recent.since(camera, at - beforeMs);
  let until = at + longestMs;
  let finishing: Promise<void> | undefined;
  const finish = () =>
    (finishing ??= keepClip()
      .catch((thrown: Error) => log.error({ event, error: thrown.message }, 'clip not kept'))
      .finally(done));
  const keepClip = async () => {
    clearTimeout(timer);
    stop();
    const update = await makeClip();
    // The event's own row comes first.
    await written();
    await record.write((transaction) => record.tables.events.update(update, { where: { id: event }, transaction }));
    kept({ kind: 'clip', id: event });
  };
  const makeClip = async (): Promise<Partial<EventRow>> => {
    if (!canMakeClips) return { clipTrouble: 'Clips need ffmpeg, which is not installed.' };
    if (pictures.length < 2) return { clipTrouble: 'The camera sent too few pictures.' };
    try {
      return {
        clip: await record.pictures.keep(await encodeClip(await Promise.all(pictures.map((p) => masks.upToDate(p)))), 'mp4'),
        clipFrom: pictures[0]!.at,
      };
    } catch (thrown) {
      log.warn({ event, error: (thrown as Error).message }, 'clip not made');
      return { clipTrouble: `The clip could not be made: ${(thrown as Error).message}` };
    }
  };
  const stop = recent.onPicture(camera, (picture) => {
    if (picture.at <= until) pictures.push(picture);
    else void finish();
  });
  const timer = setTimeout(() => void finish(), longestMs + 5000);
  return { end: (lastSeen) => (until = Math.min(until, lastSeen + afterTrackMs)), finish };
}
