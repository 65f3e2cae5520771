// A database of each step that has shipped is brought up to date: what stood in it is there afterwards, and can be asked for.

import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { once } from 'node:events';
import { copyFileSync, cpSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { build } from 'esbuild';
import { Sequelize } from 'sequelize';
import { openRecord } from '.';
import { migrate } from './migrations';
import { steps } from './steps';

const box = '[0.4,0.3,0.1,0.3]';
/** What each step could hold, as that version wrote it. */
const rowsOf: { readonly [step: string]: readonly string[] } = {
  '0001-first': [
    `INSERT INTO settings VALUES ('push keys', '{}'), ('newest plan picture', '${'d'.repeat(40)}.jpg')`,
    `INSERT INTO accounts VALUES ('a1', 'Wren', 'wren', 'owner', 'hash', 1)`,
    `INSERT INTO sessions (tokenHash, account, role, kind, expiresAtMachine) VALUES ('t1', 'a1', 'owner', 'browser', 9999999999999)`,
    `INSERT INTO tracks (id, camera, class, firstSeen, lastSeen, path, picture, pictureBox) VALUES ('k1', 'gate', 'person', 10, 20, '[[10,${box}]]', '${'a'.repeat(40)}.jpg', '${box}'), ('k2', 'gate', 'pet', 30, 40, '[[30,${box}]]', NULL, NULL), ('k3', 'gate', 'person', 50, 50, '[[50,[0,0,1,1]]]', '${'a'.repeat(40)}.jpg', '[0,0,1,1]')`,
    `INSERT INTO trails (track, rule, camera, lastSeen, stoppedAt, why, at, steps) VALUES ('k2', 'comes-in', 'gate', 40, 'class', 'It is a pet', 35, '[]')`,
    `INSERT INTO events (id, rule, ruleName, camera, area, track, at, class, box, pictureAt, pictureBox, picture, marked, crop, clip, clipFrom, steps, mark) VALUES ('e1', 'comes-in', 'Somebody', 'gate', 'yard', 'k1', 15, 'person', '${box}', 12, '${box}', '${'a'.repeat(40)}.jpg', '${'b'.repeat(40)}.jpg', '${'c'.repeat(40)}.jpg', '${'e'.repeat(40)}.mp4', 9, '[]', 'kept')`,
    `INSERT INTO events (id, rule, ruleName, camera, area, track, at, class, box, pictureAt, pictureBox, picture, marked, crop, steps) VALUES ('e2', 'empty', 'Nobody', 'gate', 'yard', 'k3', 50, 'person', '[0,0,1,1]', 50, '[0,0,1,1]', '${'a'.repeat(40)}.jpg', '${'b'.repeat(40)}.jpg', '${'c'.repeat(40)}.jpg', '[]')`,
    `INSERT INTO phones VALUES ('p1', 'wren', 'phone', 'https://push.example/1', 'x', 'y', 1, NULL)`,
    `INSERT INTO alerts VALUES ('l1', 'e1', 'wren', 'push', 'sent', NULL, 16)`,
    `INSERT INTO outbox (kind, event, alert, phone, attempts, nextAtMachine, state) VALUES ('alert', 'e1', 'l1', 'p1', 1, 0, 'done'), ('fill-in', 'e1', 'l1', 'p1', 0, 0, 'due'), ('describe', 'e2', NULL, NULL, 0, 0, 'due')`,
    `INSERT INTO logbook (at, who, what, event) VALUES (17, 'Wren', 'marked an event as kept', 'e1')`,
  ],
  '0002-threads': [`UPDATE events SET thread = 'yard person', joins = 0 WHERE id = 'e1'`],
  '0003-devices': [
    `INSERT INTO deliveries (id, camera, key, at, form, body, picture, understood, state) VALUES ('d1', 'porch', 'one', 60, 'json', '{}', '${'f'.repeat(40)}.jpg', 'a test', 'done')`,
  ],
  '0004-walk-tests': [
    `INSERT INTO walk_tests VALUES ('w1', 70, 80, 'Wren', '[{"kind":"rule","rule":"comes-in","expect":"fires","name":"S","cameras":["gate"],"grounds":"[\\"comes-in\\",{\\"kind\\":\\"goes\\",\\"either\\":true},[{\\"shown\\":{}}]]","result":{"state":"answered","at":75,"event":null,"picture":"${'9'.repeat(40)}.jpg"}}]')`,
  ],
  '0005-nothing-lost-nothing-twice': [`INSERT INTO set_aside (at, camera, what, why) VALUES (90, 'gate', 'an event', 'spoilt')`],
  '0006-who-may-come-in': [`UPDATE sessions SET label = 'Firefox, Linux'`],
  '0008-people-and-their-phones': [
    `INSERT INTO alerts (id, event, person, channel, state, joined, inSummary) VALUES ('l2', 'e2', 'sam', 'push', 'held', NULL, 1), ('l3', 'e2', 'wren', 'push', 'joined', 'l2', 0), ('l4', 'e2', 'wren', 'mail', 'handed over', NULL, 0)`,
    `INSERT INTO looks VALUES ('e1', 'wren', 100)`,
    `UPDATE events SET pictureBy = 'Wren', shots = '[{"at":12,"box":${box},"shows":0.5},{"at":14,"box":${box},"shows":0.75}]' WHERE id = 'e1'`,
    `INSERT INTO media (name, role, holder, holderId) VALUES ('${'8'.repeat(40)}.jpg', 'shot 1', 'event', 'e1')`,
    `INSERT INTO invitations (id, tokenHash, role, sees, madeBy, madeAtMachine, expiresAtMachine) VALUES ('i1', 'h1', 'guest', '{"areas":["yard"]}', 'Wren', 1, 2)`,
  ],
  '0009-what-can-be-asked-for': [
    `UPDATE events SET question = '{"words":"Is it the post?","unlessKnown":false,"tells":true,"answer":false,"known":null,"why":"no","seconds":1,"service":"Near","pictures":[]}' WHERE id = 'e1'`,
    `INSERT INTO taken (id, reading, camera, at, value, hasPicture) VALUES ('r1', 'canoes', 'gate', 95, '12', 0)`,
    `INSERT INTO wordings VALUES ('v1', 'comes-in', 90, 'Wren', '{"longest":80,"moments":2,"words":"Briefly."}'), ('v2', 'comes-in', 91, 'Wren', '{}')`,
    `INSERT INTO results (wording, event, service, at, fields, faults, seconds, pictures) VALUES ('v1', 'e1', 'near', 92, '{}', '["colour"]', 1.5, '[]')`,
  ],
  '0011-who-did-it': [
    `INSERT INTO site_versions (at, by, what, text, paths) VALUES (1, 'Wren', 'changed', 'nibber: 1', '["hours/closed"]')`,
  ],
};

async function databaseAt(step: string): Promise<string> {
  const folder = mkdtempSync(path.join(tmpdir(), 'nibber-step-'));
  const file = path.join(folder, 'nibber.sqlite');
  for (const { name } of steps) {
    await migrate(file, name);
    const sequelize = new Sequelize({ dialect: 'sqlite', storage: file, logging: false });
    for (const statement of rowsOf[name] ?? []) await sequelize.query(statement);
    await sequelize.close();
    if (name === step) break;
  }
  return folder;
}

test.each(steps.map((s) => s.name).slice(0, -1))('a database of %s is brought up, and loses nothing', async (step) => {
  const reached = (name: string) => steps.findIndex((s) => s.name === step) >= steps.findIndex((s) => s.name === name);
  const record = await openRecord(await databaseAt(step));
  const events = await record.events.page({ before: { at: 1000, id: '' }, max: 10 });
  expect(events.map((e) => [e.id, e.kind, e.ruleName, e.mark])).toEqual([
    ['e2', 'zone', 'Nobody', null],
    ['e1', 'track', 'Somebody', 'useful'],
  ]);
  const held = await record.media.of('event', ['e1', 'e2']);
  expect(held.get('e1')).toMatchObject({
    picture: { takenAt: 12 },
    marked: { name: `${'b'.repeat(40)}.jpg` },
    crop: {},
    clip: { name: `${'e'.repeat(40)}.mp4`, takenAt: 9 },
  });
  expect(Object.keys(held.get('e2')!).sort()).toEqual(['crop', 'marked', 'picture']);
  expect((await record.alerts.of(['e1']))[0]).toMatchObject({ person: 'wren', state: 'sent', sentAt: 16 });
  const quiet = await record.tracks.quietPage({ before: { at: 1000, id: '' }, max: 10 });
  expect(quiet.map((t) => t.id)).toEqual(['k2']);
  expect(await record.tracks.trailsOf(['k2'])).toMatchObject([{ stoppedAt: 'class', why: 'It is a pet' }]);
  expect((await record.media.of('track', ['k1'])).get('k1')!.picture!.name).toBe(`${'a'.repeat(40)}.jpg`);
  expect((await record.jobs.next('push', 1, [], 9)).map((j) => [j.kind, j.target, j.lane])).toEqual([['fill-in', 'p1', 'push/p1']]);
  expect((await record.jobs.next('describe', 1, [], 9)).map((j) => j.lane)).toEqual(['describe/gate']);
  expect(await record.logbook.newest(5)).toMatchObject([{ event: 'e1' }]);
  expect((await record.tables.sessions.findAll())[0]!.id).toBeTruthy();
  if (reached('0003-devices')) expect((await record.media.of('delivery', ['d1'])).get('d1')!.picture!.takenAt).toBe(60);
  if (reached('0004-walk-tests'))
    expect((await record.media.of('walk test', ['w1'])).get('w1')!['item 0']!.name).toBe(`${'9'.repeat(40)}.jpg`);
  if (reached('0004-walk-tests'))
    expect((await record.tables.walkTests.findAll())[0]!.items).toMatchObject([
      { settingsHash: '["comes-in",{"kind":"goes","bothDirections":true},[{"orientation":{}}]]', result: { state: 'answered' } },
    ]);
  if (reached('0008-people-and-their-phones')) {
    const alerts = await record.alerts.of(['e2']);
    expect(alerts.map((a) => [a.id, a.state, a.combinedInto]).sort()).toEqual([
      ['l2', 'suppressed', null],
      ['l3', 'combined', 'l2'],
      ['l4', 'rerouted', null],
    ]);
    expect(await record.people.viewsOf(['e1'])).toEqual([{ event: 'e1', person: 'wren', at: 100 }]);
    const at = { box: JSON.parse(box) as number[] };
    expect(await record.events.find('e1')).toMatchObject({
      chosenBy: 'Wren',
      snapshots: [
        { at: 12, ...at, quality: 0.5 },
        { at: 14, ...at, quality: 0.75 },
      ],
    });
    expect((await record.media.of('event', ['e1'])).get('e1')!['snapshot 1']!.name).toBe(`${'8'.repeat(40)}.jpg`);
    expect((await record.tables.invitations.findAll())[0]!.access).toEqual({ areas: ['yard'] });
  }
  if (reached('0009-what-can-be-asked-for')) {
    expect((await record.events.find('e1'))!.question).toEqual({
      words: 'Is it the post?',
      unlessKnown: false,
      notifies: true,
      answer: false,
      known: null,
      why: 'no',
      seconds: 1,
      service: 'Near',
      pictures: [],
    });
    const versions = await record.promptTests.promptVersions('comes-in');
    expect(versions.map((v) => [v.id, v.prompt]).sort()).toEqual([
      ['v1', { maxCharacters: 80, closeUps: 2, words: 'Briefly.' }],
      ['v2', {}],
    ]);
    expect((await record.tables.results.findAll())[0]).toMatchObject({ promptVersion: 'v1', problems: ['colour'] });
    // The index of what can be asked for still follows the values, under their new name.
    const found = () => record.found.readings({ readings: ['canoes'], words: ['12'], from: null, to: null } as never, 'newest', 5);
    expect((await found()).ids).toEqual(['r1']);
    await record.readings.correct('r1', { corrected: 13, correctedBy: 'Wren' });
    expect((await found()).ids).toEqual([]);
  }
  if (reached('0011-who-did-it')) expect((await record.tables.siteVersions.findAll())[0]!.paths).toBeNull();
  expect(await record.tables.media.count({ where: { holder: 'plan' } })).toBe(1);
  // What refers to an event still does, and goes with it.
  await record.past.forget('gate', { from: 0, to: 1000 });
  expect([await record.alerts.of(['e1']), await record.tables.outbox.count()]).toEqual([[], 0]);
  await record.close();
});

test('a step that fails leaves the database as it was, and the next start takes it up', async () => {
  const folder = await databaseAt('0006-who-may-come-in');
  const file = path.join(folder, 'nibber.sqlite');
  const sequelize = new Sequelize({ dialect: 'sqlite', storage: file, logging: false });
  // The step makes a table of this name itself.
  await sequelize.query('CREATE TABLE events_of_kinds (x)');
  const spoilt = path.join(folder, 'spoilt');
  mkdirSync(spoilt);
  await sequelize.close();
  copyFileSync(file, path.join(spoilt, 'nibber.sqlite'));
  await expect(openRecord(spoilt)).rejects.toThrow(/events_of_kinds/);
  const mended = new Sequelize({ dialect: 'sqlite', storage: path.join(spoilt, 'nibber.sqlite'), logging: false });
  await mended.query('DROP TABLE events_of_kinds');
  await mended.close();
  const record = await openRecord(spoilt);
  expect((await record.events.find('e1'))?.track).toBe('k1');
  await record.close();
});

test('files that no one holds go once they are old, and bytes that were not counted are', async () => {
  const folder = await databaseAt('0006-who-may-come-in');
  for (const letter of ['a', '7']) {
    mkdirSync(path.join(folder, 'pictures', letter.repeat(2)), { recursive: true });
    writeFileSync(path.join(folder, 'pictures', letter.repeat(2), `${letter.repeat(40)}.jpg`), 'twelve bytes');
  }
  const record = await openRecord(folder);
  expect(
    await record.tables.tracks.findAll({
      attributes: ['id', 'stoppedAt', 'stoppedBy', 'why'],
      where: { id: ['k1', 'k2'] },
      order: ['id'],
      raw: true,
    }),
  ).toEqual([
    { id: 'k1', stoppedAt: null, stoppedBy: null, why: null },
    { id: 'k2', stoppedAt: 'class', stoppedBy: 'comes-in', why: 'It is a pet' },
  ]);
  expect(await record.media.tidy(new AbortController().signal)).toBe(0);
  expect((await record.media.held()).reduce((sum, h) => sum + h.bytes, 0)).toBe(12);
  const realNow = Date.now;
  Date.now = () => realNow() + 3600_000;
  expect(await record.media.tidy(new AbortController().signal)).toBe(1);
  Date.now = realNow;
  expect([record.media.file(`${'a'.repeat(40)}.jpg`) !== undefined, record.media.file(`${'7'.repeat(40)}.jpg`)]).toEqual([true, undefined]);
  await record.close();
});

/** What upgrades, put together into one file: forty of them begin in the time that a dozen take otherwise. */
const upgrading = path.join(__dirname, '../../../node_modules/.cache/nibber', `migrating-${process.pid}.cjs`);
beforeAll(() =>
  build({
    entryPoints: [path.join(__dirname, '../testing/migrating.ts')],
    bundle: true,
    platform: 'node',
    target: 'node20',
    external: ['sequelize', 'sqlite3', 'umzug'],
    outfile: upgrading,
    logLevel: 'error',
  }),
);
afterAll(() => rmSync(upgrading, { force: true }));

/** Upgrades in a process of its own, and kills it so long after it has begun. @returns how long it took, ms; undefined where it was killed */
async function upgradeKilled(folder: string, afterMs: number): Promise<number | undefined> {
  const child = spawn(process.execPath, [upgrading, path.join(folder, 'nibber.sqlite')], { stdio: ['ignore', 'pipe', 'inherit'] });
  let [from, took]: (number | undefined)[] = [];
  let timer: NodeJS.Timeout | undefined;
  child.stdout.on('data', (d: Buffer) => {
    const words = d.toString();
    if (words.includes('begun')) {
      from = performance.now();
      timer = setTimeout(() => child.kill('SIGKILL'), afterMs);
    }
    if (words.includes('done')) took = performance.now() - from!;
  });
  await once(child, 'close');
  clearTimeout(timer);
  return took;
}

test('an upgrade from any version that is killed is taken up where it was, forty times', async () => {
  const older = steps.map((s) => s.name).slice(0, -1);
  const whole = (await upgradeKilled(await databaseAt(older[0]!), 60_000))!;
  let killed = 0;
  for (let i = 0; killed < 40; i++) {
    const folder = mkdtempSync(path.join(tmpdir(), 'nibber-killed-'));
    cpSync(await databaseOnce(older[i % older.length]!), folder, { recursive: true });
    // Over all of the time that an upgrade from the first version takes, and again from where it was left.
    for (let at = ((i % 7) + 0.5) / 7; at > 0; at -= 0.4) if ((await upgradeKilled(folder, whole * at)) === undefined) killed++;
    const record = await openRecord(folder);
    expect((await record.events.find('e1'))?.track).toBe('k1');
    expect((await record.logbook.newest(5)).map((l) => l.event)).toEqual(['e1']);
    await record.close();
  }
}, 300_000);

const made = new Map<string, string>();
async function databaseOnce(step: string): Promise<string> {
  if (!made.has(step)) made.set(step, await databaseAt(step));
  return made.get(step)!;
}

/** Marks of the steps that have shipped: what builds them may change, they may not. */
const shipped: { readonly [step: string]: string } = {
  '0001-first': 'd36f21fb74374599',
  '0002-threads': '27a18d72bbc471d6',
  '0003-devices': 'd33521707f0482f8',
  '0004-walk-tests': 'e78a6647dc6b7309',
  '0005-nothing-lost-nothing-twice': 'b047d92a45c3a919',
  '0006-who-may-come-in': '6cd9a0064c5b0eef',
  '0007-kinds-of-events-and-who-holds-which-file': '38a40a70cef1aa60',
  '0008-people-and-their-phones': '0f60467b24554de8',
  '0009-what-can-be-asked-for': '7910afbee4eccf80',
  '0010-what-was-read-can-be-asked-for': '3c5fb7109b419214',
  '0011-who-did-it': '465257ded3e8dc95',
  '0012-plain-names': 'ff0f44bfaa0bd146',
  '0013-what-grows-old': '2ec5463ea0f068a4',
};

test('a step that has shipped never changes', () => {
  const marks = steps.map(({ name, statements }) => [
    name,
    createHash('sha256').update(JSON.stringify(statements)).digest('hex').slice(0, 16),
  ]);
  // A new step gets its mark when it ships.
  expect(Object.fromEntries(marks.filter(([name]) => name! in shipped))).toEqual(shipped);
});
