// An empty folder, a phone, and no one who has an account: from the set-up code to the first alert, as a person does it. Taps and typed characters
// are counted: at three seconds a tap and four characters a second it must be done within five minutes.

import { post, signedIn, type Ask } from '@nibber/demo/launch';
import { openWorld, waitFor, type World } from './world';

const owner = { name: 'Rowan', person: 'owner', role: 'owner', password: 'over the mere' } as const;
const secondsATap = 3;
const charactersASecond = 4;
const goalSeconds = 300;

let world: World;
let api: Ask;
let [taps, characters] = [0, 0];
beforeAll(async () => {
  world = await openWorld('bare');
});
afterAll(() => world?.end());

async function tap(testId: string): Promise<void> {
  taps++;
  await world.browser.press(testId);
}
/** A tap into the field, and the text. */
async function type(testId: string, text: string): Promise<void> {
  taps++;
  characters += text.length;
  await world.browser.type(testId, text);
}
async function touch(x: number, y: number): Promise<void> {
  taps++;
  const surface = await world.browser.find('add-by-tap');
  const { width, height } = await surface.getRect();
  const place = { origin: surface, x: Math.round((x - 0.5) * width), y: Math.round((y - 0.5) * height) };
  await world.browser.driver.actions().move(place).press().release().perform();
}

test('the account, the place and what it begins with', async () => {
  const { browser, place } = world;
  await browser.driver.get(place.url);
  await type('sign-in-name', owner.name);
  await type('sign-in-password', owner.password);
  await type('sign-in-code', place.setUpCode()!);
  await tap('sign-in');
  await browser.reads('Step 1 of 7: name and location');
  await type('place-name', 'Withy Landing');
  await tap('save-place');
  await browser.reads('Step 2 of 7: a template');
  await tap('begin-shop');
  await tap('save-template');
  await browser.reads('Step 3 of 7: first camera');
  api = await signedIn(place.url, owner);
  const site = await api<{ settings: { name: string; timezone: string }; modes: { id: string }[]; schedules: { id: string }[] }>(
    '/api/site',
  );
  // The time zone is this browser's.
  expect(site.settings).toEqual({
    name: 'Withy Landing',
    timezone: await browser.driver.executeScript('return Intl.DateTimeFormat().resolvedOptions().timeZone'),
  });
  expect(site.modes.map((m) => m.id)).toEqual(['open', 'closed']);
  expect(site.schedules.map((h) => h.id)).toEqual(['opening', 'not-opening']);
});

test('left for later, what is open stands on Now, and leads on', async () => {
  const { browser } = world;
  await browser.press('guide-later');
  await browser.reads('Setting up: 2 of 7 done');
  await browser.find('step-camera');
  await browser.press('go-on');
  await browser.reads('Connect a camera');
});

test('a camera, a zone on its picture, a rule from what is suggested', async () => {
  const { browser, place } = world;
  await type('address', `${place.standins.stage}/cameras/yard/low.mjpg`);
  await tap('use-address');
  await tap('try');
  await browser.reads('Picture received');
  await type('lens-name-0', 'Yard');
  await tap('keep-camera');
  await browser.reads('Set-up');
  await browser.driver.get(`${place.url}/`);
  await tap('go-on');
  await tap('draw-new');
  await tap('new-watch');
  for (const [x, y] of [
    [0.03, 0.55],
    [0.97, 0.55],
    [0.97, 0.96],
    [0.03, 0.96],
  ] as const)
    await touch(x, y);
  await tap('close-shape');
  await tap('keep-drawings');
  await waitFor(async () => (await api<{ zones: object[] }[]>('/api/cameras'))[0]!.zones.length || undefined);
  await browser.driver.get(`${place.url}/`);
  await browser.reads('Setting up: 4 of 7 done');
  await tap('go-on');
  await browser.reads('Suggested');
  const [first] = await browser.driver.findElements({ css: '[data-testid^="suggested-"]' });
  taps++;
  await first!.click();
  await tap('save-rule');
  const rules = await waitFor(async () => {
    const all = await api<{ cameras: string[]; notify: object[] }[]>('/api/rules');
    return all.length ? all : undefined;
  });
  expect(rules[0]).toMatchObject({ cameras: ['yard'], notify: [expect.anything()] });
});

test('a phone, arming, and someone who comes: the first alert, within five minutes of taps', async () => {
  const { browser, place } = world;
  await post(`${place.standins.pocket}/sign-up`, { server: place.url, name: owner.name, password: owner.password });
  await browser.driver.get(`${place.url}/first/phone`);
  await browser.find('phone-there');
  await browser.driver.get(`${place.url}/`);
  await browser.reads('Setting up: 6 of 7 done');
  await api('/api/areas/main/mode', 'PUT', { mode: 'closed' });
  await world.send('bo', 'across-yard');
  await world.pocketShows((p) => p.notifications.length > 0);
  const seconds = taps * secondsATap + characters / charactersASecond;
  console.log(`first visit: ${taps} taps and ${characters} characters, ${Math.round(seconds)} s of a person's time`);
  expect(seconds).toBeLessThan(goalSeconds);
});
