// The invented place running for a test, and the hands to direct it.

import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { launch, post, signedIn, signIns, type Ask, type Launched } from '@nibber/demo/launch';
import { openBrowser, phone, type Browser } from './browser';

export type Pocket = {
  readonly notifications: readonly {
    readonly id: string;
    readonly title: string;
    readonly body: string;
    readonly picture: string;
    readonly open: string;
    readonly filledIn: boolean;
  }[];
  readonly messages: number;
};

export type World = {
  readonly place: Launched;
  readonly browser: Browser;
  send(figure: string, walk: string): Promise<void>;
  direct(direction: object): Promise<void>;
  setTime(time: string): Promise<void>;
  fault(part: string, fault: string): Promise<void>;
  pocket(): Promise<Pocket>;
  /** Waits until the pocket is as asked. */
  pocketShows(isActive: (p: Pocket) => boolean, milliseconds?: number): Promise<Pocket>;
  /** The API as the owner sees it. */
  readonly api: Ask;
  end(): Promise<void>;
};

/** Files of tests that run at the same time each have ports of their own. */
const portsOf = (worker: number) => 18_000 + (worker % 4) * 3000;

/** Ports in a row that are free: one for the server, ten for the stand-ins. */
async function freePorts(): Promise<number> {
  for (let first = portsOf(Number(process.env.JEST_WORKER_ID ?? 1)) + Math.floor(Math.random() * 2000); ; first += 11) {
    const tries = await Promise.all(Array.from({ length: 11 }, (_, i) => isFree(first + i)));
    if (tries.every(Boolean)) return first;
  }
}

const isFree = (port: number) =>
  new Promise<boolean>((resolve) => {
    const server = createServer();
    server.once('error', () => resolve(false));
    server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)));
  });

/** `whole`: with all cameras and the recorded week, as it ships; `bare`: an empty folder; else two cameras, one rule, and nothing that happened yet. */
export async function openWorld(kind: 'usual' | 'whole' | 'bare' = 'usual'): Promise<World> {
  const dataFolder = mkdtempSync(path.join(tmpdir(), 'nibber-e2e-'));
  const lines: string[] = [];
  // Always the same day, on which the place opens; and people take their time, so that a machine that is busy elsewhere sees all of a walk.
  const place = await launch({
    port: await freePorts(),
    dataFolder,
    life: false,
    date: '2026-06-03',
    pace: 0.6,
    ...(kind === 'whole' ? { whole: { progress: () => {} } } : {}),
    bare: kind === 'bare',
    log: (line) => lines.push(line),
  });
  const browser = await openBrowser();
  await browser.size(phone);
  const { stage, pocket } = place.standins;
  // Where no one has an account yet, no one is signed in.
  const api = kind === 'bare' ? nobody : await signedIn(place.url, signIns[0]!);
  const readPocket = async () => (await (await fetch(`${pocket}/state`)).json()) as Pocket;
  return {
    place,
    browser,
    send: (figure, walk) => post(`${stage}/directions`, { kind: 'send', figure, walk }),
    direct: (direction) => post(`${stage}/directions`, direction),
    setTime: (time) => post(`${stage}/clock`, { time }),
    fault: (part, fault) => post(`${stage}/faults`, { part, fault }),
    pocket: readPocket,
    pocketShows: (isActive, milliseconds = 60_000) =>
      waitFor(
        async () => {
          const now = await readPocket();
          return isActive(now) ? now : undefined;
        },
        milliseconds,
        async () => `the pocket shows ${JSON.stringify(await readPocket())}\n${lines.slice(-20).join('\n')}`,
      ),
    api,
    async end() {
      await browser.close();
      await place.stop();
      rmSync(dataFolder, { recursive: true, force: true });
    },
  };
}

const nobody: Ask = Object.assign(() => Promise.reject(new Error('nobody is signed in')), { cookie: '' });

export async function waitFor<T>(
  find: () => Promise<T | undefined>,
  milliseconds = 60_000,
  otherwise: () => Promise<string> = async () => 'it never came about',
): Promise<T> {
  const end = Date.now() + milliseconds;
  for (;;) {
    const found = await find();
    if (found !== undefined) return found;
    if (Date.now() > end) throw new Error(await otherwise());
    await new Promise((r) => setTimeout(r, 100));
  }
}

type Item = {
  readonly id: string;
  readonly kind: 'event' | 'track';
  readonly class: string;
  readonly camera: string;
  readonly stoppedAt?: string;
  readonly why?: string;
};

/** Sends someone once, and waits for what should come of it. */
export async function sendUntil<T>(
  world: World,
  figure: string,
  walk: string,
  find: () => Promise<T | undefined>,
  otherwise?: () => Promise<string>,
): Promise<T> {
  await world.send(figure, walk);
  return waitFor(find, walkMs, otherwise);
}

const walkMs = 100_000;

/** Sends someone, and waits until a track of a class stands stopped at a gate; `known` are the tracks that were there before. */
export const sendUntilStopped = (
  world: World,
  figure: string,
  walk: string,
  gate: string,
  cls: string,
  known: readonly string[] = [],
): Promise<Item> =>
  sendUntil(
    world,
    figure,
    walk,
    async () => (await stoppedTracks(world, cls)).find((i) => i.stoppedAt === gate && !known.includes(i.id)),
    async () => `no ${cls} stopped at ${gate}: ${JSON.stringify(await stoppedTracks(world, cls))}`,
  );

const stoppedTracks = async (world: World, cls: string) =>
  (await world.api<{ items: Item[] }>(`/api/events?show=stopped&class=${cls}&camera=yard`)).items;

export async function signIn({ browser, place }: Pick<World, 'browser' | 'place'>): Promise<void> {
  await browser.driver.get(`${place.url}/`);
  await browser.type('sign-in-name', signIns[0]!.name);
  await browser.type('sign-in-password', signIns[0]!.password);
  await browser.press('sign-in');
  await browser.find('place-now');
}
