// Describing services in Chromium: one is tried and set up, a question decides who is told, wordings are tried side by side, a reading reminds.

import { openWorld, signIn, waitFor, type World } from './world';

let world: World;
beforeAll(async () => {
  world = await openWorld('usual');
  await signIn(world);
}, 300_000);
afterAll(() => world?.end());

const go = (address: string) => world.browser.driver.get(world.place.url + address);
type Item = { readonly id: string; readonly ruleName: string; readonly description: string | null };
const told = async () => (await world.api<{ items: Item[] }>('/api/events?show=told')).items;

test('a service is tried with a drawn picture before it is saved, and asked in its turn', async () => {
  const { browser } = world;
  await go('/site/services');
  await browser.press('add-service');
  const { describer } = world.place.standins;
  for (const [field, text] of [['name', 'Third eyes'], ['url', describer], ['model', 'third']] as const) await browser.type(`service-${field}`, text); // prettier-ignore
  await browser.press('service-try');
  await browser.reads(/Picture: It saw \d \w+ discs\./);
  await browser.press('service-save');
  await browser.reads('Third eyes saved.');
  await browser.press('order-of-questions');
  await browser.press('order-small-eyes');
  await browser.press('order-third-eyes-up');
  await browser.press('order-save');
  await browser.reads('Questions: the order is saved.');
  const { order } = await world.api<{ order: { questions: string[] } }>('/api/services');
  expect(order.questions).toEqual(['third-eyes', 'keen-eyes']);
});

test('a question keeps an alert back, and lets another go; the moment says so with the pictures that were sent', async () => {
  const { browser } = world;
  await go('/rules/comes-in');
  await browser.press('add-question');
  await browser.type('question-words', 'Is it a person in purple?');
  await browser.press('question-otherwise-keep');
  await browser.press('part-done');
  await browser.press('save-rule');
  await browser.reads('Somebody comes in saved.');
  await world.api('/api/areas/landing/mode', 'PUT', { mode: 'closed' });
  await world.send('bo', 'lane-to-yard');
  const first = await waitFor(async () => (await told())[0], 150_000);
  await go(`/moment/${first.id}`);
  await browser.reads(/No \((Third|Keen) eyes, .*So nobody was told\./, 60_000);
  await browser.reads(/Rowan was not told: Is it a person in purple\? No\./);
  expect((await world.pocket()).notifications.filter((n) => n.title === 'Somebody comes in')).toEqual([]);
}, 300_000);

test('wordings are tried on a stored moment by two services, side by side, and one is taken into the rule', async () => {
  const { browser } = world;
  const [event] = await told();
  await go('/rules/tries?rule=comes-in');
  await browser.press('choose-moments');
  await browser.press(`moment-${event!.id}`);
  await browser.type(`checks-${event!.id}`, 'contains red');
  await browser.press('moments-save');
  await browser.press('another-wording');
  await browser.press('asks-ready-Person');
  await browser.press('try-wordings');
  await browser.reads(/1 of 1 checks hold/, 60_000);
  await browser.press('adopt-A-keen-eyes');
  await browser.reads('Taken into the rule. Save it to keep it.');
  await browser.press('save-rule');
  await browser.reads('Somebody comes in saved.');
}, 200_000);

test('a reading by the detector is set up and read; whoever is reminded by it gets the picture', async () => {
  const { browser } = world;
  await go('/site/readings');
  await browser.press('add-reading');
  await browser.type('reading-name', 'People in the yard');
  await browser.press('reading-camera-yard');
  await browser.press('reading-by-detector');
  await browser.press('reading-save');
  await browser.reads('People in the yard saved.');
  await browser.press('remind-people-in-the-yard');
  await browser.type('reminder-name', 'Somebody in the yard');
  await browser.press('reminder-over');
  await browser.press('reminder-save');
  await browser.reads('Somebody in the yard saved.');
  await world.send('ada', 'counter-3');
  const seen = await waitFor(async () => {
    const taken = await world.api<{ value: number | null; picture: string | null }>('/api/readings/people-in-the-yard/take', 'POST');
    return taken.value ? taken : undefined;
  }, 150_000);
  expect(seen.picture).not.toBeNull();
  await world.pocketShows((p) => p.notifications.some((n) => n.title === 'Somebody in the yard' && /^People in the yard: \d/.test(n.body)));
  await go('/site/readings');
  await browser.find('line-people-in-the-yard');
}, 300_000);
