// Judges a rule over the last days in a thread of its own. What the cameras saw is read and followed once, and kept while it is asked again; in
// between it hears whether the answer is still wanted.

import { parentPort, workerData } from 'node:worker_threads';
import { classOf, type ClassName } from '@nibber/core/boxes';
import { neverFires } from '@nibber/core/chain';
import {
  difference,
  judge,
  startFollowing,
  type DayAlerts,
  type Followed,
  type Notified,
  type RehearsalResult,
} from '@nibber/core/rehearsal';
import { compileSite, type SiteFile } from '@nibber/core/site';
import { dateText, wallTime, type Instant } from '@nibber/core/time';
import type { Track } from '@nibber/core/tracks';
import { readDetections } from '../db/detections';
import type { Changed, RehearsalAsked, RehearsalSaid, RehearsalProgress } from './rehearsal';

const { dataFolder } = workerData as { readonly dataFolder: string };
const port = parentPort!;

/** What was read is good for so long: what has been recorded since is left out until then. */
const goodForMs = 120_000;
const maxShown = 60;
const steps = 20;
/** Counting what came so far by days costs more than a step. */
const betweenWordsMs = 150;
/** Entries that are followed between two looks at what is wanted. */
const followedAtOnce = 4000;

type Prepared = {
  readonly key: string;
  readonly madeAt: number;
  readonly followed: readonly Followed[];
  readonly tracks: readonly Track[];
  readonly since: Instant | null;
  /** What settings made of it that are asked about again and again: as the rule stands. */
  readonly notified: Map<string, Notified>;
};

let prepared: Prepared | undefined;
const waiting: RehearsalAsked[] = [];
const stopped = new Set<number>();
let isAtWork = false;

port.on('message', (notified: RehearsalProgress) => {
  if ('stop' in notified) return void stopped.add(notified.stop);
  waiting.push(notified.ask);
  if (!isAtWork) void work();
});

const say = (said: RehearsalSaid) => port.postMessage(said);
/** Lets messages in. */
const breath = () => new Promise<void>((done) => setImmediate(done));

class Stopped extends Error {}

/** One after the other: they share the tracks of what was recorded. */
async function work() {
  isAtWork = true;
  for (let asked = waiting.shift(); asked; asked = waiting.shift()) {
    try {
      if (!stopped.has(asked.number)) say({ number: asked.number, kind: 'done', result: await answerTo(asked) });
    } catch (thrown) {
      if (!(thrown instanceof Stopped)) say({ number: asked.number, kind: 'failed', message: (thrown as Error).message });
    }
    stopped.delete(asked.number);
  }
  isAtWork = false;
}

async function lookUp(number: number) {
  await breath();
  if (stopped.has(number)) throw new Stopped();
}

async function answerTo(asked: RehearsalAsked): Promise<RehearsalResult<Changed>> {
  const ready = await prepare(asked);
  const { zone } = compileSite(asked.after);
  const before = await notifiedBefore(ready, asked);
  let saidAt = -Infinity;
  const after = await judging(ready, asked, asked.after, (done, events) => {
    if (performance.now() - saidAt < betweenWordsMs) return;
    saidAt = performance.now();
    say({ number: asked.number, kind: 'judging', done, days: daysOf(asked, zone, before.events, events) });
  });
  const { gained, lost } = difference(zone, before, after);
  const changed = (e: (typeof gained)[number] | (typeof lost)[number]): Changed => ({
    at: e.at,
    camera: e.source,
    since: e.since ?? null,
    why: ('now' in e ? e.now?.why : 'before' in e ? e.before?.why : undefined) ?? '',
  });
  const newest = (all: readonly Changed[]) => [...all].sort((a, b) => b.at - a.at).slice(0, maxShown);
  return {
    days: daysOf(asked, zone, before.events, after.events),
    gained: newest(gained.map(changed)),
    lost: newest(lost.map(changed)),
    gainedInAll: gained.length,
    lostInAll: lost.length,
    never: neverFires(asked.after, asked.after.rules![0]!),
    since: ready.since,
    sureness: surenessOf(ready.tracks, asked.after),
  };
}

async function prepare({ number, cameras, from, to }: RehearsalAsked): Promise<Prepared> {
  const key = JSON.stringify([from, [...cameras].sort()]);
  if (prepared?.key === key && Date.now() - prepared.madeAt < goodForMs) return prepared;
  prepared = undefined;
  const reading = readDetections(dataFolder, from, to, cameras);
  let next = reading.next();
  for (; !next.done; next = reading.next()) {
    say({ number, kind: 'reading', done: next.value.done / 2 });
    await lookUp(number);
  }
  const following = startFollowing();
  const tracks = new Set<Track>();
  let since: Instant | null = null;
  for (const [i, entry] of next.value.entries()) {
    following.take(entry);
    if (entry.kind === 'input' && entry.input.kind === 'frame') since ??= entry.input.frame.at;
    if (i % followedAtOnce === 0) {
      say({ number, kind: 'reading', done: 0.5 + i / next.value.length / 2 });
      await lookUp(number);
    }
  }
  following.take({ order: Infinity, kind: 'input', input: { kind: 'end', at: to } });
  for (const entry of following.followed) if (entry.kind === 'frame') for (const track of entry.frame.ended) tracks.add(track);
  return (prepared = { key, madeAt: Date.now(), followed: following.followed, tracks: [...tracks], since, notified: new Map() });
}

async function notifiedBefore(ready: Prepared, asked: RehearsalAsked): Promise<Notified> {
  const key = JSON.stringify(asked.before);
  const known = ready.notified.get(key);
  if (known) return known;
  const notified = await judging(ready, asked, asked.before);
  ready.notified.clear();
  ready.notified.set(key, notified);
  return notified;
}

async function judging(
  ready: Prepared,
  asked: RehearsalAsked,
  site: SiteFile,
  came: (done: number, events: Notified['events']) => void = () => {},
): Promise<Notified> {
  const judgement = judge(ready.followed, compileSite(site));
  let next = judgement.next();
  for (; !next.done; next = judgement.next()) {
    came(next.value.done, next.value.events);
    await lookUp(asked.number);
  }
  return next.value;
}

const dayMs = 86_400_000;

function daysOf({ from, to }: RehearsalAsked, zone: string, before: Notified['events'], after: Notified['events']): DayAlerts[] {
  const days = new Map<string, { date: string; before: number; after: number }>();
  const day = (at: Instant) => dateText(wallTime(zone, at).day);
  // At noon of each, so that no clock change leaves one out.
  for (let at = from + dayMs / 2; at < to + dayMs / 2; at += dayMs) days.set(day(at), { date: day(at), before: 0, after: 0 });
  const count = (events: Notified['events'], of: 'before' | 'after') => {
    for (const e of events.values()) {
      const own = days.get(day(e.at));
      if (own) own[of]++;
    }
  };
  count(before, 'before');
  count(after, 'after');
  return [...days.values()];
}

function surenessOf(tracks: readonly Track[], { rules }: SiteFile): number[] {
  const counts = Array.from({ length: steps }, () => 0);
  const [rule] = rules ?? [];
  const meant = new Set<ClassName>((rule?.classes ?? []).map((name) => classOf(name)!));
  for (const t of tracks) if (meant.has(t.class) && (t.believed || t.hits > 1)) counts[Math.min(steps - 1, Math.floor(t.best * steps))]!++;
  return counts;
}
