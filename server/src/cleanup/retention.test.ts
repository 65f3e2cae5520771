// What is stored keeps to its days and the disk to its limits; what is useful outlives what is not.

import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { dayMs } from '@nibber/core/time';
import { openRecord, type Record } from '../db';
import { openRetention, type RetentionNeeds } from './retention';

const now = Date.parse('2026-06-03T12:00:00Z');
const stopNever = new AbortController().signal;
const events = 8000;
const spanDays = 100;
let folder: string;
let record: Record;
beforeEach(async () => {
  folder = mkdtempSync(path.join(tmpdir(), 'nibber-retention-'));
  record = await openRecord(folder);
});
afterEach(async () => {
  await record.close();
  rmSync(folder, { recursive: true, force: true });
});

/** One event every few minutes, with its track, a picture, a clip, an alert and a job; every tenth is useful, every second track has no event. */
async function fill(): Promise<void> {
  const n = `WITH RECURSIVE n(i) AS (SELECT 0 UNION ALL SELECT i + 1 FROM n WHERE i < ${events - 1})`;
  const at = `CAST(${now} - ${spanDays * dayMs} + i * ${(spanDays * dayMs) / events} AS INTEGER)`;
  const camera = `CASE i % 2 WHEN 0 THEN 'gate' ELSE 'side' END`;
  const hex = (role: string) => `printf('%039x', i) || '${role}'`;
  const statements = [
    `INSERT INTO tracks (id, camera, class, firstSeen, lastSeen, path, hasEvent, stoppedAt) ${n} SELECT 't' || i, ${camera}, 'person', ${at}, ${at}, '[]', 1, NULL FROM n`,
    `INSERT INTO tracks (id, camera, class, firstSeen, lastSeen, path, hasEvent, stoppedAt) ${n} SELECT 'q' || i, ${camera}, 'pet', ${at}, ${at}, '[]', 0, 'class' FROM n WHERE i % 2 = 0`,
    `INSERT INTO trails (track, rule, stoppedAt, why, at, steps) ${n} SELECT 'q' || i, 'r', 'class', 'a pet', ${at}, '[]' FROM n WHERE i % 2 = 0`,
    `INSERT INTO trails (track, rule, stoppedAt, why, at, steps) ${n} SELECT 't' || i, 'r', NULL, 'passed', ${at}, '[]' FROM n`,
    `INSERT INTO events (id, kind, rule, ruleName, camera, area, track, at, class, steps, mark) ${n} SELECT 'e' || i, 'track', 'r', 'R', ${camera}, 'yard', 't' || i, ${at}, 'person', '[]', CASE i % 10 WHEN 0 THEN 'useful' END FROM n`,
    `INSERT INTO alerts (id, event, person, channel, state, inSummary) ${n} SELECT 'a' || i, 'e' || i, 'wren', 'push', 'sent', 0 FROM n`,
    `INSERT INTO outbox (kind, event, alert, lane, attempts, nextAtMachine, state) ${n} SELECT 'alert', 'e' || i, 'a' || i, 'push/1', 1, ${at}, 'done' FROM n`,
    ...(['picture', 'clip'] as const).map(
      (role) =>
        `INSERT INTO media (name, role, holder, holderId, camera, takenAt, bytes) ${n} SELECT ${hex(role === 'clip' ? 'c' : 'a')} || '.${role === 'clip' ? 'mp4' : 'jpg'}', '${role}', 'event', 'e' || i, ${camera}, ${at}, 1000 FROM n`,
    ),
    `INSERT INTO deliveries (id, camera, key, at, form, body, understood, state) ${n} SELECT 'd' || i, 'porch', 'd' || i, ${at}, 'json', '{}', '', CASE i % 100 WHEN 0 THEN 'due' ELSE 'done' END FROM n WHERE i % 5 = 0`,
    `INSERT INTO logbook (at, who, what, event) ${n} SELECT ${at}, 'Wren', 'looked', 'e' || i FROM n WHERE i % 20 = 0`,
    `INSERT INTO site_versions (at, by, what, text) ${n} SELECT ${at}, 'Wren', 'changed', '' FROM n WHERE i < 40`,
  ];
  await record.write(async (transaction) => {
    for (const statement of statements) await record.sequelize.query(statement, { transaction });
  });
}

const needs = (retention: object, more: Partial<RetentionNeeds> = {}): RetentionNeeds => ({
  record,
  dataFolder: folder,
  site: { file: { retention } } as never,
  clock: { now: () => now, machine: () => now } as never,
  disk: async () => ({ total: 1e12, free: 9e11, used: 1e9 }),
  ...more,
});
const oldest = async (table: string, where = '1', column = 'at') => {
  const [rows] = await record.sequelize.query(`SELECT MIN(${column}) AS at, COUNT(*) AS n FROM ${table} WHERE ${where}`);
  const [row] = rows as { at: number | null; n: number }[];
  return { days: row!.at === null ? null : Math.round((now - row!.at) / dayMs), n: row!.n };
};

test('each kind keeps its days, a camera its own, what is useful longer; what is due and what an example rests on stays', async () => {
  await fill();
  await record.sequelize.query(`INSERT INTO examples VALUES ('r', 'e3', 0, '[]')`);
  const retention = openRetention(
    needs({
      days: {
        events: 50,
        usefulEvents: 80,
        filteredOut: 20,
        trails: 10,
        pictures: 30,
        clips: 5,
        deliveries: 7,
        logbook: 40,
        jobs: 14,
        siteVersions: 30,
      },
      cameras: [{ camera: 'side', days: { events: 25 } }],
    }),
  );
  const gone = await retention.byAge(stopNever);
  expect(gone.get('events')).toBeGreaterThan(4000);
  const notUseful = `mark IS NULL AND id <> 'e3'`;
  expect((await oldest('events', `camera = 'gate' AND ${notUseful}`)).days).toBe(50);
  expect((await oldest('events', `camera = 'side' AND ${notUseful}`)).days).toBe(25);
  expect((await oldest('events', `mark = 'useful'`)).days).toBe(80);
  expect((await oldest('events', `id = 'e3'`)).n).toBe(1);
  expect((await oldest('tracks', 'hasEvent = 0', 'lastSeen')).days).toBe(20);
  expect((await oldest('trails', `track LIKE 'q%'`)).days).toBe(10);
  const ofNotUseful = `holderId IN (SELECT id FROM events WHERE ${notUseful})`;
  expect((await oldest('media', `role = 'picture' AND ${ofNotUseful}`, 'takenAt')).days).toBe(30);
  expect((await oldest('media', `role = 'clip' AND ${ofNotUseful}`, 'takenAt')).days).toBe(5);
  expect((await oldest('media', `role = 'clip' AND holderId IN (SELECT id FROM events WHERE mark = 'useful')`, 'takenAt')).days).toBe(80);
  expect((await oldest('deliveries', `state = 'done'`)).days).toBe(7);
  expect((await oldest('deliveries', `state = 'due'`)).days).toBe(100);
  expect((await oldest('logbook', `who = 'Wren'`)).days).toBe(40);
  expect((await oldest('outbox', '1', 'nextAtMachine')).days).toBe(14);
  expect((await oldest('site_versions')).n).toBe(20);
  // Nothing points to what is gone.
  for (const [table, column, of] of [
    ['alerts', 'event', 'events'],
    ['outbox', 'event', 'events'],
    ['trails', 'track', 'tracks'],
    ['events', 'track', 'tracks'],
  ] as const)
    expect(
      (await oldest(table, `${column} NOT IN (SELECT id FROM ${of})`, column === 'event' && table === 'outbox' ? 'nextAtMachine' : `'0'`))
        .n,
    ).toBe(0);
  expect((await oldest('media', `holder = 'event' AND holderId NOT IN (SELECT id FROM events)`, 'takenAt')).n).toBe(0);
  expect((await oldest('logbook', `event IS NOT NULL AND event NOT IN (SELECT id FROM events)`)).n).toBe(0);
  const [noted] = await record.logbook.newest(1);
  expect(noted!.who).toBe('Cleanup');
  expect(noted!.what).toMatch(/^deleted \d+ events, \d+ useful events, .* clips.*: older than it is kept$/);
  // What lost its clip says why; asked again, nothing is left to do.
  const [without] = await record.tables.events.findAll({
    where: { camera: 'gate', mark: null as never },
    order: [['at', 'ASC']],
    limit: 1,
  });
  expect(without!.clipProblem).toBe('The clip was deleted: clips are kept for 5 days.');
  expect([...(await retention.byAge(stopNever)).values()].reduce((a, b) => a + b, 0)).toBe(0);
});

test('a clock that jumps ahead by years deletes nothing, and says so', async () => {
  await fill();
  const before = (await oldest('events')).n;
  let ahead = 0;
  const clock = { now: () => now + ahead, machine: () => now + ahead } as never;
  const retention = openRetention(
    needs(
      {
        days: {
          events: 120,
          logbook: 120,
          siteVersions: 200,
          usefulEvents: 120,
          filteredOut: 120,
          trails: 120,
          pictures: 120,
          clips: 120,
          deliveries: 120,
          jobs: 120,
        },
      },
      { clock },
    ),
  );
  await retention.byAge(stopNever);
  ahead = 900 * dayMs;
  expect([...(await retention.byAge(stopNever)).values()].every((n) => n === 0)).toBe(true);
  const again = openRetention(needs({}, { clock }));
  await again.byAge(stopNever);
  expect((await oldest('events', 'at > 0')).n).toBeGreaterThan(before * 0.85);
  expect(again.problems().map((p) => p.text)).toEqual([
    'The clock jumped ahead by 900 days. Stored data is deleted later than its age says',
  ]);
});

test('a disk that fills frees the least valuable first, the oldest of each, and no more than it must; nothing useful while anything else is left', async () => {
  await fill();
  const used = async () => ((await record.media.bytes()) / 1e3) * 1e3;
  const limit = 6e6;
  const disk = async () => ({ total: 100e9, free: 50e9, used: await used() });
  const retention = openRetention(needs({ maxDiskShare: limit / 100e9 }, { disk }));
  const gone = await retention.byPressure(stopNever, true);
  expect(await used()).toBeLessThanOrEqual(limit);
  expect(await used()).toBeGreaterThan(limit - 200e3);
  expect([...gone.keys()]).toEqual(['filteredOut', 'deliveries', 'clips', 'pictures']);
  expect((await oldest('media', `holderId IN (SELECT id FROM events WHERE mark = 'useful')`, 'takenAt')).n).toBe(events / 5);
  expect((await oldest('events')).n).toBe(events);
  expect(retention.problems().map((p) => p.text)).toEqual([
    'The disk was almost full. The oldest data was deleted early. Keep less, or use a larger disk',
  ]);
  // Still less room: events go next, and what is useful last.
  const tighter = openRetention(needs({ maxDiskShare: 0.4e6 / 100e9 }, { disk }));
  await tighter.byPressure(stopNever, true);
  expect(await used()).toBeLessThanOrEqual(0.4e6);
  expect((await oldest('events', 'mark IS NULL')).n).toBeLessThan(200);
  expect((await oldest('media', `role = 'picture'`, 'takenAt')).n).toBeGreaterThan(0);
  // Someone else fills the disk: what can go has gone, and it is said that this is not enough.
  const full = openRetention(needs({}, { disk: async () => ({ total: 100e9, free: 0, used: await used() }) }));
  await full.byPressure(stopNever, true);
  expect(full.problems()[0]!.text).toMatch(/nothing more of Nibber’s can be deleted/);
});

test('asked to stop, it stops after the batch that is under way; what is left goes the next time', async () => {
  await fill();
  const stop = new AbortController();
  const { batch } = record.aging;
  let batches = 0;
  Object.assign(record.aging, { batch: (...of: Parameters<typeof batch>) => (++batches === 3 && stop.abort(), batch(...of)) });
  const retention = openRetention(needs({ days: { events: 1, usefulEvents: 1 } }));
  await retention.byAge(stop.signal);
  expect(batches).toBe(3);
  expect((await oldest('events')).n).toBe(events - 300);
});

test('the forecast knows what comes in a day and what is held', async () => {
  await fill();
  const { forecast } = await openRetention(needs({ days: { pictures: 60, clips: 30 } })).state();
  // 80 events a day with two files of 1 kB each.
  expect(forecast.perDay / 160e3).toBeCloseTo(1, 1);
  expect(forecast.fullInDays).toBeUndefined();
});
