// A walk test that is going on: the same detections, through a sieve of its own, to alerts that are marked as a test. What the place is
// set up to do goes on beside it, untouched.

import { createHash, randomUUID } from 'node:crypto';
import { compileSite } from '@nibber/core/site';
import type { Trail } from '@nibber/core/sieve';
import type { Instant } from '@nibber/core/time';
import { Problem } from '@nibber/core/problem';
import {
  furthest,
  settingsHashOf,
  lightsOf,
  siteForWalk,
  whyNotWalked,
  zonesWith,
  type WalkItem,
  type WalkResult,
} from '@nibber/core/walk-test';
import type { Clock } from '../base/clock';
import { log } from '../base/log';
import type { Bus } from '../base/bus';
import type { Station } from '../base/station';
import type { Record, WalkTestRow } from '../db';
import type { SiteBook } from '../db/site';
import type { Delivered, SafePicture, Watched } from '../base/picture';
import { startFollow, type Follow } from './index';
import type { Masks } from '../media/masks';
import type { Change, Persist, WalkedItem, WalkNow } from '../base/events';

export type WalkTests = Station & {
  /** The test that is going on. */
  now(): WalkNow | undefined;
  /** @throws Problem 'conflict' while one is going on, 'bad-input' where an item cannot be tested */
  start(items: readonly WalkItem[], by: string): Promise<WalkNow>;
  /** Ends it; what was shown is kept. @throws Problem 'not-found' where none is going on */
  end(): Promise<WalkTestRow>;
  watched(watched: Watched): void;
  passed(picture: SafePicture): void;
  delivered(delivered: Delivered): void;
  tick(at: Instant): void;
  /** A mark of what a test of an item rests on as the site is now. */
  settingsHash(item: WalkItem): string;
};

export type WalkTestNeeds = {
  readonly record: Record;
  readonly site: SiteBook;
  readonly clock: Clock;
  readonly persist: Pick<Persist, 'commit'>;
  readonly masks: Masks;
  readonly bus: Bus;
};

/** No one walks for longer; a test that was forgotten must not go on ringing phones. */
const longestMs = 60 * 60_000;

type Doing = { state: WalkedItem; trail: Trail | undefined; there: number; steps: number };
type Running = {
  readonly row: Omit<WalkTestRow, 'items' | 'endedAt'>;
  readonly doing: Doing[];
  readonly follow: Follow;
  /** Pictures and events of what has answered, on their way to the disk. */
  readonly onTheWay: Promise<void>[];
  said: string;
};

export function startWalkTests(needs: WalkTestNeeds): WalkTests {
  const { record, site, clock, persist } = needs;
  let running: Running | undefined;
  let writing: Promise<unknown> = Promise.resolve();

  const settingsHash = (item: WalkItem) => createHash('sha256').update(settingsHashOf(site.file, item)).digest('base64url');
  const nowOf = ({ row, doing }: Running): WalkNow => ({
    ...row,
    items: doing.map(({ state, trail, there, steps }) => ({
      ...state,
      lights: state.kind === 'rule' ? lightsOf(trail) : [],
      there,
      steps,
    })),
  });
  const write = ({ row, doing }: Running, endedAt: Instant | null) => {
    const whole: WalkTestRow = { ...row, endedAt, items: doing.map((d) => d.state) };
    writing = record.walkTests
      .keep(whole)
      .catch((thrown: Error) => log.error({ error: thrown.message }, 'what a walk test has shown cannot be written'));
    return writing.then(() => whole);
  };
  const setResult = (of: Running, doing: Doing, result: WalkResult) => {
    doing.state = { ...doing.state, result };
    doing.steps++;
    void write(of, null);
  };

  /** `event`: the one that was made, to be named once it is on disk. */
  const answered = (
    of: Running,
    doing: Doing,
    at: Instant,
    picture: SafePicture | undefined,
    event?: { readonly id: string; readonly stored: Promise<void> },
  ) => {
    if (doing.state.result.state === 'answered') return;
    setResult(of, doing, { state: 'answered', at, event: null, picture: null });
    const kept = (async () => {
      const name = picture && (await keepPicture(of, doing, picture));
      await event?.stored;
      setResult(of, doing, { state: 'answered', at, event: event?.id ?? null, picture: name ?? null });
      say(of);
    })().catch((thrown: Error) => log.error({ error: thrown.message }, 'the picture of a walk test is not kept'));
    of.onTheWay.push(kept);
  };
  const keepPicture = async (of: Running, doing: Doing, picture: SafePicture): Promise<string> => {
    const { jpeg } = await needs.masks.upToDate(picture);
    return record.media.using(async (keep) => {
      const file = await keep(jpeg, 'jpg');
      await record.walkTests.holdPicture(of.row.id, of.doing.indexOf(doing), file, picture.camera, picture.at);
      return file.name;
    });
  };
  /** Stores its events, marked as a test, and shows what they answer; of tracks that are over, only how far they came. */
  const hear = (of: Running, changes: readonly Change[]) => {
    for (const change of changes) {
      if (change.kind === 'track') judged(of, change.thing.view.camera, change.trails, 0);
      if (change.kind !== 'event' || !('thing' in change.event)) continue;
      const { id, at, thing, passed } = change.event;
      const stored = persist.commit({ lane: thing.view.camera, changes: [change] }).catch(() => {});
      const doing = ruleOf(of, passed.rule);
      if (!doing) continue;
      doing.trail = passed.trail;
      answered(of, doing, at, thing.best.picture, { id, stored });
    }
  };
  const ruleOf = (of: Running, id: string) => of.doing.find((d) => d.state.kind === 'rule' && d.state.rule === id);
  /** Things were there for a rule to judge. */
  const judged = (of: Running, camera: string, trails: readonly Trail[], there: number) => {
    for (const doing of of.doing) {
      const { state } = doing;
      if (state.kind !== 'rule' || !state.cameras.includes(camera)) continue;
      const own = trails.filter((t) => t.rule === state.rule);
      const best = furthest(own);
      if (!best) continue;
      const before = doing.trail;
      // A new walk starts again, once it has come as far or the last one is over.
      doing.trail = there > 0 || !before ? best : furthest([before, best]);
      if (lit(doing.trail) > lit(before)) doing.steps++;
      if (state.result.state === 'waiting') doing.state = { ...state, result: { state: 'waiting', walked: true, why: best.why } };
    }
  };
  const lookAt = (of: Running, camera: string, picture: SafePicture | undefined) => {
    const standing = of.follow.currentTrails(camera);
    const trails = standing.flatMap((s) => s.trails);
    for (const doing of of.doing)
      if (doing.state.kind === 'rule' && doing.state.cameras.includes(camera))
        doing.there = standing.filter((s) => s.trails.some((t) => doing.state.kind === 'rule' && t.rule === doing.state.rule)).length;
    judged(of, camera, trails, standing.length);
    const zones = zonesWith(
      site.file.cameras.find((c) => c.id === camera),
      standing.map((s) => s.track),
    );
    for (const doing of of.doing) {
      const { state } = doing;
      if (state.kind !== 'zone' || state.camera !== camera) continue;
      const isThere = zones.includes(state.zone);
      doing.there = isThere ? 1 : 0;
      if (isThere) answered(of, doing, standing[0]!.track.lastSeen, picture);
    }
    say(of);
  };
  const say = (of: Running) => {
    if (of !== running) return;
    const now = nowOf(of);
    const text = JSON.stringify(now);
    if (text === of.said) return;
    of.said = text;
    needs.bus.publish('walk', now);
  };

  const end = async (): Promise<WalkTestRow> => {
    const of = running;
    if (!of) throw new Problem('not-found', 'No walk test is running.', 'Start one.');
    running = undefined;
    hear(of, of.follow.stop(clock.now()));
    await Promise.all(of.onTheWay);
    await writing;
    const whole = await write(of, clock.now());
    needs.bus.publish('walk', undefined);
    return whole;
  };

  const tests: WalkTests = {
    name: 'walk tests',
    problems: () => [],
    now: () => running && nowOf(running),
    settingsHash,
    async start(items, by) {
      if (running) throw new Problem('conflict', `${running.row.by} is running a walk test.`, 'End it before starting another.');
      const why = items.map((i) => whyNotWalked(site.file, i)).find((w) => w !== undefined);
      if (why || items.length === 0)
        throw new Problem('bad-input', why ?? 'Nothing was chosen.', 'Choose active rules or watched zones. Nothing was started.');
      const rules = items.flatMap((i) => (i.kind === 'rule' ? [i.rule] : []));
      const file = siteForWalk(site.file, rules);
      const asked = { file, compiled: compileSite(file), modes: [], version: 0 };
      const id = randomUUID();
      const of: Running = {
        row: { id, startedAt: clock.now(), by },
        doing: items.map((item) => ({ state: startItem(item), trail: undefined, there: 0, steps: 0 })),
        follow: startFollow(asked, [], undefined, id),
        onTheWay: [],
        said: '',
      };
      running = of;
      await write(of, null);
      say(of);
      return nowOf(of);
    },
    end,
    watched(watched) {
      if (!running) return;
      hear(running, running.follow.watched(watched));
      lookAt(running, watched.frame.camera, watched.picture);
    },
    passed: (picture) => running && hear(running, running.follow.passed(picture)),
    delivered(delivered) {
      if (!running) return;
      hear(running, running.follow.delivered(delivered));
      lookAt(running, delivered.frame.camera, delivered.picture);
    },
    tick(at) {
      if (!running) return;
      hear(running, running.follow.tick(at));
      if (Math.abs(at - running.row.startedAt) > longestMs) return void end();
      for (const camera of new Set(running.doing.flatMap((d) => d.state.cameras))) lookAt(running, camera, undefined);
    },
    async close() {
      if (running) await end();
      await writing;
    },
  };
  needs.bus.on('picture', 'Walk tests', ({ picture }) => tests.passed(picture));
  needs.bus.on('watched', 'Walk tests', tests.watched);
  needs.bus.on('delivered', 'Walk tests', tests.delivered);
  needs.bus.on('reached', 'Walk tests', tests.tick);
  return tests;

  function startItem(item: WalkItem): WalkedItem {
    const rest = { settingsHash: settingsHash(item), result: { state: 'waiting', walked: false, why: null } as const };
    const { cameras, rules = [] } = site.file;
    if (item.kind === 'rule') {
      const rule = rules.find((r) => r.id === item.rule)!;
      return { ...item, name: rule.name, cameras: rule.cameras, ...rest };
    }
    const zone = cameras.find((c) => c.id === item.camera)!.zones!.find((z) => z.id === item.zone)!;
    return { ...item, name: zone.name, cameras: [item.camera], ...rest };
  }
}

const lit = (trail: Trail | undefined) => lightsOf(trail).filter((l) => l.state === 'passed').length;
