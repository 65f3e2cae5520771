import { spawnSync } from 'node:child_process';
import { writeFileSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { greyJpeg, sighting, testStations, until, walkIn } from '../testing/stations';
import { startFollow } from '.';
import { clipPicturesASecond, encodeClip, hasFfmpeg, steady } from '../media/clip';
import { croppedPicture, markedPicture } from '../media/drawings';
import { openClipBuffer } from '../media/clip-buffer';
import { openBus } from '../base/bus';
import type { Change } from '../base/events';
import { throwing } from '../base/failures';

/** What a sieve let out, by kind. */
const recorder = () => {
  const changes: Change[] = [];
  const of = <K extends Change['kind']>(kind: K) => changes.filter((c): c is Extract<Change, { kind: K }> => c.kind === kind);
  return {
    take: (more: readonly Change[]) => void changes.push(...more),
    events: () => of('event').flatMap(({ event }) => ('thing' in event ? [event] : [])),
    tracks: () => of('track'),
  };
};

test('a track keeps its path and the picture that shows it best, and is told of once', async () => {
  const stations = await testStations();
  await stations.site.setMode('yard', 'shut', { name: 'Wren' });
  const kept = recorder();
  const follow = startFollow(stations.site, []);
  const jpeg = await greyJpeg();
  const shown = [1, 1, 5, 2, 1];
  [0.5, 0.52, 0.54, 0.62, 0.66].forEach((feet, i) => {
    const one = sighting(jpeg, 10_000 + i * 200, feet);
    kept.take(follow.watched({ ...one, sightings: one.sightings.map((s) => Object.assign(s, { quality: shown[i]! })) }));
  });
  expect(kept.events()).toHaveLength(1);
  expect(kept.events()[0]!.thing.best.picture.at).toBe(10_400);
  expect(follow.open('gate')).toHaveLength(1);
  kept.take(follow.stop(20_000));
  expect(kept.tracks()[0]!.thing.path.map(([at]) => at)).toEqual([10_200, 10_400, 10_600, 10_800]);
  expect(kept.tracks()[0]!.thing.id).toBe(kept.events()[0]!.thing.id);
  await stations.end();
});

test('a clock that is set back ends what is open and starts again; rests that lie in the future are forgotten', async () => {
  const stations = await testStations();
  await stations.site.setMode('yard', 'shut', { name: 'Wren' });
  const kept = recorder();
  const follow = startFollow(stations.site, [['comes-in gate', 900_000_000]]);
  const jpeg = await greyJpeg();
  const walk = (from: number) => [0.5, 0.52, 0.62].forEach((feet, i) => kept.take(follow.watched(sighting(jpeg, from + i * 200, feet))));
  walk(900_000_100);
  expect(kept.events()).toEqual([]);
  walk(500_000_000);
  expect(kept.tracks()[0]!.trails[0]!.stoppedAt).toBe('repeat');
  expect(kept.events().map((e) => e.at)).toEqual([500_000_400]);
  await stations.end();
});

test('an event that cannot be written is held and written later, and meanwhile it is said', async () => {
  const stations = await testStations();
  await stations.site.setMode('yard', 'shut', { name: 'Wren' });
  const { files } = stations.record;
  const keep = files.keep;
  let isFull = true;
  Object.assign(files, {
    keep: (...args: Parameters<typeof keep>) =>
      isFull ? Promise.reject(Object.assign(new Error('no space left'), { code: 'ENOSPC' })) : keep(...args),
  });
  await walkIn(stations);
  await until(() => stations.problems()[0]);
  expect(stations.problems().map((p) => p.text)).toEqual(['Data cannot be saved: no space left']);
  expect(await stations.record.tables.events.count()).toBe(0);
  isFull = false;
  await until(async () => (await stations.record.tables.events.count()) || undefined);
  expect(stations.problems().map((p) => p.text)).toEqual([]);
  await stations.end();
});

test('the last seconds are kept and older ones let go', () => {
  const recent = openClipBuffer(openBus(throwing));
  const heard: number[] = [];
  const stop = recent.onPicture('c', (p) => heard.push(p.at));
  const picture = (at: number) => ({
    camera: 'c',
    at,
    jpeg: Buffer.alloc(0),
    motion: { parts: [], share: 0, isLightChange: false },
    isInfrared: false,
  });
  for (let at = 0; at <= 10_000; at += 1000) recent.add(picture(at));
  stop();
  recent.add(picture(11_000));
  expect(recent.since('c', 0).map((p) => p.at)).toEqual([8000, 9000, 10_000, 11_000]);
  expect(recent.latest('c')!.at).toBe(11_000);
  expect(heard.at(-1)).toBe(10_000);
});

const snapshots = async (times: readonly number[]) => {
  const jpeg = await sharp({ create: { width: 322, height: 181, channels: 3, background: '#556677' } })
    .jpeg()
    .toBuffer();
  return times.map((at) => ({ camera: 'c', at, jpeg, motion: { parts: [], share: 0, isLightChange: false }, isInfrared: false }));
};

test('a clip runs at a steady rate whatever the camera did: a time is a place', async () => {
  const pictures = await snapshots([0, 190, 800, 1000]);
  expect(steady(pictures).map((p) => p.at)).toEqual([0, 190, 190, 190, 800, 1000]);
  expect(steady([])).toEqual([]);
});

test('a clip is what a media prober takes for a second of H.264', async () => {
  expect(hasFfmpeg()).toBe(true);
  const clip = await encodeClip(await snapshots([0, 200, 400, 600, 800]));
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'nibber-clip-')), 'clip.mp4');
  writeFileSync(file, clip);
  // Reference: ffprobe.
  const { stdout } = spawnSync(
    'ffprobe',
    ['-v', 'error', '-select_streams', 'v', '-show_entries', 'stream=codec_name,width,height,nb_frames,duration', '-of', 'json', file],
    { encoding: 'utf8' },
  );
  expect(JSON.parse(stdout).streams[0]).toMatchObject({ codec_name: 'h264', width: 322, height: 180, nb_frames: '5' });
  expect(Number(JSON.parse(stdout).streams[0].duration)).toBeCloseTo(5 / clipPicturesASecond, 2);
});

test('the mark lies around the thing, the crop holds it, and neither leaves the picture', async () => {
  const jpeg = await sharp({ create: { width: 640, height: 360, channels: 3, background: '#808080' } })
    .jpeg()
    .toBuffer();
  const box = [0.9, 0.5, 0.1, 0.4] as const;
  const marked = await sharp(await markedPicture(jpeg, box, 'person'))
    .raw()
    .toBuffer({ resolveWithObject: true });
  expect([marked.info.width, marked.info.height]).toEqual([640, 360]);
  const at = (x: number, y: number) => [...marked.data.subarray((y * 640 + x) * 3, (y * 640 + x) * 3 + 3)];
  const [r, g, b] = at(Math.floor(0.894 * 640), 250) as [number, number, number];
  expect([r < 140, g < 110, b > 110]).toEqual([true, true, true]); // aubergine
  expect(at(100, 100).every((v) => Math.abs(v - 128) < 6)).toBe(true);
  const { width, height } = await sharp(await croppedPicture(jpeg, box)).metadata();
  expect([width <= 96, height <= 216, width > 60, height > 140]).toEqual([true, true, true, true]);
});
