// What was not known of an event is asked about again as soon as there is a clearly better picture of it, and only then.

import sharp from 'sharp';
import { testDescriber } from '../../testing/describers';
import { peopledYard, sighting, testStations, until, type TestStations } from '../../testing/stations';

const ends: (() => unknown)[] = [];
afterEach(async () => {
  for (const end of ends.splice(0).reverse()) await end();
});

const site = peopledYard.replace(
  'message: { picture: true, description: true }',
  'message: { picture: true, description: true, prompt: { sentence: false, fields: [{ name: colour, kind: text }, { name: plate, kind: plate }] } }',
);
const said = (plate: string | null) => ({ content: JSON.stringify({ colour: 'white', plate }) });

/** Someone is seen, each time better than before. */
async function seen(answer: (n: number) => ReturnType<typeof said> | Promise<ReturnType<typeof said>>) {
  const describer = await testDescriber((_asked, n) => answer(n));
  const stations = await testStations({ describer: describer.url, site });
  ends.push(describer.close, stations.end);
  await stations.site.setMode('yard', 'shut', { name: 'Wren' });
  const start = stations.clock.now();
  const jpeg = (value: number) =>
    sharp({ create: { width: 320, height: 180, channels: 3, background: { r: value, g: value, b: value } } })
      .jpeg()
      .toBuffer();
  const see = async (i: number, feet: number, quality: number) => {
    const now = sighting(await jpeg(40 + i * 10), start + i * 200, feet);
    stations.bus.publish('watched', { ...now, sightings: now.sightings.map((s) => ({ ...s, quality })) });
  };
  for (const [i, feet] of [0.5, 0.5, 0.53, 0.62, 0.66].entries()) await see(i, feet, 1);
  const event = await until(() => anEvent(stations));
  const shows = (i: number) =>
    until(async () => {
      const held = (await stations.record.media.of('event', [event.id])).get(event.id);
      return held?.picture?.takenAt === start + i * 200 || undefined;
    });
  const says = (description: string) => until(async () => (await anEvent(stations))?.description === description || undefined);
  return { stations, describer, see, shows, says };
}
const anEvent = async ({ record }: TestStations) => (await record.tables.events.findAll({ raw: true }))[0];
const nothingDue = ({ record }: TestStations) =>
  until(async () => (await record.tables.outbox.count({ where: { kind: 'describe', state: 'due' } })) === 0 || undefined);

test('a plate that was not made out is asked about in a clearly better picture; one that is known is not', async () => {
  const { stations, describer, see, shows, says } = await seen((n) => said(n === 1 ? null : 'XK21 ABC'));
  await says('white');
  await see(5, 0.68, 3);
  await says('white · plate XK21ABC');
  await see(6, 0.7, 9);
  await shows(6);
  await nothingDue(stations);
  expect(describer.asked).toHaveLength(2);
});

test('a better picture that comes while the first is being asked about is asked about next', async () => {
  const better: { come?: () => Promise<unknown> } = {};
  const { stations, describer, see, shows, says } = await seen(async (n) => {
    if (n === 1) await (await until(() => better.come))();
    return said(n === 1 ? null : 'XK21 ABC');
  });
  better.come = async () => {
    await see(5, 0.68, 3);
    await shows(5);
  };
  await says('white · plate XK21ABC');
  await nothingDue(stations);
  expect(describer.asked).toHaveLength(2);
});
