import sharp from 'sharp';
import { readSite } from '@nibber/core/check';
import { filesOf, greyJpeg, testStations, until, walkIn, type TestStations } from '../testing/stations';
import type { SafePicture } from '../base/picture';
import { holdMasks } from './masks';

let stations: TestStations;
beforeEach(async () => {
  stations = await testStations();
});
afterEach(() => stations.end());

const left = {
  id: 'left',
  name: 'Left half',
  purpose: 'privacy',
  polygon: [
    [0, 0],
    [0.5, 0],
    [0.5, 1],
    [0, 1],
  ],
};
const always = { from: 0, to: Number.MAX_SAFE_INTEGER };
const drawMask = async () => {
  const { body } = await stations.ask('GET', '/api/cameras/gate');
  return stations.ask('PUT', '/api/cameras/gate/drawings', { zones: [...body.zones, left], lines: body.lines });
};
const brightness = async (jpeg: Uint8Array, x: number) => {
  const { data, info } = await sharp(jpeg).raw().toBuffer({ resolveWithObject: true });
  return data[(Math.floor(info.height / 2) * info.width + Math.round(x * info.width)) * info.channels]!;
};
const picture = async (at: number): Promise<SafePicture> => ({
  camera: 'gate',
  at,
  jpeg: await greyJpeg(),
  motion: { parts: [], share: 0, isLightChange: false },
  isInfrared: false,
});

test('a mask holds for pictures that were taken before it was saved and are kept after, and no one is shown the old ones', async () => {
  const masks = holdMasks(stations.site, stations.clock, stations.recent.forget);
  const before = await picture(stations.clock.now());
  stations.recent.add(before);
  expect((await masks.upToDate(before)).jpeg).toBe(before.jpeg);
  expect((await drawMask()).status).toBe(200);
  expect(stations.recent.latest('gate')).toBeUndefined();
  const safe = await masks.upToDate(before);
  expect(await brightness(safe.jpeg, 0.25)).toBeLessThan(12);
  expect(await brightness(safe.jpeg, 0.75)).toBeGreaterThan(80);
  // Long after, pictures come with the mask in them already.
  const later = await picture(stations.clock.now() + 60_000);
  expect((await masks.upToDate(later)).jpeg).toBe(later.jpeg);
});

test('an event whose best picture is older than the mask is kept with the mask', async () => {
  await stations.ask('PUT', '/api/areas/yard/mode', { mode: 'shut' });
  const walk = walkIn(stations);
  await walk;
  await drawMask();
  stations.tracking.commit(stations.follow.stop(stations.clock.now() + 5000));
  const row = await until(async () => (await stations.record.tables.tracks.findOne()) ?? undefined);
  const ended = await until(async () => {
    const { picture: name } = await filesOf(stations, row.id, 'track');
    return (await brightness(await stations.record.media.read(name!), 0.25)) < 12 || undefined;
  });
  expect(ended).toBe(true);
});

test('what a camera saw before can be deleted, pictures and all, and the rest stays', async () => {
  await stations.ask('PUT', '/api/areas/yard/mode', { mode: 'shut' });
  await walkIn(stations);
  stations.tracking.commit(stations.follow.stop(stations.clock.now() + 5000));
  await until(async () => ((await stations.record.past.stored('gate', always)).events === 1 ? true : undefined));
  const event = (await stations.record.tables.events.findOne())!;
  await until(async () => ((await stations.record.tables.trails.count()) > 0 ? true : undefined));
  const files = Object.values(await filesOf(stations, event.id));
  // Four made of its picture, and what of the track can be chosen from.
  expect(files.length).toBeGreaterThanOrEqual(4);
  expect((await stations.ask('GET', '/api/cameras/gate/stored-data')).body).toMatchObject({ tracks: 1, events: 1 });
  expect(await stations.record.past.forget('side', always)).toMatchObject({ events: 0 });
  await stations.record.past.forget('gate', always);
  expect(await stations.record.past.stored('gate', always)).toEqual({ tracks: 0, events: 0, clips: 0, since: null });
  for (const name of files) expect(stations.record.media.file(name)).toBeUndefined();
  expect(await stations.record.tables.alerts.count()).toBe(0);
  expect(readSite(stations.site.text).ok).toBe(true);
});
