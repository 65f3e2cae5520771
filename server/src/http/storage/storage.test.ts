// Stored data over the API: how much, for how long, changed like any part of the site.

import { testStations, type TestStations } from '../../testing/stations';

let stations: TestStations;
beforeAll(async () => {
  stations = await testStations();
});
afterAll(() => stations.end());

test('days and limits are set in the site file, answered with what comes of them, put back, and refused where they are wrong', async () => {
  const before = (await stations.ask('GET', '/api/storage')).body;
  expect(before).toMatchObject({ retention: {}, days: { events: 90, clips: 30 }, maxDiskShare: 0.9, minFreeBytes: 2e9 });
  expect(before.disk.total).toBeGreaterThanOrEqual(before.disk.free);
  const wanted = { days: { events: 20 }, cameras: [{ camera: 'gate', days: { clips: 3 } }], minFreeGigabytes: 5 };
  expect((await stations.ask('PUT', '/api/retention', wanted)).status).toBe(200);
  expect((await stations.ask('GET', '/api/storage')).body).toMatchObject({
    retention: wanted,
    days: { events: 20, clips: 20, pictures: 20 },
    minFreeBytes: 5e9,
  });
  expect(stations.site.text).toContain('retention:');
  for (const wrong of [{ days: { events: 0 } }, { days: { evnts: 3 } }, { maxDiskShare: 2 }, { cameras: [{ camera: 'gate', days: {} }] }])
    expect((await stations.ask('PUT', '/api/retention', wrong)).status).toBe(400);
  expect((await stations.ask('PUT', '/api/retention', {})).status).toBe(200);
  expect(stations.site.text).not.toContain('retention:');
  const [newest] = await stations.record.logbook.newest(1);
  expect(newest!.what).toBe('changed how long data is kept');
});
