// Wordings tried on stored moments: every cell is asked and kept, as many at once as the services allow; stopped, and tried again, it says what changed.

import { testDescriber, type Answering } from '../testing/describers';
import { peopledYard, testStations, until, walkIn, type TestStations } from '../testing/stations';

const ends: (() => unknown)[] = [];
afterEach(async () => {
  for (const end of ends.splice(0).reverse()) await end();
});

async function yard(answer: (n: number) => Answering | Promise<Answering>) {
  const service = await testDescriber((_asked, n) => answer(n));
  ends.push(service.close);
  const stations = await testStations({
    ownServices: [service.origin],
    site: peopledYard.replace('message: { picture: true, description: true }', 'message: { picture: true }'),
  });
  ends.push(stations.end);
  for (const name of ['Near', 'Far'])
    await stations.ask('POST', '/api/ai-services', { service: { name, url: service.url, model: name, atOnce: 2 } });
  await stations.ask('PUT', '/api/areas/yard/mode', { mode: 'shut' });
  await walkIn(stations);
  const event = await until(async () => (await stations.ask('GET', '/api/events?show=notified')).body.items[0]);
  const rule = event.rule as string;
  const path = `/api/rules/${rule}/prompt-tests`;
  return { service, stations, event: event.id as string, path };
}
const done = (stations: TestStations, path: string) =>
  until(async () => {
    const { body } = await stations.ask('GET', path);
    return body.running === null ? body : undefined;
  });
const prompt = [{}, { words: 'Leave the weather out.' }];

test('each moment with each wording and service: kept with what was sent, and whether the checks hold; again, it says what was before', async () => {
  let sentence = 'A person in red.';
  const { service, stations, event, path } = await yard(() => ({ content: sentence }));
  const set = await stations.ask('PUT', `${path}/examples`, { examples: [{ event, checks: ['contains red', 'never dog', 'plate = X'] }] });
  expect(set.body.examples).toMatchObject([{ event, cameraName: 'Gate' }]);
  await stations.ask('POST', path, { promptVersions: prompt.map((a) => ({ prompt: a })), services: ['near', 'far'] });
  const first = await done(stations, path);
  expect(first.results).toHaveLength(4);
  expect(first.results[0]).toMatchObject({ event, line: 'A person in red.', holds: [true, true, false], before: null });
  expect(first.results[0].pictures.length).toBeGreaterThan(0);
  expect(service.asked.map((a) => a.model).sort()).toEqual(['Far', 'Far', 'Near', 'Near']);
  // No one was told of anything, and the event is as it was.
  expect((await stations.ask('GET', `/api/events/${event}`)).body.description).toBeNull();
  sentence = 'A person in blue.';
  await stations.ask('POST', path, { promptVersions: [{ prompt: prompt[0] }], services: ['near'] });
  const again = await done(stations, path);
  expect(again.promptVersions).toHaveLength(2);
  const cell = again.results.find((r: { before: string | null }) => r.before !== null);
  expect(cell).toMatchObject({ line: 'A person in blue.', before: 'A person in red.', holds: [false, true, false] });
  const left = (await stations.ask('DELETE', `${path}/${again.promptVersions[0].id}`)).body;
  expect([left.promptVersions.length, left.results.length]).toEqual([1, 2]);
});

test('as many at once as the services allow; stopped, what is left is not asked; one that fails says why', async () => {
  let [running, max] = [0, 0];
  const { stations, event, path, service } = await yard(async (n) => {
    max = Math.max(max, ++running);
    await new Promise((r) => setTimeout(r, 60));
    running--;
    return n === 1 ? { status: 503 } : { content: 'Seen.' };
  });
  await stations.ask('PUT', `${path}/examples`, { examples: [{ event, checks: [] }] });
  const promptVersions = Array.from({ length: 8 }, (_, i) => ({ prompt: { words: `Try number ${i}.` } }));
  const begun = (await stations.ask('POST', path, { promptVersions, services: ['near', 'far'] })).body;
  expect(begun.running.of).toBe(16);
  expect((await stations.ask('POST', path, { promptVersions, services: ['near'] })).status).toBe(409);
  await stations.ask('POST', `${path}/stop`);
  const stopped = await done(stations, path);
  expect(stopped.results.length).toBeLessThan(16);
  expect(max).toBeLessThanOrEqual(4);
  expect(stopped.results.find((r: { why: string | null }) => r.why !== null)?.why).toBe('The AI service answered 503.');
  expect(service.asked.length).toBeLessThan(16);
});

test('what cannot be meant is said, and nothing is asked', async () => {
  const { stations, event, path, service } = await yard(() => ({ content: 'Seen.' }));
  const one = [{ prompt: {} }];
  expect((await stations.ask('POST', path, { promptVersions: one, services: ['near'] })).status).toBe(400);
  expect((await stations.ask('PUT', `${path}/examples`, { examples: [{ event: 'gone', checks: [] }] })).status).toBe(404);
  expect((await stations.ask('PUT', `${path}/examples`, { examples: [{ event, checks: ['what'] }] })).status).toBe(400);
  await stations.ask('PUT', `${path}/examples`, { examples: [{ event, checks: [] }] });
  expect((await stations.ask('POST', path, { promptVersions: one, services: ['no one'] })).status).toBe(404);
  expect((await stations.ask('GET', '/api/rules/none/prompt-tests')).status).toBe(404);
  expect(service.asked).toHaveLength(0);
});
