import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { parseLine } from '@nibber/core/detections';
import { direct, figuresAt, newWorld } from '../stage/world';
import { asTaken, composer } from './compose';

const root = path.join(__dirname, '../../..');
const detect = (...args: string[]) =>
  spawnSync(process.execPath, ['--import', 'tsx', 'server/src/commands/detect.ts', ...args], { cwd: root, encoding: 'utf8' });

test('detect writes of a folder of pictures what replay reads: one person, one track, at the times asked for', async () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'nibber-detect-'));
  const yard = await composer('yard');
  const world = direct(newWorld(0, false), { kind: 'send', figure: 'ada', walk: 'lane-to-yard' }, 0);
  for (let i = 0; i < 6; i++) {
    const made = (await yard.compose(figuresAt(world, 7000 + i * 400), 'day', 960))!;
    writeFileSync(path.join(folder, `${i}.jpg`), await asTaken(made.pixels, 'day', i));
  }
  const { stdout, stderr, status } = detect('--images', folder, '--camera', 'yard', '--fps', '2.5', '--start', '2026-06-01T21:00:00Z');
  expect([status, stderr]).toEqual([0, '6 pictures, to 2026-06-01T21:00:02.000Z\n']);
  const frames = stdout
    .trim()
    .split('\n')
    .map((line, i) => parseLine(line, i + 1));
  expect(frames.map((f) => f.kind === 'frame' && (f.frame.at - Date.parse('2026-06-01T21:00:00Z')) / 400)).toEqual([0, 1, 2, 3, 4, 5]);
  const people = frames.flatMap((f) => (f.kind === 'frame' ? f.frame.objects.filter((o) => o.class === 'person') : []));
  expect(people.length).toBeGreaterThanOrEqual(4);
  expect(new Set(people.map((p) => p.track)).size).toBe(1);
});

test.each([
  [['--camera', 'c'], /Use either --video FILE or --images FOLDER/],
  [['--images', '/nowhere', '--camera', 'c'], /\/nowhere is not a folder/],
  [['--images', '.', '--camera', 'c', '--start', 'today'], /--start today is not a time; allowed: ISO 8601/],
  [['--images', '.', '--camera', 'c', '--fps', '0'], /--fps 0 is not allowed/],
  [['--pictures', '.'], /--pictures is unknown; allowed: --video/],
])('detect %j ends with a sentence', (args, words) => {
  const { status, stderr, stdout } = detect(...args);
  expect([status, stdout]).toEqual([1, '']);
  expect(stderr).toMatch(words);
});
