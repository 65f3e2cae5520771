import { appendFileSync, mkdtempSync, readdirSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { asRecorded } from '@nibber/core/recorded';
import { openDetections } from './detections';

const hour = 3_600_000;
const noon = Date.parse('2026-06-03T12:00:00Z');
const folderOf = () => mkdtempSync(path.join(tmpdir(), 'nibber-detections-'));
const frame = (at: number, camera = 'gate') =>
  asRecorded({ at, camera, objects: [{ class: 'person', score: 0.8, box: [0.4, 0.3, 0.1, 0.3] }], begins: 0.4 });
const framesIn = (found: ReturnType<ReturnType<typeof openDetections>['read']>) =>
  found.flatMap((e) => (e.kind === 'input' && e.input.kind === 'frame' ? [`${e.input.frame.camera} ${e.input.frame.at - noon}`] : []));

test('what was given is read back in its order, over cameras, hours and runs of the program', () => {
  const folder = folderOf();
  const first = openDetections(folder);
  first.note({ kind: 'site', at: noon, version: 3 });
  first.note({ kind: 'start', at: noon, modes: [['yard', 'open']], lasts: [] });
  first.frame(frame(noon + 10));
  first.frame(frame(noon + 5, 'porch'));
  first.frame(frame(noon + hour + 1));
  first.close();
  const second = openDetections(folder);
  second.note({ kind: 'start', at: noon + hour + 2, modes: [], lasts: [['comes-in gate', noon]] });
  second.frame(frame(noon + hour + 3));
  const all = second.read(noon, noon + 2 * hour);
  expect(framesIn(all)).toEqual(['gate 10', 'porch 5', `gate ${hour + 1}`, `gate ${hour + 3}`]);
  expect(all.map((e) => e.kind)).toEqual(['site', 'start', 'input', 'input', 'input', 'start', 'input']);
  expect(framesIn(second.read(noon, noon + hour, ['porch']))).toEqual(['porch 5']);
  // From the middle on it begins with how the sieve began that ran then.
  expect(second.read(noon + hour, noon + hour + 1).map((e) => e.kind)).toEqual(['site', 'start', 'input']);
  second.close();
});

test('a file with half a frame at its end, or a line that was cut off, is good up to there', () => {
  const folder = folderOf();
  const detections = openDetections(folder);
  detections.note({ kind: 'site', at: noon, version: 1 });
  detections.frame(frame(noon));
  detections.close();
  for (const lane of readdirSync(path.join(folder, 'detections')))
    for (const name of readdirSync(path.join(folder, 'detections', lane)))
      appendFileSync(path.join(folder, 'detections', lane, name), '\x20{"half');
  const again = openDetections(folder);
  again.frame(frame(noon + 1));
  expect(framesIn(again.read(noon, noon + hour))).toEqual(['gate 0', 'gate 1']);
  again.close();
});

test('the oldest hours go first, by days and by bytes; the hour that is being written stays', () => {
  const folder = folderOf();
  const write = (budget: { days: number; bytes: number }) => {
    const detections = openDetections(folder, budget);
    for (let h = 0; h < 60; h++) detections.frame(frame(noon + h * hour));
    return detections;
  };
  const byDays = write({ days: 1, bytes: 1e9 });
  byDays.tidy(noon + 59 * hour);
  expect(framesIn(byDays.read(0, noon + 99 * hour))).toHaveLength(25);
  byDays.close();
  const size = statSync(path.join(folder, 'detections', 'gate', readdirSync(path.join(folder, 'detections', 'gate')).at(-1)!)).size;
  const byBytes = openDetections(folder, { days: 99, bytes: 3 * size });
  byBytes.frame(frame(noon + 60 * hour));
  expect(byBytes.tidy(noon + 60 * hour)).toBeLessThanOrEqual(3 * size);
  expect(framesIn(byBytes.read(0, noon + 99 * hour))).toContain(`gate ${60 * hour}`);
  byBytes.close();
});

test('what a camera saw is deleted by the hour, that of others stays, and it goes on being recorded', () => {
  const detections = openDetections(folderOf());
  detections.frame(frame(noon));
  detections.frame(frame(noon, 'porch'));
  detections.frame(frame(noon + hour));
  detections.frame(frame(noon + 3 * hour));
  detections.forget('gate', { from: noon + hour + 1, to: noon + 2 * hour });
  expect(framesIn(detections.read(noon, noon + 4 * hour))).toEqual(['gate 0', 'porch 0', `gate ${3 * hour}`]);
  detections.forget('gate', { from: 0, to: noon + 9 * hour });
  detections.forget('nowhere', { from: 0, to: noon });
  detections.frame(frame(noon + 2));
  expect(framesIn(detections.read(noon, noon + hour))).toEqual(['porch 0', 'gate 2']);
  detections.close();
});
