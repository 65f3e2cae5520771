// The eye on walks of the stage, whose truth is known: tracks a walker, false tracks, switched identities, walks that ring; and what several
// cameras on this machine cost in looks and in walks missed. People alone, crossing, standing, hidden by a post; by day and by infrared.

import path from 'node:path';
import { overlap, type Box } from '@nibber/core/boxes';
import { readSite } from '@nibber/core/check';
import { look, newBackground, type Motion } from '@nibber/core/motion';
import { compileSite } from '@nibber/core/site';
import { openTracks, startState, step } from '@nibber/core/sieve';
import { toGrey } from '@nibber/core/stills';
import type { SeenObject } from '@nibber/core/tracks';
import type { DetectAnswer, DetectRequest } from '@nibber/server/vision/detect.worker';
import { movingShare, regionAround } from '@nibber/server/vision/region';
import { sizeOf, smallPicture } from '@nibber/server/media/small';
import { startThread } from '@nibber/server/vision/thread';
import type { FigureName } from '@nibber/standins/cameras/cast';
import { asTaken, composer, type Composer } from '@nibber/standins/cameras/compose';
import type { Light, Pixels } from '@nibber/standins/cameras/sheets';
import { figuresAt, newWorld, walks, type Actor, type Walk, type WalkName } from '@nibber/standins/stage/world';
import { median, rounded, type Figures } from './measure';

type View = 'yard' | 'lane-gate';
type Scene = {
  readonly name: string;
  readonly view: View;
  readonly light: Light;
  readonly actors: readonly Actor[];
  readonly hasPost: boolean;
  readonly rule: string;
};
/** A picture of a scene: who is where, and what the detector finds in it at either input. */
type Shot = {
  readonly at: number;
  readonly truth: readonly { readonly walker: number; readonly box: Box }[];
  readonly usual: readonly SeenObject[] | undefined;
  readonly fine: readonly SeenObject[] | undefined;
  readonly region: Box | undefined;
};
type Filmed = Scene & { readonly shots: readonly Shot[] };
/** `cost`: of a look at either input, ms. */
export type Films = { readonly filmed: readonly Filmed[]; readonly cost: { readonly usual: number; readonly fine: number } };

const picturesASecond = 4;
const everyMs = 1000 / picturesASecond;
const longestMs = 30_000;
const afterMs = 1500;
const width = 960;
const aspect = 16 / 9;
const people: readonly FigureName[] = ['ada', 'bo', 'cy'];
const sameThing = 0.3;
const undecided = 0.4;
const post = { left: 0.47, width: 0.035 };

const site = (() => {
  const read = readSite(`nibber: 2
site: { name: Bench, timezone: Etc/UTC }
areas: [{ id: a, name: A }]
modes: [{ id: on, name: On, armed: true }]
cameras:
  - id: yard
    name: Yard
    area: a
    source: { kind: streamed, low: "http://x/y" }
    zones:
      - { id: lane, name: Lane, purpose: watch, polygon: [[0, 0.36], [1, 0.36], [1, 0.488], [0, 0.488]] }
      - { id: yard, name: Yard, purpose: watch, polygon: [[0, 0.53], [1, 0.53], [1, 0.97], [0, 0.97]] }
  - id: lane-gate
    name: Lane gate
    area: a
    source: { kind: streamed, low: "http://x/l" }
    zones:
      - { id: lane, name: Lane, purpose: watch, polygon: [[0, 0.48], [1, 0.48], [1, 0.76], [0, 0.76]] }
    lines:
      - { id: middle, name: Middle, points: [[0.6, 0.45], [0.6, 0.8]] }
rules:
  - { id: comes-in, name: R, cameras: [yard], classes: [person], confidence: 0.4, behaviour: { kind: goes, from: lane, to: yard }, notify: [{ to: owner, channel: push }] }
  - { id: in-yard, name: R, cameras: [yard], classes: [person], confidence: 0.4, behaviour: { kind: appears, zone: yard, frames: 2 }, notify: [{ to: owner, channel: push }] }
  - { id: passes, name: R, cameras: [lane-gate], classes: [person], confidence: 0.4, behaviour: { kind: crosses, line: middle, direction: both }, notify: [{ to: owner, channel: push }] }
  - { id: in-lane, name: R, cameras: [lane-gate], classes: [person], confidence: 0.4, behaviour: { kind: appears, zone: lane, frames: 2 }, notify: [{ to: owner, channel: push }] }
people: [{ id: o, name: O, role: owner }]
`);
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return compileSite(read.site);
})();

function scenes(): Scene[] {
  const reversed = (name: WalkName): Walk => ({ ...walks[name], points: [...walks[name].points].reverse() });
  const actor = (id: number, figure: FigureName, walk: Walk, startedAt = 0): Actor => ({ id, figure, walk, startedAt });
  const all: Scene[] = [];
  for (const light of ['day', 'night'] as const) {
    const add = (name: string, view: View, rule: string, actors: readonly Actor[], hasPost = false) =>
      all.push({ name: `${name} by ${light}`, view, light, actors, hasPost, rule });
    for (const who of people) {
      add(`${who} comes in`, 'yard', 'comes-in', [actor(1, who, walks['lane-to-yard'])]);
      add(`${who} goes out`, 'yard', 'in-yard', [actor(1, who, walks['yard-to-lane'])]);
      add(`${who} crosses the yard`, 'yard', 'in-yard', [actor(1, who, walks['across-yard'])]);
      add(`${who} passes`, 'lane-gate', 'passes', [actor(1, who, walks['along-lane'])]);
      add(`${who} stands`, 'lane-gate', 'in-lane', [actor(1, who, walks['lane-wait'])]);
      add(`${who} behind a post`, 'yard', 'in-yard', [actor(1, who, walks['across-yard'])], true);
    }
    for (const [a, b] of [
      ['ada', 'bo'],
      ['bo', 'cy'],
      ['ada', 'cy'],
    ] as const) {
      add(`${a} and ${b} cross in the yard`, 'yard', 'in-yard', [actor(1, a, walks['across-yard']), actor(2, b, reversed('across-yard'))]);
      add(`${a} and ${b} cross in the lane`, 'lane-gate', 'passes', [
        actor(1, a, walks['along-lane']),
        actor(2, b, reversed('along-lane')),
      ]);
    }
  }
  return all;
}

/** A post of the yard, before everything. */
function withPost({ data, width: w, height: h }: Pixels): void {
  for (let y = Math.floor(h * 0.25); y < h * 0.95; y++)
    for (let x = Math.floor(w * post.left); x < w * (post.left + post.width); x++) data.set([72, 66, 58], (y * w + x) * 3);
}

type Eye = {
  readonly see: (jpeg: Buffer, region: Box, brighten: boolean, fine: boolean) => Promise<SeenObject[]>;
  readonly costs: number[];
  close(): Promise<unknown>;
};

/** A detector in a thread of its own, so that both inputs are looked through at once. */
async function openEye(): Promise<Eye> {
  const thread = startThread(path.join(__dirname, '../../server/src/vision/detect.worker.ts'), {});
  const waiting = new Map<number, (answer: DetectAnswer) => void>();
  const costs: number[] = [];
  let asked = 0;
  await new Promise<void>((ready) => {
    thread.on('message', (answer: DetectAnswer) =>
      answer.kind === 'ready' ? ready() : 'id' in answer && waiting.get(answer.id)?.(answer),
    );
  });
  return {
    costs,
    async see(jpeg, region, brighten, fine) {
      const id = ++asked;
      const answer = new Promise<DetectAnswer>((resolve) => waiting.set(id, resolve));
      thread.postMessage({ id, look: { jpeg, region, brighten, fine } } satisfies DetectRequest);
      const found = await answer;
      waiting.delete(id);
      if (found.kind !== 'found') return [];
      costs.push(found.milliseconds);
      return [...found.sightings];
    },
    close: () => thread.terminate(),
  };
}

async function film(scene: Scene, view: Composer, usual: Eye, fine: Eye): Promise<Filmed> {
  const shots: Shot[] = [];
  const world = { ...newWorld(0, false), actors: scene.actors };
  let background: ReturnType<typeof newBackground> | undefined;
  let lookedAt = -Infinity;
  let last: readonly Box[] = [];
  for (let at = 0; at < longestMs; at += everyMs) {
    // One by one, so that each box is known to be of its walker.
    const figures = scene.actors.map((a) => figuresAt({ ...world, actors: [a] }, at)[0]);
    const made = await view.compose(
      figures.flatMap((f) => f ?? []),
      scene.light,
      width,
    );
    // From when someone comes into view until no one is in it any more.
    if (!made && shots.length === 0) continue;
    if (!made && at - shots.at(-1)!.at > afterMs) break;
    const pixels = made?.pixels ?? (await view.empty(scene.light, width));
    const taken = { ...pixels, data: Uint8Array.from(pixels.data) };
    if (scene.hasPost) withPost(taken);
    const jpeg = await asTaken(taken, scene.light, at);
    const { width: w, height: h } = await sizeOf(jpeg);
    const small = await smallPicture(jpeg, w, h);
    if (!background) {
      // The background is that of the empty place.
      const empty = await view.empty(scene.light, width);
      const bare = { ...empty, data: Uint8Array.from(empty.data) };
      if (scene.hasPost) withPost(bare);
      const bareSmall = await smallPicture(await asTaken(bare, scene.light, 1), w, h);
      background = newBackground(small.width, small.height);
      look(background, toGrey(bareSmall.rgb, small.width, small.height).data, undefined);
    }
    const motion: Motion = look(background, toGrey(small.rgb, small.width, small.height).data, undefined);
    const mustLook = !motion.isLightChange && (motion.parts.length > 0 || (last.length > 0 && at - lookedAt >= 2000));
    const truth = await truthOf(scene, view, figures);
    if (!mustLook) {
      if (made) shots.push({ at, truth, usual: undefined, fine: undefined, region: undefined });
      continue;
    }
    lookedAt = at;
    const region = regionAround(motion.parts.length ? [...motion.parts, ...last] : last, aspect, 12 / 7);
    const brighten = scene.light === 'night';
    const moving = (found: SeenObject[]) => found.map((o) => ({ ...o, moves: movingShare(o.box, motion.parts) }));
    const [a, b] = await Promise.all([usual.see(jpeg, region, brighten, false), fine.see(jpeg, region, brighten, true)]);
    last = a.filter((o) => o.score >= 0.4).map((o) => o.box);
    shots.push({ at, truth, usual: moving(a), fine: moving(b), region });
  }
  return { ...scene, shots };
}

async function truthOf(scene: Scene, view: Composer, figures: readonly (ReturnType<typeof figuresAt>[number] | undefined)[]) {
  const truth: { walker: number; box: Box }[] = [];
  for (const [i, figure] of figures.entries()) {
    const made = figure && (await view.compose([figure], scene.light, 96));
    const box = made?.placed[0]?.box;
    if (box) truth.push({ walker: scene.actors[i]!.id, box: [...box] as unknown as Box });
  }
  return truth;
}

type Judged = { tracks: number; false: number; switches: number; rang: number; looks: number; seconds: number };

/** Lets the core follow a scene with so many looks a second. */
function judge({ shots, view, rule, actors }: Filmed, input: 'usual' | 'fine', looksASecond: number): Judged {
  const state = startState([['a', 'on']]);
  const whoIs = new Map<string, number[]>();
  const rang = new Set<string>();
  let [next, looks] = [0, 0];
  for (const shot of shots) {
    const objects = shot[input];
    if (!objects || shot.at + 1 < next) continue;
    next = shot.at + 1000 / looksASecond;
    looks++;
    const looked = shot.region && shot.region[2] < 1 ? { looked: shot.region } : {};
    const { outcomes } = step(site, state, { kind: 'frame', frame: { at: shot.at, camera: view, objects, begins: 0.4, ...looked } });
    for (const o of outcomes) if (o.kind === 'event' && o.rule === rule && o.track) rang.add(o.track.key);
    for (const t of openTracks(state, view)) {
      if (t.lastSeen !== shot.at || t.class !== 'person') continue;
      const [best, second] = shot.truth.map(({ walker, box }) => ({ walker, by: overlap(box, t.box) })).sort((a, b) => b.by - a.by);
      // While one hides the other, a box is of both.
      if (best && second && second.by > best.by * undecided) continue;
      const walker = best && best.by >= sameThing ? best.walker : 0;
      whoIs.set(t.key, [...(whoIs.get(t.key) ?? []), walker]);
    }
  }
  const max = (seen: readonly number[]) => seen.filter((w) => w > 0).length * 2 >= seen.length;
  const real = [...whoIs.values()].filter(max);
  const changes = (seen: readonly number[]) => {
    const own = seen.filter((w) => w > 0);
    return own.filter((w, i) => i > 0 && w !== own[i - 1]).length;
  };
  return {
    tracks: real.length,
    false: whoIs.size - real.length,
    switches: actors.length === 2 ? Math.ceil(real.reduce((sum, seen) => sum + changes(seen), 0) / 2) : 0,
    rang: Math.min(actors.length, rang.size),
    looks,
    seconds: (shots.length * everyMs) / 1000,
  };
}

export async function filmWalks(): Promise<Films> {
  const [usual, fine] = await Promise.all([openEye(), openEye()]);
  const views = { yard: await composer('yard'), 'lane-gate': await composer('lane-gate') };
  const filmed: Filmed[] = [];
  for (const scene of scenes()) filmed.push(await film(scene, views[scene.view], usual, fine));
  await Promise.all([usual.close(), fine.close()]);
  // Both looked at once; one alone has the cores that the other took.
  return { filmed, cost: { usual: median(usual.costs), fine: median(fine.costs) } };
}

export async function benchWalks(): Promise<Figures> {
  return judgeWalks(await filmWalks());
}

export function judgeWalks({ filmed, cost }: Films): Figures {
  const walkers = filmed.reduce((sum, f) => sum + f.actors.length, 0);
  const crossings = filmed.filter((f) => f.actors.length === 2).length;
  const sum = (judged: readonly Judged[], key: keyof Judged) => judged.reduce((s, j) => s + j[key], 0);
  const figures: Figures = { 'walks filmed': walkers };
  figures['a look at the usual input, ms'] = rounded(cost.usual, 0);
  figures['a look at the fine input, ms'] = rounded(cost.fine, 0);
  for (const cameras of [1, 2, 4, 6]) {
    const input = cameras === 1 ? 'fine' : 'usual';
    const looksASecond = Math.min(picturesASecond, 1000 / cost[input] / cameras);
    const judged = filmed.map((f) => judge(f, input, looksASecond));
    const missed = filmed.flatMap((f, i) => (judged[i]!.rang < f.actors.length ? [f.name] : []));
    if (missed.length) console.log(`    ${cameras} cameras miss: ${missed.join('; ')}`);
    const odd = filmed.flatMap((f, i) =>
      judged[i]!.tracks > f.actors.length || judged[i]!.false > 0 || judged[i]!.switches > 0
        ? [`${f.name} (${judged[i]!.tracks} tracks, ${judged[i]!.false} false, ${judged[i]!.switches} switched)`]
        : [],
    );
    if (odd.length) console.log(`    ${cameras} cameras: ${odd.join('; ')}`);
    const of = cameras === 1 ? '1 camera' : `${cameras} cameras`;
    figures[`${of}: looks a second each`] = rounded(looksASecond, 1);
    figures[`${of}: walks that ring`] = rounded(sum(judged, 'rang') / walkers, 2);
    figures[`${of}: tracks a walker`] = rounded(sum(judged, 'tracks') / walkers, 2);
    figures[`${of}: switches a crossing of two`] = rounded(sum(judged, 'switches') / crossings, 2);
    figures[`${of}: false tracks an hour`] = rounded((sum(judged, 'false') * 3600) / sum(judged, 'seconds'), 1);
  }
  return figures;
}
