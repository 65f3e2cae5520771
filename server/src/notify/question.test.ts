// A question before anyone is told: let go by yes, kept back by no, and never waited for longer than the rule says.

import sharp from 'sharp';
import { eventPictures, showBetter } from '../persist/pictures';
import { testDescriber, type Answering } from '../testing/describers';
import { listener, phoneKeys } from '../testing/listener';
import { filesOf, peopledYard, testStations, until, walkIn, type TestStations } from '../testing/stations';

const ends: (() => unknown)[] = [];
afterEach(async () => {
  for (const end of ends.splice(0).reverse()) await end();
});

async function phoneService() {
  const arrived: number[] = [];
  const service = await listener((_request, response) => {
    arrived.push(performance.now());
    response.writeHead(201).end();
  });
  ends.push(service.close);
  return { url: service.url, arrived };
}

/** A yard whose rule asks this before it tells, and a phone that is told. */
async function asking(question: string, answer: ((n: number) => Answering | Promise<Answering>) | undefined, more = '') {
  const phone = await phoneService();
  const describer = answer && (await testDescriber((_asked, n) => answer(n)));
  if (describer) ends.push(describer.close);
  const site = `${more}${peopledYard.replace('message: { picture: true, description: true }', `question: ${question}\n    message: { picture: true }`)}`;
  const stations = await testStations({ ...(describer ? { describer: describer.url } : {}), ownPushServices: [phone.url], site });
  ends.push(stations.end);
  await stations.ask('POST', '/api/phones', { label: 'Phone', endpoint: `${phone.url}/phone`, keys: phoneKeys() });
  await stations.ask('PUT', '/api/areas/yard/mode', { mode: 'shut' });
  const began = performance.now();
  await walkIn(stations);
  return { phone, describer, stations, began };
}
const decided = (stations: TestStations) =>
  until(async () =>
    (await stations.record.tables.events.findAll())
      .map((e) => e.get({ plain: true }))
      .find((e) => e.question && e.question.notifies !== null),
  );
const alertOf = async (stations: TestStations) => (await stations.record.tables.alerts.findAll()).map((a) => a.get({ plain: true }))[0]!;
const handle = (more: string) => `{ words: "Is somebody at the handle?", ${more} }`;

test('yes lets it go, at once; the answer stands with the pictures that were sent', async () => {
  const { phone, stations, began } = await asking(handle('seconds: 30, onTimeout: hold back'), () => ({ content: '{"the answer": true}' }));
  const event = await decided(stations);
  await until(() => phone.arrived.length || undefined);
  // Long before the thirty seconds are over.
  expect(phone.arrived[0]! - began).toBeLessThan(25_000);
  expect(event.question).toMatchObject({ notifies: true, answer: true, why: 'Is somebody at the handle? Yes', service: 'at-start' });
  const { body } = await stations.ask('GET', `/api/events/${event.id}`);
  expect(body.question).toMatchObject({ words: 'Is somebody at the handle?', notifies: true });
  const held = Object.values(await filesOf(stations, event.id)).map((name) => `/pictures/${name}`);
  expect(body.question.pictures).toHaveLength(2);
  expect(held).toEqual(expect.arrayContaining(body.question.pictures));
});

test('no keeps it back, with why, and no other channel takes it over', async () => {
  const { phone, stations } = await asking(handle('seconds: 30, onTimeout: send'), () => ({ content: '{"the answer": false}' }));
  await decided(stations);
  expect(await alertOf(stations)).toMatchObject({ state: 'suppressed', why: 'Is somebody at the handle? No' });
  expect((await stations.record.tables.outbox.findAll({ where: { kind: 'alert', state: 'due' } })).length).toBe(0);
  expect(phone.arrived).toEqual([]);
});

test('an answer that does not come in time is not waited for: sent anyway, once', async () => {
  const { phone, stations } = await asking(handle('seconds: 1, onTimeout: send'), () => ({
    content: '{"the answer": false}',
    afterMs: 4000,
  }));
  const event = await decided(stations);
  await until(() => phone.arrived.length || undefined);
  expect(event.question).toMatchObject({ notifies: true, answer: null });
  expect(await until(async () => ((await alertOf(stations)).state === 'sent' ? true : undefined))).toBe(true);
  expect(phone.arrived).toHaveLength(1);
});

test.each([
  ['a service that fails', 'hold back', () => ({ status: 500 }), false],
  ['rubbish', 'send', () => ({ content: 'As a boat, I would say so.' }), true],
  ['no service at all', 'send', undefined, true],
  ['no service at all', 'hold back', undefined, false],
] as const)('%s does at once what was chosen: %s', async (_name, onTimeout, answer, notifies) => {
  const { phone, stations } = await asking(handle(`seconds: 60, onTimeout: ${onTimeout}`), answer);
  expect((await decided(stations)).question).toMatchObject({ notifies, answer: null });
  if (notifies) await until(() => phone.arrived.length || undefined);
  else expect((await alertOf(stations)).state).toBe('suppressed');
});

test('of what is known no one is told', async () => {
  const known = 'known:\n  - { id: van, name: Our van, plate: XK21 ABC }\n';
  const { stations } = await asking(
    '{ unlessKnown: true, seconds: 20, onTimeout: send }',
    () => ({ content: '{"plate":"XK21A?C"}' }),
    known,
  );
  expect((await decided(stations)).question).toMatchObject({ notifies: false, known: 'Our van' });
  expect(await alertOf(stations)).toMatchObject({ state: 'suppressed', why: 'It is known: Our van' });
});

test('a plate that cannot be made out is asked about again in a better picture, and not without one', async () => {
  const known = 'known:\n  - { id: van, name: Our van, plate: XK21 ABC }\n';
  const place: { stations?: TestStations } = {};
  const ask = (n: number): Answering => ({ content: JSON.stringify({ plate: n === 1 ? null : 'XK21ABC' }) });
  const made = await asking(
    '{ unlessKnown: true, seconds: 30, onTimeout: send }',
    async (n) => {
      // While it is asked, or a little later, a better picture comes.
      if (n === 1) void until(() => place.stations).then(better);
      return ask(n);
    },
    known,
  );
  place.stations = made.stations;
  async function better({ record }: TestStations) {
    const event = await until(async () => (await record.tables.events.findAll())[0]);
    const jpeg = await sharp({ create: { width: 640, height: 360, channels: 3, background: '#224466' } })
      .jpeg()
      .toBuffer();
    await record.media.using(async (keep) => {
      const pictures = await eventPictures(keep, jpeg, [0.2, 0.2, 0.3, 0.4], 'person');
      await record.write(
        async (t) =>
          void (await showBetter(
            { record, channels: [], machine: 0 },
            event.id,
            pictures,
            { at: event.at + 500, box: [0.2, 0.2, 0.3, 0.4], by: null },
            t,
          )),
      );
    });
  }
  const event = await decided(made.stations);
  expect(event.question).toMatchObject({ notifies: false, known: 'Our van' });
  expect(made.describer!.asked).toHaveLength(2);
  // Both pictures that went stand with it.
  expect(event.question!.pictures.length).toBe(4);
});

test('without a better picture a plate that cannot be made out is no one\u2019s, some seconds later', async () => {
  const { stations, describer } = await asking(
    '{ unlessKnown: true, seconds: 30, onTimeout: send }',
    () => ({ content: '{"plate": null}' }),
    'known:\n  - { id: van, name: Our van, plate: XK21 ABC }\n',
  );
  expect((await decided(stations)).question).toMatchObject({ notifies: true, why: 'It is not known' });
  expect(describer!.asked).toHaveLength(1);
});
