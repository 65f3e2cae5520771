import { greyJpeg, sighting, testStations, until, type TestStations } from '../testing/stations';

let stations: TestStations;
let clockAt = 0;
beforeAll(async () => {
  stations = await testStations();
  clockAt = stations.clock.now();
});
afterAll(() => stations.end());

const comesIn = (expect_: 'fires' | 'quiet') => ({ kind: 'rule', rule: 'comes-in', expect: expect_ });
const start = (...items: object[]) => stations.ask('POST', '/api/walk-test', { items });
const end = async () => (await stations.ask('DELETE', '/api/walk-test')).body;
/** Someone walks with their feet at these heights, and is gone. */
async function walk(...feet: readonly number[]) {
  const jpeg = await greyJpeg();
  feet.forEach((f, i) => {
    const seen = sighting(jpeg, clockAt + i * 200, f);
    stations.bus.publish('watched', seen);
    stations.walkTests.watched(seen);
  });
  clockAt += 60_000;
  return () => {
    stations.bus.publish('reached', clockAt);
    stations.walkTests.tick(clockAt);
  };
}
const events = () => stations.record.tables.events;

test('a walk fires the rule, in an open yard too: an event marked as a test, told to whom the rule tells, and nothing else', async () => {
  expect((await start(comesIn('fires'), { kind: 'zone', camera: 'gate', zone: 'yard' })).status).toBe(200);
  await walk(0.5, 0.5, 0.53, 0.62, 0.66);
  const now = stations.walkTests.now()!;
  expect(now.items.map((i) => i.result.state)).toEqual(['answered', 'answered']);
  const lit = now.items[0]!.lights.filter((l) => l.state === 'passed').map((l) => l.gate);
  expect(lit).toEqual(['source', 'class', 'confidence', 'size', 'masks', 'place', 'behaviour', 'looks', 'repeat']);
  const event = await until(async () => (await events().findOne()) ?? undefined);
  expect(event).toMatchObject({ rule: 'comes-in', test: now.id });
  const kept = await end();
  expect(kept.endedAt).not.toBeNull();
  expect(kept.items[0].result.picture).toMatch(/jpg$/);
  expect(kept.items[0]).toMatchObject({ verdict: 'proved', isStillValid: true, notified: [{ person: 'Wren', state: 'undeliverable' }] });
  // The household's own views know nothing of it.
  expect((await stations.ask('GET', '/api/events?show=notified')).body.items).toEqual([]);
  expect((await stations.ask('GET', '/api/sieve')).body).toMatchObject({ events: 0 });
  expect((await stations.ask('GET', `/api/events/${event.id}`)).body).toMatchObject({ isTest: true });
});

test('what must stay quiet and does is proved by what was there, with the reason; if it fires it has failed', async () => {
  await start(comesIn('quiet'));
  (await walk(0.5, 0.5, 0.5, 0.5))();
  const [quiet] = (await end()).items;
  expect(quiet).toMatchObject({ verdict: 'proved', result: { state: 'waiting', walked: true } });
  expect(quiet.result.why).toMatch(/Lane|Yard/);
  await start(comesIn('quiet'));
  (await walk(0.5, 0.5, 0.53, 0.62, 0.66))();
  expect((await end()).items[0].verdict).toBe('failed');
});

test('what no one walked past stays open, and what no one could is refused', async () => {
  await start(comesIn('fires'));
  expect((await start(comesIn('fires'))).status).toBe(409);
  expect((await end()).items[0].verdict).toBe('open');
  expect((await stations.ask('DELETE', '/api/walk-test')).status).toBe(404);
  expect((await start({ kind: 'rule', rule: 'gone', expect: 'fires' })).body.error.message).toMatch(/Rule not found/);
  expect((await start({ kind: 'rule', rule: 'comes-in' })).status).toBe(400);
});

test('what was shown no longer stands when a zone of it was moved, and the place went on as it was all the while', async () => {
  const { zones } = (await stations.ask('GET', '/api/cameras/gate')).body;
  zones[0].polygon[0] = [0.05, 0.4];
  await stations.ask('PUT', '/api/cameras/gate/drawings', { zones, lines: [] });
  const [, , , first] = (await stations.ask('GET', '/api/walk-tests')).body;
  expect(first.items.map((i: { isStillValid: boolean }) => i.isStillValid)).toEqual([false, true]);
  await stations.site.setMode('yard', 'shut', { name: 'Wren' });
  await start(comesIn('fires'));
  (await walk(0.5, 0.5, 0.53, 0.62, 0.66))();
  await until(async () => ((await events().count({ where: { test: null } })) === 1 ? true : undefined));
  await end();
});
