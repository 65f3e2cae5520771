import { readFileSync } from 'node:fs';
import { testStations, until, walkIn, type TestStations } from '../../testing/stations';

let stations: TestStations;
beforeAll(async () => {
  stations = await testStations();
});
afterAll(() => stations.end());

const site = async () => (await stations.ask('GET', '/api/site')).body;

test('a place is named and set on earth; a zone that there is not is refused, and nothing is changed', async () => {
  const place = { name: 'Mill yard', timezone: 'Europe/Paris', latitude: 48.1, longitude: 2.2 };
  expect((await stations.ask('PUT', '/api/site/settings', place)).status).toBe(200);
  expect((await site()).settings).toEqual(place);
  const refused = await stations.ask('PUT', '/api/site/settings', { ...place, timezone: 'Europe/Nowhere' });
  expect([refused.status, JSON.stringify(refused.body)]).toEqual([422, expect.stringMatching(/Europe\/Nowhere/)]);
  expect((await stations.ask('PUT', '/api/site/settings', { ...place, latitude: 91 })).status).toBe(400);
  expect((await site()).settings).toEqual(place);
});

test('a place that has rules does not begin again; a bare one does, and keeps the area its cameras stand in', async () => {
  expect((await stations.ask('POST', '/api/site/template', { kind: 'shop' })).status).toBe(409);
  const bare = await testStations({
    site: `nibber: 2\nsite: { name: New site, timezone: Etc/UTC }\nareas: [{ id: yard, name: Yard }]\npeople: [{ id: wren, name: Wren, role: owner }]\ncameras:\n  - { id: gate, name: Gate, area: yard, source: { kind: paired } }\n`,
  });
  expect((await bare.ask('POST', '/api/site/template', { kind: 'shop-and-flat' })).status).toBe(200);
  const begun = (await bare.ask('GET', '/api/site')).body;
  expect(begun.areas.map((a: { name: string }) => a.name)).toEqual(['Shop', 'Flat', 'Yard']);
  expect(begun.schedules.map((h: { name: string }) => h.name)).toEqual(['Opening hours', 'Outside opening hours', 'Night']);
  await bare.end();
});

test('areas are added and named; one in which something stands is not taken out', async () => {
  const areas = [
    { id: 'yard', name: 'The yard' },
    { id: 'shed', name: 'Shed' },
  ];
  expect((await stations.ask('PUT', '/api/areas', { areas })).status).toBe(200);
  expect((await site()).areas).toEqual(areas);
  const refused = await stations.ask('PUT', '/api/areas', { areas: [areas[1]] });
  expect([refused.status, refused.body.error.message]).toEqual([409, 'The yard is the area of Gate, Side.']);
  expect((await stations.ask('PUT', '/api/areas', { areas: [] })).status).toBe(400);
  expect((await stations.ask('PUT', '/api/areas', { areas: [areas[0]] })).status).toBe(200);
});

test('a person’s quiet hours are given and taken back', async () => {
  const quiet = (schedule: string | null, person = 'sam') => stations.ask('PUT', `/api/people/${person}/quiet-hours`, { schedule });
  const of = () => stations.site.file.people!.find((p) => p.id === 'sam')!.quietHours;
  expect((await quiet('closed')).status).toBe(200);
  expect(of()).toBe('closed');
  expect((await quiet('lunch')).status).toBe(422);
  expect((await quiet('closed', 'nobody')).status).toBe(404);
  expect((await quiet(null)).status).toBe(200);
  expect(of()).toBeUndefined();
});

test('areas switch by a plan that is sent, and one that names no mode is refused', async () => {
  const plan = { id: 'evening', areas: ['yard'], weekly: { mon: ['18:00 shut'] }, exceptions: [{ date: '2026-12-24', switches: [] }] };
  expect((await stations.ask('PUT', '/api/mode-schedules', { modeSchedules: [plan] })).status).toBe(200);
  expect((await stations.ask('GET', '/api/modes')).body.modeSchedules).toEqual([plan]);
  const refused = await stations.ask('PUT', '/api/mode-schedules', { modeSchedules: [{ ...plan, weekly: { mon: ['18:00 asleep'] } }] });
  expect([refused.status, JSON.stringify(refused.body)]).toEqual([422, expect.stringMatching(/asleep/)]);
  expect((await stations.ask('PUT', '/api/mode-schedules', { modeSchedules: [] })).status).toBe(200);
});

test('a thing is known from a moment, with its picture, until it is known no more', async () => {
  await stations.site.setMode('yard', 'shut', { name: 'Wren' });
  await walkIn(stations);
  const item = await until(async () => (await stations.ask('GET', '/api/events?show=notified')).body.items[0]);
  const made = await stations.ask('POST', '/api/known', { name: 'The post', event: item.id, plate: 'AB?2 CDE' });
  expect([made.status, made.body.id]).toEqual([200, 'the-post']);
  const [known] = (await site()).known;
  expect(known).toMatchObject({ id: 'the-post', name: 'The post', plate: 'AB?2 CDE', picture: expect.stringMatching(/jpg$/) });
  const file = stations.record.media.file(known.picture)!;
  expect((await stations.record.media.of('known', ['the-post'])).get('the-post')!.picture!.name).toBe(known.picture);
  expect(readFileSync(file).length).toBeGreaterThan(100);
  expect((await stations.ask('POST', '/api/known', { name: 'Nothing', event: 'no-such' })).status).toBe(404);
  expect((await stations.ask('PUT', '/api/known', { known: [] })).status).toBe(200);
  expect((await stations.record.media.of('known', ['the-post'])).get('the-post')).toBeUndefined();
});
