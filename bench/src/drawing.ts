// Dragging a point of a zone of 32 points over a day of tracks, in Chromium: frames per second, against the same page while nothing happens.

import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { openBrowser, phone } from '@nibber/e2e/browser';
import { launch, signedIn, signIns } from '@nibber/demo/launch';
import { openRecord } from '@nibber/server/db/index';
import { rounded, type Figures } from './measure';

const tracksADay = 500;
const moves = 120;

/** Counts pictures until it is told to stop. */
const counting = `window.__frames = 0; window.__from = performance.now(); const mine = (window.__mine = {});
  const next = () => { if (window.__mine === mine) { window.__frames++; requestAnimationFrame(next); } }; requestAnimationFrame(next);`;
const counted = 'window.__mine = null; return (window.__frames * 1000) / (performance.now() - window.__from);';
const drag = `const done = arguments[arguments.length - 1]; const handle = document.querySelector('[data-testid="handle-3"]');
  const { left, top, width, height } = handle.getBoundingClientRect(); let [x, y] = [left + width / 2, top + height / 2];
  const send = (type) => handle.dispatchEvent(new PointerEvent(type, { bubbles: true, cancelable: true, pointerId: 1, pointerType: 'touch', isPrimary: true, button: type === 'pointermove' ? -1 : 0, buttons: type === 'pointerup' ? 0 : 1, clientX: x, clientY: y }));
  handle.setPointerCapture = handle.releasePointerCapture = () => {};
  send('pointerdown'); let n = 0;
  const step = () => { x += Math.cos(n / 8) * 2; y += Math.sin(n / 8) * 2; send('pointermove'); if (++n < ${moves}) requestAnimationFrame(step); else { send('pointerup'); done(n); } };
  requestAnimationFrame(step);`;

export async function benchDrawing(): Promise<Figures> {
  const dataFolder = mkdtempSync(path.join(tmpdir(), 'nibber-bench-'));
  const place = await launch({ port: 18_580, dataFolder, life: false, log: () => {} });
  const browser = await openBrowser();
  try {
    await browser.size(phone);
    await keepTracks(dataFolder);
    await browser.driver.get(place.url);
    await browser.type('sign-in-name', signIns[0]!.name);
    await browser.type('sign-in-password', signIns[0]!.password);
    await browser.press('sign-in');
    await browser.find('place-now');
    const polygon = Array.from({ length: 32 }, (_, i) => [
      0.5 + 0.3 * Math.cos((i / 16) * Math.PI),
      0.5 + 0.3 * Math.sin((i / 16) * Math.PI),
    ]);
    const ask = await signedIn(place.url, signIns[0]!);
    const drawings = { zones: [{ id: 'round', name: 'Round', purpose: 'watch', polygon }], lines: [] };
    const saved = await ask<{ zones?: object[] }>('/api/cameras/lane-gate/drawings', 'PUT', drawings);
    if (saved.zones?.length !== 1) throw new Error(`the zone is not kept: ${JSON.stringify(saved)}`);
    await browser.driver.get(`${place.url}/cameras/lane-gate`);
    await browser.press('reshape');
    await browser.reads(new RegExp(`of ${tracksADay} tracks`));
    await browser.find('handle-31');
    const idle = await rate(browser, 'const done = arguments[arguments.length - 1]; setTimeout(done, 2000);');
    const dragging = await rate(browser, drag);
    if ((await (await browser.find('undo')).getAttribute('aria-disabled')) === 'true') throw new Error('nothing was dragged');
    return {
      'frames per second while a point of 32 is dragged': rounded(dragging, 1),
      'of those while nothing is done': rounded(dragging / idle, 2),
    };
  } finally {
    await browser.close();
    await place.stop();
    rmSync(dataFolder, { recursive: true, force: true });
  }
}

async function rate({ driver }: Awaited<ReturnType<typeof openBrowser>>, work: string): Promise<number> {
  await driver.executeScript(counting);
  await driver.executeAsyncScript(work);
  return (await driver.executeScript(counted)) as number;
}

/** A day of people who wander about. */
async function keepTracks(dataFolder: string): Promise<void> {
  const record = await openRecord(dataFolder);
  // The place's clock is some hours from the machine's at most.
  const from = Date.now() - 2 * 86_400_000;
  const rows = Array.from({ length: tracksADay }, (_, i) => {
    const at = from + i * 60_000;
    const path = Array.from(
      { length: 40 },
      (_v, k) => [at + k * 200, [((i * 7919) % 80) / 100 + k * 0.003, ((i * 104_729) % 60) / 100 + k * 0.002, 0.05, 0.15]] as const,
    );
    return {
      id: `bench-${i}`,
      camera: 'lane-gate',
      class: 'person' as const,
      type: null,
      firstSeen: at,
      lastSeen: at + 8000,
      path: path as never,
      pictureBox: null,
      hasEvent: false,
      stoppedAt: null,
      stoppedBy: null,
      why: null,
      test: null,
    };
  });
  await record.write((transaction) => record.tables.tracks.bulkCreate(rows, { transaction }));
  await record.close();
}
