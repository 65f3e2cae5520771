// The picture of an event is the best there is of it, unless someone chose another.

import sharp from 'sharp';
import type { Box } from '@nibber/core/boxes';
import { noticePicture } from '../media/drawings';
import { filesOf, sighting, testStations, until, type TestStations } from '../testing/stations';

let stations: TestStations;
beforeAll(async () => {
  stations = await testStations();
});
afterAll(() => stations.end());

const shade = (value: number) =>
  sharp({ create: { width: 320, height: 180, channels: 3, background: { r: value, g: value, b: value } } })
    .jpeg()
    .toBuffer();

test('a clearly better picture takes the place of the first; of a track a few are kept, and one may be chosen by hand', async () => {
  await stations.site.setMode('yard', 'shut', { name: 'Wren' });
  const start = stations.clock.now();
  const see = async (i: number, feet: number, quality: number) => {
    const seen = sighting(await shade(40 + i * 10), start + i * 200, feet);
    stations.bus.publish('watched', { ...seen, sightings: seen.sightings.map((s) => ({ ...s, quality })) });
  };
  for (const [i, feet] of [0.5, 0.5, 0.53, 0.62, 0.66].entries()) await see(i, feet, 1);
  const event = await until(async () => (await stations.record.tables.events.findOne()) ?? undefined);
  const first = (await filesOf(stations, event.id)).picture;
  // A little better is no reason to send it again.
  await see(5, 0.67, 1.4);
  await see(6, 0.68, 3);
  const takenAt = async () => (await stations.record.media.of('event', [event.id])).get(event.id)!.picture!.takenAt;
  await until(async () => ((await takenAt()) === start + 1200 ? true : undefined));
  const files = await filesOf(stations, event.id);
  expect(files.picture).not.toBe(first);
  // Whoever has the first one open, or is being told with it, still gets it.
  expect((await stations.ask('GET', `/pictures/${first}`)).status).toBe(200);
  await see(7, 0.69, 2);
  stations.bus.publish('reached', start + 600_000);
  const moment = await until(async () => {
    const { body } = await stations.ask('GET', `/api/events/${event.id}`);
    return body.snapshots.length ? body : undefined;
  });
  expect(moment.snapshots.length).toBeLessThanOrEqual(6);
  expect(moment.snapshots.filter((s: { isChosen: boolean }) => s.isChosen)).toMatchObject([{ at: start + 1200, quality: 3 }]);
  expect((await stations.ask('PUT', `/api/events/${event.id}/picture`, { snapshot: 0 })).status).toBe(200);
  const after = (await stations.ask('GET', `/api/events/${event.id}`)).body;
  expect([after.chosenBy, after.snapshots[0].isChosen, after.picture]).toEqual(['Wren', true, after.snapshots[0].picture]);
  expect((await stations.ask('PUT', `/api/events/${event.id}/picture`, { snapshot: 19 })).status).toBe(404);
});

test.each<[string, Box]>([
  ['small and far away', [0.48, 0.4, 0.02, 0.05]],
  ['in a corner', [0, 0.9, 0.1, 0.1]],
  ['as large as the picture', [0, 0, 1, 1]],
  ['half outside', [0.95, 0.5, 0.2, 0.4]],
])('what a notification shows is two to one, and holds the thing: %s', async (_name, box) => {
  const { width, height } = await sharp(await noticePicture(await shade(90), box, 'person')).metadata();
  expect(width! / height!).toBeCloseTo(2, 1);
  expect(width).toBeLessThanOrEqual(720);
  expect(width).toBeGreaterThan(100);
});
