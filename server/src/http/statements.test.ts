// No statement goes through a whole table that grows: those of the start, of every route and of every task that runs by the clock are planned by
// SQLite (EXPLAIN QUERY PLAN, sqlite.org/eqp.html). Without statistics a plan does not depend on how many rows there are.

import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { QueryTypes } from 'sequelize';
import { log } from '../base/log';
import { openRetention } from '../cleanup/retention';
import { openRecord } from '../db';
import { fuzzApi } from '../testing/fuzzed';
import { until, walkIn, type TestStations } from '../testing/stations';

const tasks: (() => unknown)[] = [];
jest.mock('croner', () => ({
  Cron: class {
    constructor(_pattern: string, _options: object, work: () => unknown) {
      tasks.push(work);
    }
    stop() {}
  },
}));

const growing = [
  'tracks',
  'trails',
  'events',
  'alerts',
  'media',
  'outbox',
  'logbook',
  'views',
  'sent',
  'reading_values',
  'moments',
  'found',
];
/** Read by hand, in a thread of their own (db/long-reads). */
const sums = /SUM\(bytes\)|SUM\(COALESCE\(bytes/;

/** Indexes of what waits for something, which stay small; and one that a page is read from in its order. */
const small = /USING (COVERING )?INDEX (media_uncounted|alerts_kept_back|sent_with_pictures)\b/;

/** The index of words is asked for words (`M`: MATCH; sqlite.org/fts5.html). */
const byWords = /^SCAN found VIRTUAL TABLE INDEX \d+:M/;

/** What of a plan goes through a whole table, or its whole index; the first rows in the order of the table are found at once. */
const scansOf = (sql: string, plan: readonly { readonly detail: string }[]) =>
  plan
    .map((p) => p.detail)
    .filter((detail) => growing.some((table) => new RegExp(`^SCAN ${table}( |$)`).test(detail)))
    .filter((detail) => !small.test(detail) && !byWords.test(detail))
    .filter(() => !(/ LIMIT \d+;?$/.test(sql) && !/ WHERE /.test(sql) && !plan.some((p) => p.detail.includes('TEMP B-TREE'))));

/** What no request of the fuzzer comes to. */
async function everythingElse(stations: TestStations): Promise<void> {
  const { record, site, clock } = stations;
  await walkIn(stations, 60_000);
  stations.tracking.commit(stations.follow.stop(clock.now() + 90_000));
  const event = await until(async () => (await record.events.page({ before: { at: Number.MAX_SAFE_INTEGER, id: '' }, max: 1 }))[0]);
  for (const ask of [
    'camera=gate',
    'class=person',
    'camera=gate&class=pet',
    'show=notified',
    'show=stopped',
    `before=${event.at}.${event.id}`,
  ])
    await stations.ask('GET', `/api/events?${ask}`);
  for (const route of ['/api/storage', '/api/sieve', '/api/outgoing', '/api/people', '/api/logbook', `/api/events/${event.id}`])
    await stations.ask('GET', route);
  for (const route of ['/api/cameras/gate/stored-data', '/api/cameras/gate/stored-data/export', '/api/people/wren/stored-data/export'])
    await stations.ask('GET', route);
  // What runs in a thread of its own, asked here.
  const seen = { cameras: ['gate'], areas: ['yard'] };
  for (const part of [undefined, seen])
    await Promise.all([
      record.tracks.count(clock.now(), part),
      record.tracks.stopped(clock.now(), part),
      record.events.count(clock.now(), part),
      record.alerts.count(clock.now(), part),
      record.found.since(['gate'], part),
    ]);
  await record.past.stored('gate', { from: 0, to: clock.now() });
  await record.found.readings({ readings: ['canoes'], words: [], from: null, to: null }, 'newest', 3);
  const nothing = { kinds: [], cameras: [], areas: [], rules: [], sensors: [], words: [], from: null, to: null };
  for (const asked of [nothing, { ...nothing, kinds: ['person'], cameras: ['gate'] }, { ...nothing, words: ['red', 'x?'] }])
    await record.found.search(asked, 'newest', 3, seen);
  for (const task of tasks) await task();
  const disk = async () => ({ total: 100e9, free: 0, used: 99e9 });
  const retention = openRetention({ record, site, clock, dataFolder: '', disk });
  await retention.byAge(new AbortController().signal);
  await retention.byPressure(new AbortController().signal, true);
  await stations.ask('DELETE', `/api/events/${event.id}`);
  await stations.ask('DELETE', '/api/people/sam/stored-data');
  await stations.ask('DELETE', '/api/cameras/gate/stored-data');
}

test('no statement of a route, of the start or of a task goes through a whole table that grows', async () => {
  const statements = new Map<string, string>();
  jest.spyOn(log, 'trace').mockImplementation(((said: { sql?: string }) => {
    const sql = said.sql?.replace(/^Executing \([^)]*\): /, '');
    const shape = sql?.replace(/'(?:[^']|'')*'/g, '?').replace(/\b\d+\b/g, '?').replace(/\?(, ?\?)+/g, '?'); // prettier-ignore
    if (shape && /^(SELECT|UPDATE|DELETE|WITH|INSERT)/i.test(shape)) statements.set(shape, sql!);
  }) as never);
  await fuzzApi(600, 7, everythingElse);
  const folder = mkdtempSync(path.join(tmpdir(), 'nibber-plans-'));
  const record = await openRecord(folder);
  const found: string[] = [];
  for (const sql of statements.values()) {
    if (sums.test(sql)) continue;
    const plan = await record.sequelize.query<{ detail: string }>(`EXPLAIN QUERY PLAN ${sql}`, { type: QueryTypes.SELECT, logging: false });
    const scans = scansOf(sql, plan);
    if (scans.length > 0) found.push(`${scans.join(' · ')}: ${sql.slice(0, 400)}`);
  }
  await record.close();
  rmSync(folder, { recursive: true, force: true });
  expect(found).toEqual([]);
  // Everything was asked.
  expect(statements.size).toBeGreaterThan(140);
  expect(tasks).toHaveLength(9);
}, 600_000);
