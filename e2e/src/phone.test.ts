// The phone and its people: the owner is told in a real browser, acts from the notification, lets someone in by a code, and ends that; the shell and
// the last events stand while there is no line; a new version is taken at the next start.

import { createHash } from 'node:crypto';
import { copyFileSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import jsQR from 'jsqr';
import sharp from 'sharp';
import { openBrowser, phone, type Browser } from './browser';
import { inWorker } from './devtools';
import { canBePushedTo, showsThat, type Pushed } from './pushed';
import { openWorld, sendUntil, signIn, waitFor, type World } from './world';

let world: World;
let pushed: Pushed;
let juno: Browser | undefined;
beforeAll(async () => {
  world = await openWorld();
  await signIn(world);
  pushed = await canBePushedTo(world.browser, world.place.url, world.place.standins.push);
});
afterAll(async () => {
  pushed?.close();
  await juno?.close();
  await world?.end();
});

test('asked only after a touch, the phone is signed up, and rings when it is asked to', async () => {
  const { browser, place } = world;
  await browser.driver.get(`${place.url}/site/mine`);
  await browser.find('phone-off');
  await browser.reads('The browser asks for permission once.');
  await browser.press('phone-on');
  await browser.find('phone-on');
  await browser.press('phone-ring');
  const [test] = await showsThat(pushed, (all) => all.length === 1);
  expect(test!.title).toMatch(/^Test for /);
  const phones = await world.api<{ label: string }[]>('/api/phones');
  // The stand-in's, and this one.
  expect(phones).toHaveLength(2);
});

test('an alert is shown with what can be done about it; its sentence fills it in, in place and without a sound', async () => {
  await world.api('/api/areas/landing/mode', 'PUT', { mode: 'closed' });
  await sendUntil(world, 'ada', 'lane-to-yard', async () =>
    (await pushed.shown()).some((n) => n.title === 'Someone comes in') ? true : undefined,
  );
  const all = await showsThat(pushed, (shown) => shown.some((n) => n.title === 'Someone comes in' && /^A person in a .* top/.test(n.body)));
  const own = all.filter((n) => n.title === 'Someone comes in');
  expect(own).toHaveLength(1);
  expect([own[0]!.silent, own[0]!.actions.map((a) => a.title).slice(0, 2)]).toEqual([true, ['Watch live', 'Quiet for an hour']]);
  // The real picture of it stands there for whoever shows it.
  const image = await inWorker<string>(
    pushed.tools,
    world.place.url,
    `return (await registration.getNotifications()).find((n) => n.title === 'Someone comes in').image ?? ''`,
  );
  const { width, height } = await sharp(Buffer.from(await (await fetch(image)).arrayBuffer())).metadata();
  expect(width! / height!).toBeCloseTo(2, 1);
});

/** As when a notification is touched; the window that a touch may open is only noted. */
const touch = (action: string) =>
  inWorker<{ opened: string | null }>(
    pushed.tools,
    world.place.url,
    `let opened = null;
     self.clients.openWindow = async (to) => void (opened = to);
     const notification = (await registration.getNotifications()).find((n) => n.title === 'Someone comes in');
     const waits = [];
     const event = new NotificationEvent('notificationclick', { notification, action: ${JSON.stringify(action)} });
     event.waitUntil = (p) => waits.push(p);
     self.dispatchEvent(event);
     await Promise.all(waits);
     return { opened };`,
  );

test('while the application is closed, an action is done and said, and a touch opens the moment', async () => {
  const { browser, place, api } = world;
  const [{ id }] = (await api<{ items: { id: string }[] }>('/api/events?show=notified')).items as [{ id: string }];
  await browser.driver.get('about:blank');
  await touch('quiet');
  await waitFor(async () => ((await api<{ snoozes: unknown[] }>('/api/me')).snoozes.length === 1 ? true : undefined));
  const said = await inWorker<string>(
    pushed.tools,
    place.url,
    `return (await registration.getNotifications()).find((n) => n.title === 'Someone comes in').body`,
  );
  expect(said).toMatch(/^Quiet until /);
  expect((await touch('')).opened).toBe(`/events/${id}`);
  await browser.driver.get(`${place.url}/events/${id}`);
  await browser.find('event-title');
  await browser.reads(/Sent to Rowan by push notification/);
  await browser.reads('Seen by Rowan');
});

test('someone invited points their phone at the code, chooses name and password, has what is theirs; the owner ends it at once', async () => {
  const { browser, place } = world;
  await browser.driver.get(`${place.url}/site/people`);
  await browser.press('invite');
  await browser.press('invite-make');
  const code = await browser.find('invite-code');
  const { data, info } = await sharp(Buffer.from(await code.takeScreenshot(), 'base64'))
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const link = jsQR(new Uint8ClampedArray(data), info.width, info.height)?.data;
  expect(link).toMatch(new RegExp(`^${place.url}/join#[\\w-]{32}$`));
  juno = await openBrowser();
  await juno.size(phone);
  await juno.driver.get(link!);
  await juno.reads('Rowan invites you as member');
  await juno.type('come-name', 'Juno');
  await juno.type('come-password', 'withy-landing-juno');
  await juno.press('come-in');
  await juno.find('place-now');
  await juno.driver.get(`${place.url}/rules`);
  await juno.reads('Someone comes in');
  expect(await juno.driver.findElements({ css: '[data-testid="new-rule"]' })).toEqual([]);
  await juno.driver.get(`${place.url}/site/mine`);
  await juno.press('my-quiet');
  await juno.driver.findElement({ xpath: '//*[@role="dialog"]//*[text()="Mon"]' }).click();
  await juno.type('day-spans', '22:00-06:00');
  await juno.press('day-done');
  await juno.press('my-quiet-save');
  await juno.reads('Urgent alerts still come through.');
  // The link is used up.
  const again = await fetch(`${place.url}/api/invited`, {
    method: 'POST',
    headers: { origin: place.url, 'content-type': 'application/json' },
    body: JSON.stringify({ token: link!.split('#')[1] }),
  });
  expect(again.status).toBe(404);
  await browser.driver.get(`${place.url}/site/people`);
  await browser.press('person-juno');
  await browser.press('person-end');
  await browser.reads('Juno is signed out everywhere');
  // Nothing was touched in their browser: the line broke off, and what they ask for next is refused.
  await juno.driver.get(`${place.url}/events`);
  await juno.find('sign-in-name');
});

test('with no line the shell and the last events are there, and it is said how old they are', async () => {
  const { browser, place } = world;
  await browser.driver.get(`${place.url}/events`);
  await browser.reads('Someone comes in');
  await place.killServer();
  await browser.driver.get(`${place.url}/events`);
  await browser.reads('Someone comes in');
  await browser.reads('Last updated');
  await place.startServer();
  await browser.driver.get(`${place.url}/events`);
  await browser.reads('Someone comes in');
});

test('a new version is taken at the next start, and said', async () => {
  const { browser, place } = world;
  const dist = path.join(__dirname, '../../client/dist');
  const files = ['index.html', 'sw.js'].map((name) => path.join(dist, name));
  const before = files.map((file) => readFileSync(file, 'utf8'));
  const entry = /entry-[0-9a-f]{32}\.js/.exec(before[0]!)![0];
  const next = `entry-${'0'.repeat(32)}.js`;
  const scripts = path.join(dist, '_expo/static/js/web');
  await browser.driver.get(`${place.url}/`);
  await browser.reads('Withy Landing');
  try {
    copyFileSync(path.join(scripts, entry), path.join(scripts, next));
    // The page of the next version, and the worker that knows it.
    const [page, worker] = before.map((text) => text.replaceAll(entry, next)) as [string, string];
    writeFileSync(files[0]!, page);
    writeFileSync(files[1]!, worker.replace(md5(before[0]!), md5(page)));
    await browser.driver.executeAsyncScript(
      'const d = arguments[0]; navigator.serviceWorker.ready.then((r) => r.update()).then(() => d())',
    );
    await waitFor(async () =>
      (await browser.driver.executeScript('return navigator.serviceWorker.getRegistration().then((r) => Boolean(r.waiting))'))
        ? true
        : undefined,
    );
    // What is open stays what it is.
    expect(await browser.driver.executeScript(`return document.documentElement.innerHTML.includes('${entry}')`)).toBe(true);
    await waitFor(async () => {
      await browser.driver.get(`${place.url}/`);
      const said = browser.reads('Nibber was updated.', 5000).then(() => true);
      return said.catch(async () => {
        // While it thinks the old worker busy, Chromium waits up to five minutes for it: as on a phone, it sleeps when nothing is open.
        await browser.driver.get('about:blank');
        await pushed.sleep();
        return undefined;
      });
    });
    expect(await browser.driver.executeScript(`return document.documentElement.innerHTML.includes('${next}')`)).toBe(true);
  } finally {
    files.forEach((file, i) => writeFileSync(file, before[i]!));
    rmSync(path.join(scripts, next), { force: true });
  }
});

const md5 = (text: string) => createHash('md5').update(text).digest('hex');
