import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { cameraEventSchema } from '@nibber/core/formats';
import { siteSchema } from '@nibber/core/site';
import { yardText } from '@nibber/core/testing';
import { machineClock } from '../base/clock';
import { openRecord } from '../db';
import { openAccess } from '../db/access';
import { openSiteBook } from '../db/site';

const folder = mkdtempSync(path.join(tmpdir(), 'nibber-commands-'));
const root = path.join(__dirname, '../../..');
const file = (name: string, text: string) => {
  writeFileSync(path.join(folder, name), text);
  return path.join(folder, name);
};
const run = (command: string, ...args: string[]) =>
  spawnSync(process.execPath, ['--import', 'tsx', `server/src/commands/${command}.ts`, ...args], {
    cwd: root,
    encoding: 'utf8',
    env: { ...process.env, NIBBER_DATA: path.join(folder, 'data') },
  });
const site = file('site.yaml', yardText);
const seen = (at: string, track: string | undefined, feet: number, more: object = {}) =>
  JSON.stringify({
    at: `2026-06-01T${at}Z`,
    camera: 'gate',
    objects: [{ class: 'person', score: 0.83, box: [0.41, feet - 0.16, 0.05, 0.16], ...(track ? { track } : {}), ...more }],
  });

test('replay gives the events and trails worked out by hand', () => {
  // 7 goes from the lane into the yard at 21:03:04 while shut. 8 is a dog. 9 does the same as 7 a minute later, inside the rest of
  // five minutes. A fourth, without an id, starts in the yard. All of it on a Monday evening, inside closing time.
  const detections = file(
    'evening.ndjson',
    [
      '{"at":"2026-06-01T21:00:00.000Z","area":"yard","mode":"shut"}',
      seen('21:03:02.000', '7', 0.5),
      seen('21:03:03.000', '7', 0.57),
      seen('21:03:04.000', '7', 0.61),
      seen('21:03:10.000', '8', 0.5, { class: 'dog' }),
      seen('21:04:02.000', '9', 0.5),
      seen('21:04:03.000', '9', 0.7),
      seen('21:10:00.000', undefined, 0.8),
      seen('21:10:01.000', undefined, 0.8),
    ].join('\n'),
  );
  const { stdout, stderr, status } = run('replay', '--site', site, '--detections', detections);
  expect([status, stderr]).toEqual([0, '']);
  const lines = stdout
    .trim()
    .split('\n')
    .map((l) => JSON.parse(l));
  expect(lines.filter((l) => l.kind === 'event')).toEqual([
    { kind: 'event', at: '2026-06-01T21:03:04.000Z', rule: 'comes-in', camera: 'gate', track: '7' },
  ]);
  expect(lines.filter((l) => l.kind === 'trail').map((l) => [l.track, l.stoppedAt])).toEqual([
    ['7', null],
    ['8', 'class'],
    ['9', 'repeat'],
    ['t4', 'behaviour'],
  ]);
});

test.each([
  ['a line that is not JSON', `${seen('21:03:02.000', '7', 0.5)}\n{oops`, /^line 2 is not JSON\. Allowed:/],
  [
    'a line out of order',
    `${seen('21:03:02.000', '7', 0.5)}\n${seen('21:03:01.000', '7', 0.5)}`,
    /^line 2, at 2026-06-01T21:03:01.000Z is before the line above it/,
  ],
  [
    'an unknown camera',
    seen('21:03:02.000', '7', 0.5).replace('gate', 'attic'),
    /^line 1, camera attic is not in the site file\. Allowed: gate, side/,
  ],
])('%s ends replay with its number, and nothing on standard output', (_name, text, words) => {
  const { stdout, stderr, status } = run('replay', '--site', site, '--detections', file('bad.ndjson', text));
  expect([status, stdout]).toEqual([1, '']);
  expect(stderr).toMatch(words);
});

test('site check: silence for a sound file, a line a fault for another', () => {
  expect(run('site', 'check', site)).toMatchObject({ status: 0, stdout: '' });
  const bad = run('site', 'check', file('bad.yaml', yardText.replace('to: yard', 'to: pond').replace('Europe/Lisbon', 'Nowhere')));
  expect(bad.status).toBe(1);
  expect(bad.stdout.trim().split('\n')).toEqual([
    expect.stringMatching(/^rules\/0\/behaviour\/to: pond is not a watched zone of gate; allowed: lane, yard$/),
    expect.stringMatching(/^site\/timezone: /),
  ]);
});

test('site diff says what changed, apply shows it first and changes nothing without --yes, export gives back what was applied', () => {
  const changed = file('changed.yaml', yardText.replace('confidence: 0.5', 'confidence: 0.6 # less noise'));
  expect(run('site', 'diff', site, changed)).toMatchObject({ status: 0, stdout: 'Rule Someone comes in: confidence 0.5 → 0.6\n' });
  expect(run('site', 'diff', site, site).stdout).toBe('No differences.\n');
  const shown = run('site', 'apply', changed);
  expect(shown).toMatchObject({ status: 0, stderr: 'Nothing was changed. Add --yes to apply it.\n' });
  expect(shown.stdout).toContain('Camera Gate added');
  expect(run('site', 'export').stdout).not.toContain('Someone comes in');
  expect(run('site', 'apply', changed, '--yes')).toMatchObject({ status: 0 });
  expect(run('site', 'export').stdout).toBe(readFileSync(changed, 'utf8'));
  expect(run('site', 'apply', changed).stdout).toBe('No differences.\n');
  expect(run('site', 'apply')).toMatchObject({ status: 1, stderr: expect.stringMatching(/^Use: /) });
});

test('replay --explain says of each track what a person would want to know', () => {
  const detections = file(
    'explained.ndjson',
    [
      '{"at":"2026-06-01T21:00:00.000Z","area":"yard","mode":"shut"}',
      seen('21:03:02.000', '7', 0.5),
      seen('21:03:04.000', '7', 0.7),
      seen('21:03:10.000', '8', 0.5, { class: 'dog' }),
    ].join('\n'),
  );
  const { stdout, status } = run('replay', '--site', site, '--detections', detections, '--explain');
  expect(status).toBe(0);
  expect(stdout).toContain('Gate, track 7: a person, Monday 22:03 to 22:03\n  Someone comes in: passed every gate.\n');
  expect(stdout).toContain('    passed   confidence  0.83; expected: at least 0.50\n');
  expect(stdout).toContain(
    'Gate, track 8: a dog, Monday 22:03 to 22:03\n  Someone comes in: stopped at class. It is a dog, not a person.\n',
  );
});

test('replay takes sensors and people too, and events of zones without a track', () => {
  const withSensor = yardText
    .replace('cameras:\n', 'sensors:\n  - { id: door, name: Door, area: yard, kind: door }\ncameras:\n')
    .replace(
      'rules:\n',
      'rules:\n  - { id: opened, name: Opened, cameras: [], classes: [], sensors: [door], behaviour: { kind: reports, states: [open] } }\n' +
        '  - { id: gone, name: Gone, cameras: [gate], classes: [person], behaviour: { kind: empty, zone: yard, seconds: 2 } }\n',
    );
  const detections = file(
    'sensors.ndjson',
    [
      '{"at":"2026-06-01T21:00:00.000Z","sensor":"door","state":"open"}',
      ...['00', '01', '02', '03'].map((s) => `{"at":"2026-06-01T21:01:${s}.000Z","camera":"gate","objects":[]}`),
    ].join('\n'),
  );
  const { stdout, stderr } = run('replay', '--site', file('sensors.yaml', withSensor), '--detections', detections);
  const lines = stdout
    .trim()
    .split('\n')
    .map((l) => JSON.parse(l));
  expect([stderr, lines]).toEqual([
    '',
    [
      { kind: 'event', at: '2026-06-01T21:00:00.000Z', rule: 'opened', sensor: 'door' },
      { kind: 'trail', rule: 'opened', sensor: 'door', stoppedAt: null, why: 'It passed every gate' },
      { kind: 'event', at: '2026-06-01T21:01:02.000Z', rule: 'gone', camera: 'gate', track: null },
    ],
  ]);
});

test('token prints a bearer token', () => {
  const { stdout, status } = run('token', '--role', 'owner');
  expect(status).toBe(0);
  expect(stdout).toMatch(/^[\w-]{43}\n$/);
  expect(run('token', '--role', 'king')).toMatchObject({
    status: 1,
    stderr: '--role king is unknown; allowed: installer, owner, member\n',
  });
});

test('account reset gives a new password, ends all sessions, and says so in the logbook', async () => {
  const opened = async () => {
    const record = await openRecord(path.join(folder, 'data'));
    const book = await openSiteBook(record, machineClock());
    return { record, book, access: openAccess(record, machineClock(), book) };
  };
  const before = await opened();
  await before.access.makeOwner({ name: 'Wren', password: 'an old password', code: before.access.setUpCode });
  const token = (await before.access.signIn('Wren', 'an old password', 'a phone'))!;
  await before.book.close();
  await before.record.close();

  const reset = (name: string) => run('account', 'reset', name);
  expect(reset('Nemo')).toMatchObject({ status: 1, stderr: 'Nemo is not one of the people: Wren.\n' });
  const { stdout, status } = reset('wren');
  expect(status).toBe(0);
  const [, password] = /^New password of Wren: ([A-Z2-9]{5}(?:-[A-Z2-9]{5}){3})$/m.exec(stdout)!;

  const after = await opened();
  expect(await after.access.visitor(token)).toBeUndefined();
  expect(await after.access.signIn('Wren', 'an old password', 'a phone')).toBeUndefined();
  expect(await after.access.signIn('Wren', password!, 'a phone')).toBeDefined();
  expect((await after.record.logbook.newest(1))[0]).toMatchObject({ who: 'The machine', what: 'reset the password of Wren' });
  await after.book.close();
  await after.record.close();
});

test('the schemas in docs/ are those that files and events are checked with', () => {
  const inDocs = (name: string) => JSON.parse(readFileSync(path.join(root, 'docs', name), 'utf8'));
  expect(inDocs('site.schema.json')).toEqual(siteSchema);
  expect(inDocs('camera-event.schema.json')).toEqual(cameraEventSchema);
});

test('a site file and a port that cannot be used end the start with a sentence', () => {
  const badFile = spawnSync(process.execPath, ['--import', 'tsx', 'server/src/commands/start.ts'], {
    cwd: root,
    encoding: 'utf8',
    env: { ...process.env, NIBBER_DATA: path.join(folder, 'other'), NIBBER_SITE: file('worse.yaml', 'nibber: 2\nsite: 5\n') },
  });
  expect(badFile.status).toBe(1);
  expect(badFile.stderr).toMatch(/^The site file cannot be used: .*site: is 5; allowed: a value of type object/);
});
