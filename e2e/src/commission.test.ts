// A camera is tuned, its rule is walked past until it fires and until it stays quiet, it is moved on the plan, and nothing is open any more.

import { openWorld, sendUntil, signIn, waitFor, type World } from './world';

let world: World;
beforeAll(async () => {
  world = await openWorld();
  await signIn(world);
});
afterAll(() => world?.end());

type Step = { step: string; state: string };
const steps = async () => {
  const { steps: all } = await world.api<{ steps: Step[] }>('/api/cameras/yard/commissioning');
  return Object.fromEntries(all.map((s) => [s.step, s.state]));
};
const text = async () => (await world.browser.driver.executeScript('return document.body.innerText')) as string;
/** Presses at a share of an element's width and height. */
async function pressAt(testId: string, x: number, y = 0.5) {
  const element = await world.browser.find(testId);
  await world.browser.driver.executeScript('arguments[0].scrollIntoView({ block: "center" })', element);
  const { width, height } = await element.getRect();
  const to = { origin: element, x: Math.round((x - 0.5) * width), y: Math.round((y - 0.5) * height) };
  await world.browser.driver.actions().move(to).press().release().perform();
}

test('what is open says so, for the camera and for the site', async () => {
  const { browser, place } = world;
  expect(await steps()).toMatchObject({ sensitivity: 'open', rule: 'done', 'walk test': 'open' });
  await browser.driver.get(`${place.url}/cameras`);
  await browser.press('cameras-to-finish');
  await browser.reads('0 of 2 cameras ready.');
  await browser.press('finish-yard');
  await browser.reads('2 of 8 steps left');
});

test('a camera is tuned on what its last minutes showed', async () => {
  const { browser } = world;
  await browser.press('tune');
  await sendUntil(world, 'ada', 'lane-to-yard', async () => (/person, confidence up to .* detected/.test(await text()) ? true : undefined));
  await browser.reads(/Motion in \d+ of \d+ frames/);
  await pressAt('tune-smallestPart', 0.99);
  await browser.reads(/Motion in \d+ instead of \d+ of/);
  await browser.reads(/the motion was too small/);
  await pressAt('tune-confidence', 0.99);
  await browser.reads(/confidence too low, needs 0\.9\d/);
  await pressAt('recent-strip', 0.9);
  await browser.reads(/\d+ s ago/);
  // What is tried outlives a reload, and is not live before it is kept.
  await browser.driver.navigate().refresh();
  await browser.reads(/confidence too low, needs 0\.9\d/);
  expect((await world.api<{ tuning: object | null }>('/api/cameras/yard')).tuning).toBeNull();
  await browser.press('tune-usual');
  await pressAt('tune-threshold', 0.25);
  const threshold = Number(await (await browser.find('tune-threshold-value')).getText());
  expect(threshold).toBeGreaterThan(8);
  await browser.press('keep-tuning');
  await waitFor(async () => ((await steps()).sensitivity === 'done' ? true : undefined));
  expect(await world.api('/api/cameras/yard')).toMatchObject({ tuning: { threshold, confidence: 0 } });
});

test('a walk test fires: the gates light, the phone rings and says that it is a test', async () => {
  const { browser, place } = world;
  await browser.driver.get(`${place.url}/cameras/yard`);
  await browser.press('walk');
  await browser.press('walk-zone-yard');
  await browser.press('start-walk');
  await browser.reads('End the test');
  // It is an hour at which the rule is not active in any mode of the yard.
  const rang = await sendUntil(world, 'ada', 'lane-to-yard', async () =>
    (await world.pocket()).notifications.find((n) => n.title === 'Test: Someone comes in'),
  );
  expect(rang.picture).toMatch(/^http/);
  await browser.press('end-walk');
  await browser.reads('2 of 2 as expected');
  await browser.reads('Rowan: delivered to the phone');
  expect(await steps()).toMatchObject({ 'walk test': 'open' });
  // The household's events know nothing of it.
  expect((await world.api<{ items: object[] }>('/api/events?show=notified')).items).toEqual([]);
});

test('a walk test stays quiet: a dog crosses the yard and no one is told', async () => {
  const { browser } = world;
  const before = (await world.pocket()).notifications.length;
  // Whoever came in before has gone: the walk is the dog's alone.
  await world.direct({ kind: 'clear' });
  await waitFor(async () => ((await world.api<{ tracks: object[] }>('/api/cameras/yard')).tracks.length === 0 ? true : undefined));
  await browser.press('walk-again');
  // That it fires was shown: what is left to show is offered.
  await browser.press('start-walk');
  await browser.reads('must stay quiet');
  await sendUntil(world, 'dog', 'across-yard', async () =>
    /It stayed quiet|Quiet, with someone there/.test(await text()) ? true : undefined,
  );
  await browser.press('end-walk');
  await browser.reads('1 of 1 as expected');
  type Walked = { items: { verdict: string; result: { why: string } }[] };
  const [{ items } = { items: [] }] = await world.api<Walked[]>('/api/walk-tests');
  expect(items.map((i) => [i.verdict, i.result.why])).toEqual([['proved', expect.stringMatching(/not a person/)]]);
  await browser.reads(`It stayed quiet. ${items[0]!.result.why}.`);
  expect((await world.pocket()).notifications).toHaveLength(before);
  expect(await steps()).toMatchObject({ 'walk test': 'done' });
});

test('a camera is moved on the plan: what is covered follows, and what was moved is kept', async () => {
  const { browser, place } = world;
  await browser.driver.get(`${place.url}/cameras`);
  await browser.press('cameras-plan');
  await browser.reads('88 % covered');
  // It stands at 22 m of 44 across and 8 m from below.
  await pressAt('plan', 0.5, 1 - 8 / 44);
  await browser.reads('Direction');
  await pressAt('plan', 0.3, 0.5);
  await browser.reads(/1[23](\.\d)? m from the left/);
  await browser.driver.wait(async () => !(await text()).includes('88 % covered'), 10_000);
  await browser.press('keep-plan');
  type Aimed = { aim: { east: number; north: number } };
  const { aim } = await waitFor(async () => {
    const now = await world.api<Aimed>('/api/cameras/yard');
    return now.aim.east !== 22 ? now : undefined;
  });
  expect(aim.east).toBeCloseTo(13.2, 0);
  expect(aim.north).toBeCloseTo(22, 0);
});

test('a zone is drawn by real touches: taps add points, two fingers make the picture larger and add none, a held point goes', async () => {
  const { browser, place } = world;
  const { driver } = browser;
  await driver.get(`${place.url}/cameras/yard`);
  await browser.press('reshape');
  await browser.press('draw-new');
  await browser.press('new-watch');
  type Finger = readonly [x: number, y: number];
  const fingers = async (type: 'touchStart' | 'touchMove' | 'touchEnd', ...at: Finger[]) => {
    const picture = await browser.find('zoomable');
    const { left, top, width, height } = (await driver.executeScript(
      'const r = arguments[0].getBoundingClientRect(); return { left: r.left, top: r.top, width: r.width, height: r.height }',
      picture,
    )) as { left: number; top: number; width: number; height: number };
    const touchPoints = at.map(([x, y], id) => ({ x: left + x * width, y: top + y * height, id }));
    await (driver as unknown as { sendDevToolsCommand(n: string, p: object): Promise<void> }).sendDevToolsCommand(
      'Input.dispatchTouchEvent',
      { type, touchPoints },
    );
  };
  const tap = async (at: Finger) => {
    await fingers('touchStart', at);
    await fingers('touchEnd');
  };
  await (await browser.find('add-by-tap')).getRect();
  for (const at of [
    [0.2, 0.3],
    [0.8, 0.3],
    [0.8, 0.8],
    [0.2, 0.8],
  ] as const)
    await tap(at);
  await browser.find('handle-3');
  await fingers('touchStart', [0.4, 0.5], [0.6, 0.5]);
  await fingers('touchMove', [0.35, 0.5], [0.65, 0.5]);
  await fingers('touchMove', [0.3, 0.5], [0.7, 0.5]);
  await fingers('touchEnd');
  await browser.reads(/[12]\.\d ×/);
  expect(await driver.findElements({ css: '[data-testid="handle-4"]' })).toEqual([]);
  await browser.press('zoom-whole');
  await browser.press('close-shape');
  const held = await (await browser.find('handle-3')).getRect();
  expect(held.width).toBe(44);
  await fingers('touchStart', [0.2, 0.8]);
  await driver.wait(
    async () => (await driver.findElements({ css: '[data-testid="handle-3"]' })).length === 0,
    10_000,
    'the held point stays',
  );
  await fingers('touchEnd');
  await browser.press('undo');
  await browser.find('handle-3');
});
