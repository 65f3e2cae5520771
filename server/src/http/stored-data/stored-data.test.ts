// Exported and deleted by hand: what comes out is whole, what is gone is gone everywhere, and no one gets what is not theirs.

import { strFromU8, unzipSync } from 'fflate';
import { randomUUID } from 'node:crypto';
import { theProgram } from '@nibber/core/permissions';
import { dateText, wallTime } from '@nibber/core/time';
import { filesOf, password, testStations, until, walkIn, type TestStations } from '../../testing/stations';

let stations: TestStations;
beforeEach(async () => {
  stations = await testStations();
});
afterEach(() => stations.end());

const always = { from: 0, to: Number.MAX_SAFE_INTEGER };

/** Someone walks in, and is on the record with everything. */
async function anEvent() {
  const known = new Set((await stations.record.tables.events.findAll({ raw: true })).map((e) => e.id));
  await stations.ask('PUT', '/api/areas/yard/mode', { mode: 'shut' });
  await walkIn(stations);
  stations.tracking.commit(stations.follow.stop(stations.clock.now() + 5000));
  const event = await until(async () => (await stations.record.tables.events.findAll({ raw: true })).find((e) => !known.has(e.id)));
  // Its track is over.
  await until(async () => ((await stations.record.events.find(event.id))?.snapshots ? true : undefined));
  return event;
}

async function signInSam() {
  await stations.access.addAccount({ name: 'Sam', person: 'sam', role: 'member', password });
  return `nibber-session=${await stations.access.signIn('Sam', password, null)}`;
}

async function unzipped(path: string, cookie = stations.cookie) {
  const response = await fetch(stations.url + path, { headers: { cookie } });
  const bytes = new Uint8Array(await response.arrayBuffer());
  const files = response.ok ? unzipSync(bytes) : {};
  const [jsonName] = Object.keys(files).filter((name) => name.endsWith('.json'));
  return { response, files, json: jsonName ? JSON.parse(strFromU8(files[jsonName]!)) : undefined };
}

test('an event is exported whole: what the page shows of it, and every picture that it names', async () => {
  const { id } = await anEvent();
  const { response, files, json } = await unzipped(`/api/events/${id}/export`);
  expect(response.headers.get('content-disposition')).toMatch(/^attachment; filename=someone-comes-in-\d{4}-\d\d-\d\d\.zip$/);
  const shown = (await stations.ask('GET', `/api/events/${id}`)).body;
  const [event] = json.events;
  expect(event).toMatchObject({ id, at: shown.at, ruleName: shown.ruleName, trails: shown.trails, path: shown.path });
  const held = new Set(Object.values(await filesOf(stations, id)));
  expect(Object.keys(files).filter((name) => name.startsWith('pictures/'))).toHaveLength(held.size);
  const picture = shown.picture.slice('/pictures/'.length);
  expect(Buffer.from(files[event.picture]!)).toEqual(await stations.record.media.read(picture));
  expect(event.snapshots.every((s: { picture: string }) => s.picture in files)).toBe(true);
});

test('a deleted event is gone with its pictures, alerts and jobs; what a service said of it too, not what it cost', async () => {
  const { id, track } = await anEvent();
  const { record } = stations;
  const files = Object.values(await filesOf(stations, id));
  const sentRow = {
    at: 1,
    event: id,
    camera: 'gate',
    service: 's',
    model: 'm',
    why: 'w',
    pictures: [],
    serviceId: 's',
    use: 'descriptions',
    currency: 'EUR',
  };
  const number = await record.sent.going(sentRow as never);
  await record.sent.went(number, { ms: 5, outcome: 'answered', said: 'A person', tokensIn: 1, tokensOut: 1, cost: 0.5 });
  expect(await stations.ask('DELETE', `/api/events/${id}`)).toMatchObject({ status: 200, body: { id } });
  expect((await stations.ask('GET', `/api/events/${id}`)).status).toBe(404);
  expect((await stations.ask('DELETE', `/api/events/${id}`)).status).toBe(404);
  const { alerts, outbox, trails, media, tracks, sent } = record.tables;
  expect(await Promise.all([alerts.count(), outbox.count(), media.count()])).toEqual([0, 0, 0]);
  expect(await trails.count({ where: { track: track! } })).toBe(0);
  expect(await tracks.count({ where: { id: track! } })).toBe(0);
  expect(files.filter((name) => record.media.file(name))).toEqual([]);
  expect(await sent.findByPk(number, { raw: true })).toMatchObject({ event: null, said: null, cost: 0.5 });
  const [line] = await record.logbook.newest(1);
  expect(line).toMatchObject({ who: 'Wren', what: 'deleted an event of Someone comes in at Gate', event: null });
});

test('what is still made for an event that was deleted meanwhile leaves nothing behind', async () => {
  await stations.ask('PUT', '/api/areas/yard/mode', { mode: 'shut' });
  await walkIn(stations);
  const event = await until(async () => (await stations.record.tables.events.findOne({ raw: true })) ?? undefined);
  await stations.ask('DELETE', `/api/events/${event.id}`);
  // Its track goes on, and ends with better pictures and a clip.
  await walkIn(stations, 400);
  stations.tracking.commit(stations.follow.stop(stations.clock.now() + 5000));
  await stations.persist.close();
  expect(await stations.record.tables.events.count()).toBe(0);
  expect(await stations.record.tables.media.count({ where: { holder: 'event' } })).toBe(0);
});

test('a day of a camera is exported and deleted; other days and cameras stay', async () => {
  const { id } = await anEvent();
  const { record, site } = stations;
  const zone = site.file.site.timezone;
  const today = dateText(wallTime(zone, stations.clock.now()).day);
  const row = (await record.tables.tracks.findOne({ raw: true }))!;
  // More than one page of filtered-out tracks today, and some on another day and at another camera.
  const day = 24 * 3_600_000;
  const more = (n: number, values: object) =>
    Array.from({ length: n }, () => ({ ...row, id: randomUUID(), hasEvent: false, path: [], pictureBox: null, ...values }));
  await record.tables.tracks.bulkCreate([
    ...more(450, {}),
    ...more(3, { firstSeen: row.firstSeen - 3 * day, lastSeen: row.lastSeen - 3 * day }),
    ...more(2, { camera: 'side' }),
  ]);
  const { json, files } = await unzipped(`/api/cameras/gate/stored-data/export?day=${today}`);
  expect(json).toMatchObject({ camera: { id: 'gate', name: 'Gate' }, site: { timezone: zone } });
  expect([json.events.length, json.filteredOut.length]).toEqual([1, 450]);
  expect(new Set(json.filteredOut.map((t: { id: string }) => t.id)).size).toBe(450);
  expect(Object.keys(files).filter((name) => name.endsWith('.jpg')).length).toBeGreaterThanOrEqual(4);
  const asked = `/api/cameras/gate/stored-data?day=${today}`;
  expect((await stations.ask('GET', asked)).body).toMatchObject({ tracks: 451, events: 1 });
  expect((await stations.ask('DELETE', asked)).body).toMatchObject({ tracks: 451, events: 1 });
  expect(await record.past.stored('gate', always)).toMatchObject({ tracks: 3, events: 0 });
  expect(await record.past.stored('side', always)).toMatchObject({ tracks: 2 });
  expect((await stations.ask('GET', `/api/events/${id}`)).status).toBe(404);
  for (const wrong of ['2026-02-30', '2026-13-01', '1'])
    expect((await stations.ask('DELETE', `/api/cameras/gate/stored-data?day=${wrong}`)).status).toBe(400);
});

test('a person’s data: to themselves and to owners; deleted, their alerts are gone and their name with them', async () => {
  const { id } = await anEvent();
  const { record } = stations;
  const sam = await signInSam();
  await until(async () => ((await record.tables.alerts.count({ where: { state: 'waiting' } })) === 0 ? true : undefined));
  const alert = { id: randomUUID(), event: id, channel: 'push' as const, why: null, sentAt: 5, combinedInto: null, madeAtMachine: 5 };
  await record.write((transaction) =>
    record.alerts.add(
      [
        { ...alert, person: 'sam', state: 'sent', inSummary: false },
        { ...alert, id: randomUUID(), person: 'sam', state: 'suppressed', inSummary: true },
      ],
      transaction,
    ),
  );
  await stations.ask('GET', `/api/events/${id}`, undefined, { cookie: sam });
  await stations.ask('PUT', `/api/events/${id}/mark`, { mark: 'useful' }, { cookie: sam });
  const path = '/api/people/sam/stored-data';
  expect((await stations.ask('GET', path)).body).toMatchObject({ alerts: 1, views: 1, logbook: 1 });
  const { json, files } = await unzipped(`${path}/export`, sam);
  expect(json.person).toMatchObject({ id: 'sam', name: 'Sam' });
  expect(json.events).toHaveLength(1);
  expect(json.events[0].alerts.map((a: { state: string }) => a.state).sort()).toEqual(['sent', 'suppressed']);
  expect(json.events[0].picture in files).toBe(true);
  expect(json.logbook.map((l: { what: string }) => l.what)).toContain('marked an event as useful');
  expect(JSON.stringify(json)).not.toContain('assword');
  // Not of others, and no deleting.
  for (const other of ['wren', 'nobody'])
    expect((await unzipped(`/api/people/${other}/stored-data/export`, sam)).response.status).toBe(404);
  expect((await stations.ask('DELETE', path, undefined, { cookie: sam })).status).toBe(403);
  expect((await stations.ask('DELETE', path)).status).toBe(200);
  // What waits for the morning's summary was not taken from them.
  expect((await record.tables.alerts.findAll({ where: { person: 'sam' }, raw: true })).map((a) => a.state)).toEqual(['suppressed']);
  const lines = await record.logbook.newest(20);
  expect(lines.filter((l) => l.who === 'Sam' || l.person === 'sam')).toEqual([]);
  expect(lines.find((l) => l.what === 'marked an event as useful')).toMatchObject({ who: 'someone', event: id });
});

test('whoever leaves in the middle of an export, or asks for one while it is deleted, holds up nothing', async () => {
  const { id } = await anEvent();
  const { record } = stations;
  const row = (await record.tables.tracks.findOne({ raw: true }))!;
  const many = Array.from({ length: 3000 }, () => ({ ...row, id: randomUUID(), hasEvent: false }));
  await record.tables.tracks.bulkCreate(many);
  const path = '/api/cameras/gate/stored-data/export';
  const leaving = new AbortController();
  const left = await fetch(stations.url + path, { headers: { cookie: stations.cookie }, signal: leaving.signal });
  leaving.abort();
  await expect(left.arrayBuffer()).rejects.toThrow(/abort/);
  const [{ json }] = await Promise.all([unzipped(path), stations.ask('DELETE', `/api/events/${id}`)]);
  expect(json.filteredOut).toHaveLength(3000);
  expect(stations.failures.problems()).toEqual([]);
});

test('who sees one camera exports nothing of another', async () => {
  const { id } = await anEvent();
  await stations.site.edit([[['people', 'sam', 'access'], { cameras: ['side'] }]], { by: theProgram('Test'), what: 'narrowed' });
  const sam = await signInSam();
  expect((await unzipped(`/api/events/${id}/export`, sam)).response.status).toBe(404);
  expect((await unzipped(`/api/events/${id}/export`)).response.status).toBe(200);
});
