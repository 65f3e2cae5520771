// The whole job, as its owner lives it: from a camera's picture to the phone, and the quiet cases.

import sharp from 'sharp';
import { openWorld, signIn, sendUntil, sendUntilStopped, waitFor, type Pocket, type World } from './world';

let world: World;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world?.end());

test('the owner signs in, and a wrong password is said to be wrong', async () => {
  const { browser, place } = world;
  await browser.driver.get(`${place.url}/`);
  await browser.type('sign-in-name', 'Rowan');
  await browser.type('sign-in-password', 'not this one');
  await browser.press('sign-in');
  await browser.reads('The name or the password is wrong.');
  await signIn(world);
  await browser.reads('Landing: Open');
  await browser.reads('No alerts are sent.');
});

test('closed, a person who comes from the lane into the yard is on the phone with a picture, then with a sentence', async () => {
  const { browser } = world;
  await browser.press('mode-closed');
  await browser.reads('No problems found.');
  await browser.press('arm');
  await browser.reads('Landing: Closed');
  const [notice] = await sendUntil(world, 'ada', 'lane-to-yard', async () => {
    const { notifications } = await world.pocket();
    return notifications.length === 1 ? notifications : undefined;
  });
  expect(notice!.title).toBe('Someone comes in');

  // The picture is had by its link alone, with no session, and is a picture.
  const picture = await fetch(notice!.picture);
  expect(picture.status).toBe(200);
  const pixels = await sharp(Buffer.from(await picture.arrayBuffer())).stats();
  expect(pixels.channels[0]!.stdev).toBeGreaterThan(20);
  expect((await fetch(notice!.picture.replace(/signature=...../, 'signature=AAAAA'))).status).toBe(401);

  // A better picture fills it in as well, and may come first.
  const filled = await world.pocketShows(({ notifications: [first] }) =>
    Boolean(first?.filledIn && /^A person in a .* top and .* trousers/.test(first.body)),
  );
  expect(filled.notifications).toHaveLength(1);
});

test('the pocket’s page shows it, and a tap opens the moment with its clip, its trail and its mark', async () => {
  const { browser, place } = world;
  await browser.driver.get(place.standins.pocket);
  await browser.reads('Someone comes in');
  const width = await waitFor(
    async () => ((await browser.driver.executeScript('return document.querySelector(".notice img")?.naturalWidth')) as number) || undefined,
  );
  expect(width).toBe(960);
  await browser.driver.executeScript('document.querySelector(".notice").click()');
  await browser.find('event-title');
  await browser.reads('It passed every gate.');
  await browser.reads(/Sent to Rowan by/);
  const length = await waitFor(async () => {
    const seconds = (await browser.driver.executeScript('return document.querySelector("video")?.duration')) as number | null;
    return seconds && seconds > 2 ? seconds : undefined;
  });
  expect(length).toBeLessThan(24);
  await browser.press('mark-useful');
  await waitFor(async () => ((await (await browser.find('mark-useful')).getAttribute('aria-checked')) === 'true' ? true : undefined));
  expect((await browser.consoleErrors()).filter((e) => !e.includes('401'))).toEqual([]);
});

test('open, the same walk is quiet, and Events says that the mode stopped it, with the two values', async () => {
  const { browser, place } = world;
  await world.api('/api/areas/landing/mode', 'PUT', { mode: 'open' });
  const before = await world.pocket();
  const track = await sendUntilStopped(world, 'bo', 'lane-to-yard', 'mode', 'person');
  expect(track.why).toBe('The mode was Open; the rule is active while Closed');
  await browser.driver.get(`${place.url}/events`);
  await browser.press(`track-${track.id}`);
  await browser.reads('The mode was Open; the rule is active while Closed.');
  expect(await world.pocket()).toEqual(before);
});

test('closed but inside opening hours, it is quiet because of the schedule', async () => {
  await world.api('/api/areas/landing/mode', 'PUT', { mode: 'closed' });
  await world.setTime('11:00');
  const known = (await world.api<{ items: { id: string }[] }>('/api/events')).items.map((i) => i.id);
  await waitFor(async () => {
    const { schedules } = await world.api<{ schedules: { id: string; on: boolean }[] }>('/api/site');
    return schedules.find((h) => h.id === 'opening')!.on || undefined;
  });
  const before = await world.pocket();
  const track = await sendUntilStopped(world, 'cy', 'lane-to-yard', 'hours', 'person', known);
  expect(track.why).toMatch(/^Wednesday 11:0\d is inside opening hours$/);
  expect(await world.pocket()).toEqual(before);
});

test('a dog, a car and a person who stays in the lane are quiet, each with its trail', async () => {
  await world.setTime('20:40');
  const before = await world.pocket();
  const known = (await world.api<{ items: { id: string }[] }>('/api/events')).items.map((i) => i.id);
  // Far from one another.
  const [dog, person] = await Promise.all([
    sendUntilStopped(world, 'dog', 'across-yard', 'class', 'pet', known),
    sendUntilStopped(world, 'cy', 'along-lane', 'behaviour', 'person', known),
  ]);
  expect([dog.why, person.why]).toEqual(['It is a dog, not a person', 'It was in Lane and did not go to Yard']);
  expect((await sendUntilStopped(world, 'red-hatchback', 'drive-in', 'class', 'vehicle', known)).why).toMatch(
    /^It is a (car|truck|bus), not a person$/,
  );
  expect(await world.pocket()).toEqual(before);
});

test('the record is asked in plain words, put right, followed up, and leads to the moment it rests on', async () => {
  const { browser, place } = world;
  await browser.driver.get(`${place.url}/events`);
  await browser.press('ask-record');
  await browser.type('ask-question', 'was there a dog at the yard today?');
  await browser.press('ask');
  await browser.reads(/Yes: \d+ dogs? (was|were) detected at Yard today, the last today at \d\d:\d\d\./);
  // A car, by hand, and then anything at all.
  await browser.press('ask-correct');
  await browser.press('meant-dog');
  await browser.press('meant-vehicle');
  await browser.press('meant-ask');
  await browser.reads(/Yes: \d+ vehicles? (was|were) detected at Yard today/);
  await browser.type('ask-question', 'and how many people?');
  await browser.press('ask');
  await browser.reads(/\d+ (person|people) (was|were) detected at Yard today\./);
  const query = { wanted: 'which', kinds: ['person'], cameras: ['yard'], areas: [], rules: [], sensors: [], span: null, words: [] };
  const [newest] = (await world.api<{ items: { id: string; kind: string; ruleName: string }[] }>('/api/ask', 'POST', { query })).items;
  await browser.press(`${newest!.kind}-${newest!.id}`);
  await browser.driver.wait(async () => (await browser.driver.getCurrentUrl()).endsWith(`/events/${newest!.id}`), 20_000);
});

test('a rule that asks for fields is filled in with them, and the picture that went is shown', async () => {
  const { browser, place } = world;
  await browser.driver.get(`${place.url}/rules/comes-in`);
  await browser.press('part-message');
  await browser.press('prompt-ready-Person');
  await browser.press('prompt-sentence');
  await browser.press('part-done');
  await browser.press('save-rule');
  const asked = async () =>
    (await world.api<{ id: string; message?: { prompt?: { sentence?: boolean } } }[]>('/api/rules')).find((r) => r.id === 'comes-in')!
      .message!.prompt;
  await waitFor(async () => ((await asked())?.sentence === false ? true : undefined));
  // Longer than the rule rests.
  await world.setTime('21:30');
  const known = new Set((await world.pocket()).notifications.map((n) => n.id));
  // A better picture fills it in as well, and may come first.
  const isAnswered = ({ id, body }: Pocket['notifications'][number]) =>
    !known.has(id) && /^(top )?[a-z ]+ · (trousers )?[a-z ]+$/.test(body);
  await sendUntil(
    world,
    'ada',
    'lane-to-yard',
    async () => (await world.pocket()).notifications.find(isAnswered),
    async () => JSON.stringify(await world.pocket()),
  );
  await browser.driver.get(`${place.url}/site/ai-services`);
  await browser.reads(/For Someone comes in, to http:\/\/127\.0\.0\.1/);
  await browser.reads(/Used (once|\d+ times) in the last 24 hours/);
});

test('an event is taken away as a file, deleted by hand, and gone from the list', async () => {
  const { browser, place } = world;
  const listed = async () => (await world.api<{ items: { id: string }[] }>('/api/events?show=notified')).items.map((i) => i.id);
  const [id] = await listed();
  const headers = { cookie: world.api.cookie };
  await browser.driver.get(`${place.url}/events/${id}`);
  await browser.press('event-delete');
  await browser.reads('This cannot be undone. Export it first if you may need it.');
  const file = await fetch(`${place.url}/api/events/${id}/export`, { headers });
  expect([file.headers.get('content-type'), (await file.text()).slice(0, 2)]).toEqual(['application/zip', 'PK']);
  await browser.press('event-delete-sure');
  await browser.reads('Deleted.');
  expect(await listed()).not.toContain(id);
  expect((await fetch(`${place.url}/api/events/${id}`, { headers })).status).toBe(404);
});
