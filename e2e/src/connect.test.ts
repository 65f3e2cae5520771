// A camera is put on the network, found, tried, seen and kept; another one, run by its own app, is paired.

import { execFileSync } from 'node:child_process';
import { post } from '@nibber/demo/launch';
import { By, Key } from 'selenium-webdriver';
import { openWorld, signIn, waitFor, type World } from './world';

let world: World;
beforeAll(async () => {
  world = await openWorld();
  await signIn(world);
});
afterAll(() => world?.end());

type Camera = { id: string; name: string; orientation: object; capabilities: string[]; health: { state: string } | null };
const camera = async (id: string) => (await world.api<Camera[]>('/api/cameras')).find((c) => c.id === id);
/** What is in the field already is replaced. */
async function retype(testId: string, text: string) {
  const field = await world.browser.find(testId);
  await world.browser.driver.executeScript('arguments[0].select()', field);
  await field.sendKeys(text);
}

test('a camera is found, refuses a wrong password, lets the right one in, is seen, turned, named and kept', async () => {
  const { browser, place } = world;
  await browser.driver.get(`${place.url}/cameras/new`);
  await browser.press(`found ${new URL(place.standins.stage).host} RM-200`);
  await browser.type('device-name', 'admin');
  await browser.type('device-password', 'guess');
  await browser.press('try');
  await browser.reads('The camera does not accept this name and password.');
  await browser.reads('Check user name and password.');
  await retype('device-password', 'reed-mace-7');
  await browser.press('try');
  await browser.reads('Save camera', 40_000);
  // Nothing was kept so far.
  expect(await camera('racks')).toBeUndefined();
  await browser.press('mirror-0');
  await browser.press('lamp-lamp-out');
  await browser.type('lens-name-0', 'Racks');
  await browser.press('keep-camera');
  const kept = await waitFor(async () => ((await camera('racks'))?.health?.state === 'running' ? await camera('racks') : undefined));
  expect(kept).toMatchObject({
    name: 'Racks',
    orientation: { mirrored: true },
    capabilities: ['speaker', 'microphone', 'restart', 'infrared', 'lamp'],
  });
  const { text } = await world.api<{ text: string }>('/api/site/file');
  expect(text).toContain('secret: racks');
  expect(text).not.toContain('reed-mace-7');
});

test('its lamp is switched from its page, and what it cannot do says why', async () => {
  const { browser, place } = world;
  await browser.driver.get(`${place.url}/cameras/racks`);
  // The page is still filling; what a finger would miss then is pressed again.
  await browser.reads('Performance');
  const lamp = async () =>
    (
      (await (await fetch(`${place.standins.stage}/state`)).json()) as { devices: { name: string; relays: Record<string, boolean> }[] }
    ).devices.find((d) => d.name === 'racks')!.relays['lamp-out'];
  await waitFor(
    async () => {
      await browser.press('lamp-on');
      return (await lamp()) || undefined;
    },
    30_000,
    async () => (await browser.driver.executeScript('return document.body.innerText')) as string,
  );
  await browser.reads('No relay of this device is set to switch the siren');
});

test('it is watched with its sound, which is heard, close behind the camera; nothing is pulled once it is left', async () => {
  const { browser, place } = world;
  const { driver } = browser;
  await driver.get(`${place.url}/cameras/racks`);
  await browser.press('live-open');
  await browser.reads(/\d\.\d s delay · \d+\.\d Mbit/, 40_000);
  // What comes out of the loudspeaker, as the page hears it.
  const level = (await driver.executeAsyncScript(`
    const done = arguments[0];
    const video = document.querySelector('[data-testid=live-video]');
    const context = new AudioContext();
    const analyser = context.createAnalyser();
    context.createMediaElementSource(video).connect(analyser);
    let tries = 0;
    const look = () => {
      const heard = new Float32Array(analyser.fftSize);
      analyser.getFloatTimeDomainData(heard);
      const level = Math.sqrt(heard.reduce((sum, v) => sum + v * v, 0) / heard.length);
      if (level > 0.001 || tries++ > 150) done(level);
      else setTimeout(look, 100);
    };
    context.resume().then(look);
  `)) as number;
  expect(level).toBeGreaterThan(0.001);
  const [first, size] = (await driver.executeScript(
    'const v = document.querySelector("[data-testid=live-video]"); return [v.currentTime, v.videoWidth]',
  )) as [number, number];
  expect(size).toBeGreaterThan(300);
  await waitFor(async () =>
    ((await driver.executeScript('return document.querySelector("[data-testid=live-video]").currentTime')) as number) > first + 0.5
      ? true
      : undefined,
  );
  const streams = () =>
    execFileSync('ps', ['-eo', 'args'], { encoding: 'utf8' })
      .split('\n')
      .filter((l) => l.includes('empty_moov+default_base_moof')).length;
  const watching = streams();
  await browser.press('live-close');
  await waitFor(async () => (streams() < watching ? true : undefined));
});

test('a camera run by its own app gets an address, and its first event is shown as it came and as it was understood', async () => {
  const { browser, place } = world;
  await browser.driver.get(`${place.url}/cameras/new`);
  await browser.press('pair');
  await browser.type('pair-name', 'Cottage porch');
  await browser.press('pair-go');
  await browser.reads('Waiting for the first event');
  const sendTo = await (await browser.find('pairing-url')).getText();
  await post(`${place.standins.stage}/paired/porch/settings`, { sendTo });
  await world.send('ada', 'across-yard');
  await browser.reads(/\d+ events? so far/, 40_000);
  await browser.reads('something detected, begins, person 82 %');
});

test('a zone is drawn by touch, undone and drawn again, and a line by keyboard and list', async () => {
  const { browser, place } = world;
  const { driver } = browser;
  await browser.driver.get(`${place.url}/cameras/racks`);
  await browser.press('reshape');
  await browser.press('draw-new');
  await browser.press('new-watch');
  const touch = async (x: number, y: number) => {
    const surface = await browser.find('add-by-tap');
    const { width, height } = await surface.getRect();
    await driver
      .actions()
      .move({ origin: surface, x: Math.round((x - 0.5) * width), y: Math.round((y - 0.5) * height) })
      .press()
      .release()
      .perform();
  };
  for (const [x, y] of [
    [0.2, 0.3],
    [0.8, 0.3],
    [0.8, 0.8],
  ] as const)
    await touch(x, y);
  await browser.find('handle-2');
  await browser.press('undo');
  await driver.wait(async () => (await driver.findElements(By.css('[data-testid="handle-2"]'))).length === 0, 10_000);
  await browser.press('redo');
  await touch(0.2, 0.8);
  await browser.find('handle-3');
  await browser.press('close-shape');
  await retype('drawing-name', 'By the racks');
  await browser.press('draw-new');
  await browser.press('new-line');
  await browser.press('point-list');
  await browser.press('list-add');
  await browser.press('list-add');
  await browser.press('close-shape');
  await driver.executeScript('document.activeElement && document.activeElement.blur()');
  await driver.actions().sendKeys(Key.ARROW_DOWN, Key.ARROW_DOWN).perform();
  await browser.press('keep-drawings');
  type Drawn = { zones: { name: string; polygon: number[][] }[]; lines: { points: number[][] }[] };
  const drawn = await waitFor(async () => {
    const now = await world.api<Drawn>('/api/cameras/racks');
    return now.lines.length ? now : undefined;
  });
  expect(drawn.zones[0]!.name).toBe('By the racks');
  expect(drawn.zones[0]!.polygon.flat().map((v) => Math.round(v * 10) / 10)).toEqual([0.2, 0.3, 0.8, 0.3, 0.8, 0.8, 0.2, 0.8]);
  expect(drawn.lines[0]!.points[1]![1]).toBeCloseTo(0.51, 5);
});

test('its aim is given, checked by a measured mark, and kept', async () => {
  const { browser, place } = world;
  await browser.driver.get(`${place.url}/cameras/racks`);
  await browser.press('aim');
  // As the stand-in hangs: 3 m up, 35° from top to bottom, which is 58.5° across.
  await retype('aim-horizontalDegrees', '58.5');
  const picture = await browser.find('aim-picture');
  await browser.driver.actions().move({ origin: picture }).press().release().perform();
  await browser.reads(/11\.[1-4] m away, 14\d px\/m: enough to recognise/);
  await browser.type('mark-metres', '14.11');
  await browser.press('add-mark');
  // 3 m over the ground, the middle of the picture meets it at 14.11 m: 12° down.
  await browser.reads(/This fits a height of 3 m and 1[12](\.\d)?° down/);
  await browser.press('take-solved');
  await browser.press('keep-aim');
  type Aimed = { aim: { tiltDegrees: number; lens: object } | null };
  const { aim } = await waitFor(async () => {
    const now = await world.api<Aimed>('/api/cameras/racks');
    return now.aim ? now : undefined;
  });
  expect(aim).toMatchObject({ lens: { horizontalDegrees: 58.5 } });
  // A finger touches whole pixels: half of one is a tenth of a degree here.
  expect(Math.abs(aim!.tiltDegrees - 12)).toBeLessThan(0.3);
});

test('a camera is removed and put back', async () => {
  const { browser, place } = world;
  await browser.driver.get(`${place.url}/cameras/racks`);
  await browser.press('remove-camera');
  await browser.press('remove-camera-go');
  await browser.reads('Racks was removed.');
  expect(await camera('racks')).toBeUndefined();
  await browser.press('revert');
  await waitFor(async () => camera('racks'));
});
