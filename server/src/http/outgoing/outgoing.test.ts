import { peopledYard, testStations, until, walkIn, type TestStations } from '../../testing/stations';

let stations: TestStations;
beforeAll(async () => {
  stations = await testStations({ site: peopledYard });
});
afterAll(() => stations.end());

type Held = { holder: string; role: string; files: number; bytes: number };
const storage = async () =>
  (await stations.ask('GET', '/api/storage')).body as {
    media: Held[];
    detections: { bytes: number; maxDays: number };
    database: number;
    disk: { free: number };
  };

test('a channel says whom it reaches; one without a phone is not reached', async () => {
  const [push, ...others] = (await stations.ask('GET', '/api/channels')).body.channels;
  expect(others).toMatchObject([
    { name: 'mail', isSetUp: false },
    { name: 'text', isSetUp: false },
  ]);
  expect(push).toMatchObject({ name: 'push', waiting: 0, problem: null });
  expect((push.people as { name: string; targets: number }[]).find((p) => p.name === 'Wren')!.targets).toBe(0);
});

test('storage is counted by what it is held for, and grows by what is kept', async () => {
  const before = await storage();
  expect(before.media).toEqual([]);
  expect(before.database).toBeGreaterThan(10_000);
  expect(before.disk.free).toBeGreaterThan(0);
  await stations.ask('PUT', '/api/areas/yard/mode', { mode: 'shut' });
  await walkIn(stations);
  const pictures = await until(async () => (await storage()).media.find((m) => m.holder === 'event' && m.role === 'picture'));
  expect(pictures.files).toBeGreaterThan(0);
  expect(pictures.bytes).toBeGreaterThan(pictures.files * 100);
});

test('what waits for a service that fails is counted, with why', async () => {
  const [{ id: event }] = (await stations.ask('GET', '/api/events?show=notified')).body.items;
  // Its own comes to nothing first.
  await until(async () => (await stations.record.jobs.waiting('describe')).waiting === 0);
  const jobs = [{ kind: 'describe' as const, event, lane: 'describe/gate' }];
  await stations.record.write((transaction) => stations.record.jobs.add(jobs, stations.clock.machine() + 3_600_000, transaction));
  const aiServices = async () => (await stations.ask('GET', '/api/ai-services')).body;
  expect(await aiServices()).toMatchObject({ services: [], order: { descriptions: [] }, waiting: 1, problem: null });
  const [job] = await stations.record.jobs.next('describe', stations.clock.machine() + 7_200_000, [], 1);
  await stations.record.write((transaction) => stations.record.jobs.change(job!.id, { lastError: 'It answered 503.' }, transaction));
  expect(await aiServices()).toMatchObject({ waiting: 1, problem: 'It answered 503.' });
});
