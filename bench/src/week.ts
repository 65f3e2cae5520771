// A rule's last seven days judged again while a slider moves: over six cameras' recordings on the server, and what the page does meanwhile. And how
// long the recorded week of the demo takes to be made.

import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { openBrowser, wide } from '@nibber/e2e/browser';
import { launch, signIns } from '@nibber/demo/launch';
import { siteWith } from '@nibber/core/testing';
import { asRecorded } from '@nibber/core/recorded';
import { openDetections } from '@nibber/server/db/detections';
import { startRehearsals } from '@nibber/server/rehearsal/index';
import { aWeek, sixCameras } from './invented';
import { median, rounded, type Figures } from './measure';

const frames = 250_000;
const moves = 12;

export async function benchWeek(): Promise<Figures> {
  return { ...(await onTheServer()), ...(await inThePage()) };
}

async function onTheServer(): Promise<Figures> {
  const folder = mkdtempSync(path.join(tmpdir(), 'nibber-bench-'));
  const detections = openDetections(folder);
  const inputs = aWeek(frames);
  const [head] = inputs;
  const first = head?.kind === 'frame' ? head.frame.at : 0;
  detections.note({ kind: 'start', at: first, modes: [], lasts: [] });
  let to = first;
  for (const input of inputs) {
    if (input.kind !== 'frame') continue;
    // The ids are taken off: following them is part of the work.
    detections.frame(asRecorded({ ...input.frame, objects: input.frame.objects.map(({ track: _track, ...o }) => o) }));
    to = Math.max(to, input.frame.at);
  }
  detections.close();
  const cameras = ['c0', 'c1', 'c2', 'c3', 'c4', 'c5'];
  const site = (confidence: number) =>
    siteWith((f) => {
      sixCameras(f);
      f.rules = [{ ...f.rules![0]!, cameras, confidence, behaviour: { kind: 'appears', zone: 'yard' } }];
    }).file;
  const rehearsals = startRehearsals(folder);
  const ask = async (confidence: number) => {
    const began = performance.now();
    let firstAnswer: number | undefined;
    const asked = { before: site(0.5), after: site(confidence), cameras, from: first, to };
    await rehearsals.week(
      asked,
      (said) => {
        if (said.kind === 'judging' || said.kind === 'done') firstAnswer ??= performance.now() - began;
      },
      new AbortController().signal,
    );
    return { first: firstAnswer!, whole: performance.now() - began };
  };
  const opening = await ask(0.5);
  const moved: Awaited<ReturnType<typeof ask>>[] = [];
  for (let i = 0; i < moves; i++) moved.push(await ask(0.3 + i * 0.05));
  await rehearsals.close();
  rmSync(folder, { recursive: true, force: true });
  return {
    'a week of six cameras, 250,000 frames, read and followed, s': rounded(opening.whole / 1000, 2),
    'judged anew: first answer, ms': rounded(median(moved.map((m) => m.first)), 0),
    'judged anew: the whole week, ms': rounded(median(moved.map((m) => m.whole)), 0),
  };
}

const watchTasks = `window.__tasks = []; new PerformanceObserver((list) => list.getEntries().forEach((e) => window.__tasks.push(e.duration))).observe({ type: 'longtask' });`;

async function inThePage(): Promise<Figures> {
  const parent = mkdtempSync(path.join(tmpdir(), 'nibber-bench-'));
  const began = performance.now();
  let made = 0;
  const progress = (done: number) => {
    if (done === 1) made = (performance.now() - began) / 1000;
  };
  const place = await launch({ port: 18_590, dataFolder: path.join(parent, 'data'), life: false, whole: { progress }, log: () => {} });
  const browser = await openBrowser();
  try {
    await browser.size(wide);
    await browser.driver.get(place.url);
    await browser.type('sign-in-name', signIns[0]!.name);
    await browser.type('sign-in-password', signIns[0]!.password);
    await browser.press('sign-in');
    await browser.find('place-now');
    await browser.driver.get(`${place.url}/rules/drives-in?part=confidence`);
    await browser.reads(/things of this kind/, 60_000);
    await browser.driver.executeScript(watchTasks);
    for (let i = 0; i < moves; i++) {
      const more = await browser.driver.findElement({ css: `[aria-label="At least: ${i % 4 < 2 ? 'more' : 'less'}"]` });
      await more.click();
      await browser.driver.executeAsyncScript('setTimeout(arguments[arguments.length - 1], 400)');
    }
    const tasks = await browser.driver.executeScript<number[]>('return window.__tasks');
    return {
      'the recorded week of the demo made, s': rounded(made, 0),
      'longest task of the page while the slider moves, ms (50 or less is not told)': rounded(Math.max(50, ...tasks), 0),
      'tasks over 50 ms in twelve moves': tasks.length,
    };
  } finally {
    await browser.close();
    await place.stop();
    rmSync(parent, { recursive: true, force: true });
  }
}
