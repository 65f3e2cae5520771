// Several services behind one question: order, taking over, budgets, keys; and the trial of one that is not saved yet.

import { testDescriber, type Answering } from '../testing/describers';
import { peopledYard, testStations, until, walkIn, type TestStations } from '../testing/stations';
import { tryService } from './trial';

type Notified = { description: string | null; descriptionProblem: string | null };
const ends: (() => unknown)[] = [];
afterEach(async () => {
  for (const end of ends.splice(0).reverse()) await end();
});

async function describer(answer: Parameters<typeof testDescriber>[0]) {
  const service = await testDescriber(answer);
  ends.push(service.close);
  return service;
}

async function yard(services: readonly string[]): Promise<TestStations> {
  const stations = await testStations({ ownServices: services.map((s) => new URL(s).origin), site: peopledYard });
  ends.push(stations.end);
  await stations.ask('PUT', '/api/areas/yard/mode', { mode: 'shut' });
  return stations;
}
const setUp = (stations: TestStations, name: string, url: string, more: object = {}, key?: string) =>
  stations.ask('POST', '/api/ai-services', { service: { name, url, model: 'm', ...more }, ...(key ? { key } : {}) });

/** Someone comes in; each time later he is described again. */
async function described(stations: TestStations): Promise<Notified> {
  const { record, clock } = stations;
  const [known] = await record.tables.events.findAll();
  if (!known) await walkIn(stations);
  else
    await record.write(async (transaction) => {
      await record.events.change(known.id, { description: null, descriptionProblem: null }, transaction);
      await record.jobs.add([{ kind: 'describe', event: known.id, lane: `describe/again ${Math.random()}` }], clock.machine(), transaction);
    });
  stations.wake();
  return until(async () => {
    const [event] = await record.tables.events.findAll();
    const job = await record.tables.outbox.findOne({ where: { kind: 'describe' }, order: [['id', 'DESC']] });
    const problem = job?.lastError ?? null;
    return event && (event.description !== null || problem !== null)
      ? { description: event.description, descriptionProblem: problem }
      : undefined;
  });
}
const state = async (stations: TestStations) => (await stations.ask('GET', '/api/ai-services')).body;

test('the first that is set up is asked with its key; where it fails the next takes over, and the first is left alone for a while', async () => {
  let isBroken = false;
  const near = await describer(() => (isBroken ? { status: 503 } : { content: 'Near says so.' }));
  const far = await describer(() => ({ content: 'Far says so.', usage: { prompt_tokens: 1000, completion_tokens: 10 } }));
  const stations = await yard([near.url, far.url]);
  expect((await setUp(stations, 'Near', near.url, { headers: { 'x-pass': '{key}' } }, 'near-secret')).status).toBe(200);
  await setUp(stations, 'Far', far.url, { price: { in: 0.2, out: 1, currency: 'EUR' } });
  expect((await described(stations)).description).toBe('Near says so.');
  expect(near.asked[0]!.headers['x-pass']).toBe('near-secret');
  isBroken = true;
  expect((await described(stations)).description).toBe('Far says so.');
  expect((await described(stations)).description).toBe('Far says so.');
  expect(near.asked).toHaveLength(2);
  const { services, order } = await state(stations);
  expect(order.descriptions).toEqual(['near', 'far']);
  expect(services[0]).toMatchObject({
    hasKey: true,
    resting: 'The AI service answered 503.',
    today: { answers: 1, failed: 1, cost: 0 },
  });
  // Twice 1000 tokens at 0.2 and 10 at 1 for a thousand, by hand: 0.42.
  expect(services[1]).toMatchObject({ hasKey: false, resting: null, today: { answers: 2, failed: 0 } });
  expect(services[1].today.cost).toBeCloseTo(0.42, 10);
  expect(JSON.stringify(await state(stations))).not.toContain('near-secret');
  expect(stations.site.text).not.toContain('near-secret');
});

test('a day’s answers used up, the next is asked; an order of its own leaves the others out', async () => {
  const near = await describer(() => ({ content: 'Near says so.' }));
  const far = await describer(() => ({ content: 'Far says so.' }));
  const stations = await yard([near.url, far.url]);
  await setUp(stations, 'Near', near.url, { aDay: { answers: 1 } });
  await setUp(stations, 'Far', far.url);
  expect((await described(stations)).description).toBe('Near says so.');
  expect((await described(stations)).description).toBe('Far says so.');
  expect((await stations.ask('PUT', '/api/ai-services/order', { use: 'descriptions', services: ['near'] })).status).toBe(200);
  const notified = await described(stations);
  expect(notified.descriptionProblem).toBe('Near is paused: its daily limit of 1 answer is reached.');
  expect(far.asked).toHaveLength(1);
  // Taken away it is asked for nothing any more, also where an order names it.
  expect((await stations.ask('DELETE', '/api/ai-services/near')).status).toBe(200);
  expect(stations.site.file.ai).toMatchObject({ services: [{ id: 'far' }], order: { descriptions: [] } });
});

test('an address that may not be called, money without a price, an order that names no one: said, and nothing is changed', async () => {
  const stations = await yard([]);
  const version = stations.site.version;
  expect((await setUp(stations, 'Inside', 'http://10.0.0.1/v1')).body.error.message).toBe('This address is not allowed.');
  expect((await setUp(stations, 'Dear', 'https://dear.example/v1', { aDay: { money: 2 } })).status).toBe(400);
  expect((await stations.ask('PUT', '/api/ai-services/order', { use: 'readings', services: ['no one'] })).status).toBe(422);
  expect(stations.site.version).toBe(version);
});

test('moved to another host, a service keeps no key that was meant for the one before; a trial sends it nowhere else either', async () => {
  const [near, far] = [await describer(() => ({ content: '{}' })), await describer(() => ({ content: '{}' }))];
  const stations = await yard([near.url, far.url]);
  await setUp(stations, 'Near', near.url, {}, 'near-secret');
  await stations.ask('POST', '/api/ai-services/try', { id: 'near', service: { name: 'Near', url: far.url, model: 'm' } });
  expect(far.asked.every((a) => a.headers.authorization === undefined)).toBe(true);
  await stations.ask('POST', '/api/ai-services/try', { id: 'near', service: { name: 'Near', url: `${near.url}/`, model: 'm' } });
  expect(near.asked[0]!.headers.authorization).toBe('Bearer near-secret');
  const moved = { id: 'near', name: 'Near', url: far.url, model: 'm' };
  expect((await stations.ask('PUT', '/api/ai-services/near', { service: moved })).status).toBe(400);
  await stations.ask('PUT', '/api/ai-services/near', { service: moved, key: null });
  expect((await state(stations)).services[0].hasKey).toBe(false);
});

test('as many at once as a service allows, and no more', async () => {
  let [running, max] = [0, 0];
  const slow = await describer(async () => {
    max = Math.max(max, ++running);
    await new Promise((r) => setTimeout(r, 30));
    running--;
    return { content: 'Seen.' };
  });
  const stations = await yard([slow.url]);
  await setUp(stations, 'Slow', slow.url, { atOnce: 2 });
  const question = { prompt: {}, words: 'What?', pictures: [], of: { event: null, camera: '', why: 'a test', pictures: [] } };
  const answers = await Promise.all(Array.from({ length: 7 }, () => stations.aiServices.ask('descriptions', question)));
  expect(answers.every((a) => a.ok)).toBe(true);
  expect([max, slow.asked.length]).toEqual([2, 7]);
});

test('who is not given its time does not hold up whoever asks, and is not at fault', async () => {
  const slow = await describer(() => ({ content: 'Late.', afterMs: 3000 }));
  const stations = await yard([slow.url]);
  await setUp(stations, 'Slow', slow.url);
  const question = { prompt: {}, words: 'What?', pictures: [], of: { event: null, camera: '', why: 'a test', pictures: [] }, maxMs: 60 };
  expect(await stations.aiServices.ask('questions', question)).toMatchObject({ ok: false });
  expect(stations.aiServices.resting('slow')).toBeUndefined();
});

const seeing = (words: unknown): Answering => ({ content: words, usage: { prompt_tokens: 10, completion_tokens: 1 } });
// 2 discs, the first paint: what a picker of noughts chooses.
test.each<[string, (asked: { response_format?: unknown }) => Answering, (boolean | null)[]]>([
  ['sees and answers in the shape', () => seeing('{"discs":2,"colour":"red"}'), [true, true, true, true, true]],
  [
    'takes no shape',
    (a) => (a.response_format ? { status: 400 } : seeing('There: {"discs":2,"colour":"red"}')),
    [true, true, true, true, true],
  ],
  ['does not see', () => seeing('{"discs":5,"colour":"blue"}'), [true, true, true, false, true]],
  ['lets nobody in', () => ({ status: 401 }), [true, false, null, null, null]],
  ['knows no such model', () => ({ status: 404 }), [true, true, false, null, null]],
  ['is out of order', () => ({ status: 500 }), [false, null, null, null, null]],
  ['answers with no text', () => seeing({ deep: [] }), [true, true, false, null, null]],
  ['talks of something else', () => seeing('I would rather talk about boats.'), [true, true, true, null, false]],
  ['never ends', () => ({ raw: 'x'.repeat(10_000_000) }), [true, true, false, null, null]],
])('the trial of a service that %s', async (_name, answer, holds) => {
  const service = await describer(answer);
  const trial = await tryService(
    { name: 'It', url: service.url, model: 'm', key: undefined, price: { in: 1, out: 1, currency: 'EUR' } },
    [service.origin],
    () => 0,
  );
  expect(trial.parts.map((p) => p.holds)).toEqual(holds);
});

test('the trial of a service that is not there', async () => {
  const gone = await testDescriber(() => ({}));
  gone.close();
  const trial = await tryService({ name: 'It', url: gone.url, model: 'm', key: undefined }, [gone.origin]);
  expect(trial.parts[0]).toMatchObject({ part: 'reach', holds: false });
  expect(trial.parts[0]!.said).toMatch(/did not answer/);
});

test('what is asked once of a class is asked by a rule that has no question of its own; taken back, a sentence is', async () => {
  const near = await describer(({ response_format: shape }) => ({
    content: shape ? JSON.stringify({ carrying: 'a paddle' }) : 'Somebody.',
  }));
  const stations = await yard([near.url]);
  await setUp(stations, 'Near', near.url);
  const prompt = { sentence: false, fields: [{ name: 'carrying', kind: 'text' }] };
  expect((await stations.ask('PUT', '/api/ai-services/prompts', { class: 'person', prompt })).status).toBe(200);
  expect((await stations.ask('GET', '/api/site')).body.prompts).toEqual({ person: prompt });
  expect((await described(stations)).description).toBe('a paddle');
  expect((await stations.ask('PUT', '/api/ai-services/prompts', { class: 'person', prompt: null })).status).toBe(200);
  expect((await stations.ask('GET', '/api/site')).body.prompts).toEqual({});
  expect((await described(stations)).description).toBe('Somebody.');
  const wrong = await stations.ask('PUT', '/api/ai-services/prompts', {
    class: 'person',
    prompt: { fields: [{ name: 'x', kind: 'guess' }] },
  });
  expect([wrong.status, (await stations.ask('PUT', '/api/ai-services/prompts', { class: 'ghost', prompt: null })).status]).toEqual([
    400, 400,
  ]);
});

test('what a model thinks does not reach anyone, and an answer in parts is put together', async () => {
  const near = await describer(() => ({
    content: [
      { type: 'text', text: '<think>Is it a fox?' },
      { type: 'text', text: '</think>A fox.' },
    ],
  }));
  const stations = await yard([near.url]);
  await setUp(stations, 'Near', near.url);
  expect((await described(stations)).description).toBe('A fox.');
});

test('a service that wants the limit under its newer name is asked so, and from then on at once', async () => {
  const wants = (asked: object) => !('max_completion_tokens' in asked);
  const near = await describer((asked) =>
    wants(asked) ? { status: 400, raw: JSON.stringify({ error: { message: "Use 'max_completion_tokens'." } }) } : { content: 'A fox.' },
  );
  const stations = await yard([near.url]);
  await setUp(stations, 'Near', near.url);
  expect((await described(stations)).description).toBe('A fox.');
  expect((await described(stations)).description).toBe('A fox.');
  expect(near.asked.map(wants)).toEqual([true, false, false]);
});

test.each([
  [400, 'It refused the request. It answered 400: “the picture is too large”.'],
  [404, 'Unknown model or address. It answered 404: “the picture is too large”.'],
])('a trial that is refused with %d says what the service says, without the key', async (status, words) => {
  const near = await describer(({ headers }) => ({
    status,
    raw: JSON.stringify({ error: { message: `the picture is too large` }, sent: headers }),
  }));
  const trial = await tryService({ name: 'Near', url: near.url, model: 'm', key: 'near-secret' }, [near.origin]);
  expect(trial.parts.find((p) => p.holds === false)!.said).toBe(words);
  expect(JSON.stringify(trial)).not.toContain('near-secret');
});
