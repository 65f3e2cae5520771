import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { cameraEventSchema } from '@nibber/core/formats';
import { siteSchema } from '@nibber/core/site';
import { yardText } from '@nibber/core/testing';

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
    expect.stringMatching(/^rules\/0\/does\/to: pond is no watched zone of gate; allowed: lane, yard$/),
    expect.stringMatching(/^site\/timezone: /),
  ]);
});

test('token prints a bearer token', () => {
  const { stdout, status } = run('token', '--role', 'owner');
  expect(status).toBe(0);
  expect(stdout).toMatch(/^[\w-]{43}\n$/);
  expect(run('token', '--role', 'king')).toMatchObject({
    status: 1,
    stderr: '--role king is not known; allowed: installer, owner, member\n',
  });
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
    env: { ...process.env, NIBBER_DATA: path.join(folder, 'other'), NIBBER_SITE: file('worse.yaml', 'nibber: 1\nsite: 5\n') },
  });
  expect(badFile.status).toBe(1);
  expect(badFile.stderr).toMatch(/^The site file cannot be used: .*site: is 5; allowed: a value of type object/);
});
