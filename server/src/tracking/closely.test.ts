// A full picture is fetched while someone is there of whom something is asked closely; it counts among the pictures of the track by its pixels, and
// what is not known yet is asked once more with it.

import sharp from 'sharp';
import type { Box } from '@nibber/core/boxes';
import { testDescriber } from '../testing/describers';
import { listener } from '../testing/listener';
import { filesOf, greyJpeg, peopledYard, sighting, testStations, until, type TestStations } from '../testing/stations';
import { sizeOf } from '../media/small';
import { lookClosely } from './closely';

const ends: (() => unknown)[] = [];
afterEach(async () => {
  for (const end of ends.splice(0).reverse()) await end();
});

const asking = peopledYard.replace(
  'message: { picture: true, description: true }',
  'message: { picture: true, description: true, prompt: { fields: [{ name: colour, kind: text }, { name: plate, kind: plate }] } }',
);

type Still = { readonly status?: number; readonly width?: number };

/** A place whose camera gives a still when it is asked; what the detector sees in it is said by hand. */
async function place({
  site = asking,
  still = {},
  found = [0.41, 0.36, 0.06, 0.2] as Box | null,
  describer,
}: { site?: string; still?: Still; found?: Box | null; describer?: string } = {}) {
  let asked = 0;
  const { status = 200, width = 1280 } = still;
  const full = await sharp({ create: { width, height: (width * 9) / 16, channels: 3, background: '#335577' } })
    .jpeg()
    .toBuffer();
  const camera = await listener((_request, response) => {
    asked++;
    response.writeHead(status, { 'content-type': 'image/jpeg' }).end(full);
  });
  ends.push(camera.close);
  const stations = await testStations({
    site: site.replace(/(low: [^,}\n]+)/, `$1, full: "${camera.url}/full.jpg"`),
    ...(describer ? { describer, ownServices: [new URL(describer).origin] } : {}),
  });
  ends.push(stations.end);
  await stations.ask('PUT', '/api/areas/yard/mode', { mode: 'shut' });
  // Its clock is read once, from the same address.
  await until(() => asked > 0);
  asked = 0;
  let looks = 0;
  lookClosely(stations, stations.follow, stations.tracking, {
    look: async () => {
      looks++;
      return { kind: 'found', milliseconds: 1, sightings: found ? [{ class: 'person', score: 0.9, box: found, quality: 1 }] : [] };
    },
  });
  return { stations, asked: () => asked, looks: () => looks };
}

/** Someone comes into the yard, picture by picture; between two of them what is under way comes to its end. */
async function walk(stations: TestStations, between: () => Promise<unknown> = async () => {}): Promise<void> {
  const jpeg = await greyJpeg();
  const now = stations.clock.now();
  for (const [i, feet] of [0.5, 0.5, 0.53, 0.62, 0.66].entries()) {
    const seen = sighting(jpeg, now + i * 200, feet);
    stations.bus.publish('picture', { picture: seen.picture, cells: undefined });
    stations.bus.publish('watched', seen);
    if (i === 2) await between();
  }
}

test('the event has the full picture, though the stream is small', async () => {
  const { stations, looks, asked } = await place();
  await walk(stations, () => until(() => looks() > 0));
  const event = await until(async () => (await stations.record.tables.events.findAll())[0]);
  const { picture } = await filesOf(stations, event.id);
  expect((await sizeOf(await stations.record.media.read(picture!))).width).toBe(1280);
  expect(event.pictureBox![0]).toBeCloseTo(0.41, 2);
  expect(asked()).toBe(1);
});

test('a picture that is already alerted is replaced, and whoever was told is not left with the small one', async () => {
  const { stations, looks } = await place();
  await walk(stations);
  const event = await until(async () => (await stations.record.tables.events.findAll())[0]);
  await until(() => looks() > 0);
  await until(async () => {
    const { picture } = await filesOf(stations, event.id);
    return (await sizeOf(await stations.record.media.read(picture!))).width === 1280;
  });
});

test.each<[string, Parameters<typeof place>[0], number]>([
  ['nothing is asked closely', { site: peopledYard }, 0],
  ['the still is no larger than the stream', { still: { width: 320 } }, 1],
  ['the camera refuses', { still: { status: 503 } }, 1],
  ['nobody is found in it', { found: null }, 1],
  ['somebody else is found in it', { found: [0.8, 0.1, 0.05, 0.2] }, 1],
])('the event keeps the picture of the stream where %s', async (_why, given, times) => {
  const { stations, asked } = await place(given);
  await walk(stations, () => (times ? until(() => asked() > 0) : Promise.resolve()));
  const event = await until(async () => (await stations.record.tables.events.findAll())[0]);
  const { picture } = await filesOf(stations, event.id);
  expect((await sizeOf(await stations.record.media.read(picture!))).width).toBe(320);
  expect(asked()).toBe(times);
});

test('a plate that was not sure is asked about once more when the track is over; what comes of it fills the first up', async () => {
  let asked = 0;
  const service = await testDescriber(() => ({
    content: JSON.stringify(
      asked++ === 0 ? { sentence: 'A van.', colour: 'white', plate: '?K21RSH' } : { sentence: 'A van.', colour: null, plate: 'QK2?RSH' },
    ),
  }));
  ends.push(service.close);
  const { stations, looks } = await place({ describer: service.url });
  await walk(stations, () => until(() => looks() > 0));
  await until(async () => (await stations.record.tables.events.findAll())[0]);
  stations.wake();
  const first = await until(async () => (await stations.record.tables.events.findAll()).find((e) => e.description !== null));
  expect(first.description).toBe('A van. white · plate ?K21RSH');
  stations.bus.publish('reached', stations.clock.now() + 120_000);
  await until(async () => (await stations.record.tables.events.findAll()).find((e) => e.description === 'A van. white · plate QK21RSH'));
  expect(asked).toBe(2);
  // Further pictures of its track went along.
  const pictures = service.asked.map((a) => (a.messages[0]!.content as readonly unknown[]).length - 1);
  expect(pictures[1]).toBeGreaterThan(pictures[0]!);
});

test('a plate that was sure is not asked about again', async () => {
  const service = await testDescriber(() => ({ content: JSON.stringify({ sentence: 'A van.', colour: null, plate: 'QK21RSH' }) }));
  ends.push(service.close);
  const { stations, looks } = await place({ describer: service.url });
  await walk(stations, () => until(() => looks() > 0));
  await until(async () => (await stations.record.tables.events.findAll())[0]);
  stations.wake();
  await until(async () => (await stations.record.tables.events.findAll()).find((e) => e.description !== null));
  stations.bus.publish('reached', stations.clock.now() + 120_000);
  await until(
    async () =>
      (await stations.record.tables.outbox.findAll({ where: { kind: 'describe' } })).filter((j) => j.state === 'done').length === 2 ||
      undefined,
  );
  expect(service.asked).toHaveLength(1);
});
