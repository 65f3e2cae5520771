// The phone: a camera's picture to the notification that Chromium shows, the light of the stage to the live picture, and the shell with no line.

import sharp from 'sharp';
import { parse, stringify } from 'yaml';
import { phone } from '@nibber/e2e/browser';
import { inWorker } from '@nibber/e2e/devtools';
import { canBePushedTo, showsThat, type Pushed } from '@nibber/e2e/pushed';
import { openWorld, signIn, waitFor, type World } from '@nibber/e2e/world';
import { median, rounded, type Figures } from './measure';

const cameras = 6;
/** Chromium keeps only so many notifications of one page. */
const rounds = 4;
const apartMs = 900;
const switches = 6;
const starts = 5;
const pause = (ms: number) => new Promise((r) => setTimeout(r, ms));
const whole = [
  [0, 0],
  [1, 0],
  [1, 1],
  [0, 1],
];

export async function benchPhone(): Promise<Figures> {
  const world = await openWorld();
  let pushed: Pushed | undefined;
  try {
    const { browser, place } = world;
    await signIn(world);
    pushed = await canBePushedTo(browser, place.url, place.standins.push);
    await browser.size(phone);
    await browser.driver.get(`${place.url}/site/mine`);
    await browser.press('phone-on');
    await browser.press('phone-ring');
    await showsThat(pushed, (all) => all.length === 1);
    return { ...(await shown(world, pushed)), ...(await live(world)), ...(await shell(world)) };
  } finally {
    pushed?.close();
    await world.end();
  }
}

/** Six paired cameras post a person with a picture, one soon after another and all at once; when each is shown is noted in the service worker. */
async function shown({ api, place }: World, { tools }: Pushed): Promise<Figures> {
  const { text } = await api<{ text: string }>('/api/site/file');
  const site = parse(text) as { areas: object[]; cameras: object[]; rules: object[] };
  const ids = Array.from({ length: cameras }, (_, i) => `bench-${i}`);
  // An area each: what comes at once from one area is one thread.
  site.areas.push(...ids.map((id) => ({ id, name: id })));
  site.cameras.push(
    ...ids.map((id) => ({
      id,
      name: id,
      area: id,
      source: { kind: 'paired' },
      zones: [{ id: 'all', name: 'All', purpose: 'watch', polygon: whole }],
    })),
  );
  site.rules.push(
    ...ids.map((id) => ({
      id: `r-${id}`,
      name: `Bench ${id}`,
      cameras: [id],
      classes: ['person'],
      behaviour: { kind: 'appears', zone: 'all' },
      urgent: true,
      message: { picture: true, description: false },
      cooldownSeconds: 0,
      notify: [{ to: 'owner', channel: 'push' }],
    })),
  );
  await api('/api/site/file', 'PUT', { text: stringify(site) });
  const hooks = await Promise.all(ids.map(async (id) => (await api<{ url: string }>(`/api/cameras/${id}/pairing`)).url));
  await inWorker(
    tools,
    place.url,
    `self.benchShown = []; const show = self.registration.showNotification.bind(self.registration); self.registration.showNotification = async (title, options) => { await show(title, options); self.benchShown.push({ title, at: Date.now() }); };`,
  );
  const picture = await sharp({
    create: { width: 1280, height: 720, channels: 3, background: '#6b7a5e', noise: { type: 'gaussian', mean: 120, sigma: 30 } },
  })
    .jpeg({ quality: 80 })
    .toBuffer();
  const took = { spread: [] as number[], atOnce: [] as number[] };
  for (let round = 0; round < rounds; round++) {
    const isSpread = round < rounds / 2;
    const sent = new Map<string, number>();
    const { now } = await api<{ now: number }>('/api/site');
    await Promise.all(
      hooks.map(async (hook, i) => {
        if (isSpread) await pause(i * apartMs);
        const body = new FormData();
        body.set(
          'event',
          JSON.stringify({
            id: `bench-${round}-${i}`,
            kind: 'seen',
            at: new Date(now).toISOString(),
            objects: [{ class: 'person', score: 0.9, box: [0.4, 0.3, 0.2, 0.5] }],
          }),
        );
        body.set('picture', new Blob([new Uint8Array(picture)], { type: 'image/jpeg' }), 'picture.jpg');
        sent.set(`Bench ${ids[i]}`, Date.now());
        const answer = await fetch(hook, { method: 'POST', body });
        if (answer.status !== 202) throw new Error(`${hook}: ${answer.status} ${await answer.text()}`);
      }),
    );
    const all = await waitFor(async () => {
      const seen = await inWorker<{ title: string; at: number }[]>(tools, place.url, 'return self.benchShown');
      return seen.length >= cameras ? seen : undefined;
    });
    await inWorker(tools, place.url, 'self.benchShown.length = 0');
    for (const { title, at } of all) took[isSpread ? 'spread' : 'atOnce'].push(at - (sent.get(title) ?? NaN));
  }
  return {
    'picture to notification, six cameras, median s': rounded(median(took.spread) / 1000, 2),
    'the slowest of twelve, s': rounded(Math.max(...took.spread) / 1000, 2),
    'all six at the same moment, median s': rounded(median(took.atOnce) / 1000, 2),
  };
}

/** The light goes on and off on the stage; how long until the live picture on the page is another. */
async function live({ browser, place, direct }: World): Promise<Figures> {
  await browser.driver.get(`${place.url}/cameras/yard`);
  await browser.driver.wait(
    () =>
      browser.driver.executeScript('return [...document.querySelectorAll("img")].some((i) => /live\\.mjpg/.test(i.src) && i.naturalWidth)'),
    20_000,
  );
  await browser.driver.executeScript(`
    const picture = [...document.querySelectorAll('img')].find((i) => /live\\.mjpg/.test(i.src));
    const small = Object.assign(document.createElement('canvas'), { width: 8, height: 8 }).getContext('2d', { willReadFrequently: true });
    window.benchLight = [];
    const look = () => {
      small.drawImage(picture, 0, 0, 8, 8);
      const level = small.getImageData(0, 0, 8, 8).data.reduce((sum, v) => sum + v, 0) / 256;
      const last = window.benchLight.at(-1);
      if (!last || Math.abs(last.level - level) > 12) window.benchLight.push({ level, at: Date.now() });
      requestAnimationFrame(look);
    };
    look();`);
  const took: number[] = [];
  // The first two are painted for the first time on the stage.
  for (let i = -2; i < switches; i++) {
    await pause(1500 + (i + 2) * 170);
    const before = Date.now();
    await direct({ kind: 'light', light: i % 2 ? 'day' : 'night' });
    const { at } = await waitFor(async () =>
      ((await browser.driver.executeScript('return window.benchLight')) as { at: number }[]).find((l) => l.at > before),
    );
    if (i >= 0) took.push(at - before);
  }
  return {
    'light on the stage to the live picture, median s': rounded(median(took) / 1000, 2),
    'the slowest of six, s': rounded(Math.max(...took) / 1000, 2),
  };
}

/** With the server gone: from the start of the page until its heading stands. */
async function shell({ browser, place }: World): Promise<Figures> {
  await browser.driver.get(`${place.url}/events`);
  await browser.reads('Events');
  await place.killServer();
  const source = `(() => { const look = () => (document.querySelector('[role=heading],h1') ? (window.benchReady = performance.now()) : requestAnimationFrame(look)); look(); })()`;
  await browser.onEveryPage(source);
  const took: number[] = [];
  for (let i = 0; i < starts; i++) {
    await browser.driver.get(`${place.url}/events`);
    took.push(await waitFor(async () => ((await browser.driver.executeScript('return window.benchReady')) as number | null) ?? undefined));
  }
  return { 'shell with no line, median s': rounded(median(took) / 1000, 2) };
}
