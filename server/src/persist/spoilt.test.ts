// What is spoilt, and what it must not hold up: other cameras, the next delivery, the end of the program.

import sharp from 'sharp';
import type { Box } from '@nibber/core/boxes';
import { filesOf, greyJpeg, peopledYard, sighting, testStations, until, walkIn, type TestStations } from '../testing/stations';
import { croppedPicture, markedPicture } from '../media/drawings';
import { inTurn } from '../base/in-turn';
import { sameId } from '../base/same-id';

const twoPorches = peopledYard.replace(
  'rules:',
  '  - { id: porch, name: Porch, area: yard, source: { kind: paired }, zones: [{ id: step, name: Step, purpose: watch, polygon: [[0, 0], [1, 0], [1, 1], [0, 1]] }] }\n  - { id: shed, name: Shed, area: yard, source: { kind: paired }, zones: [{ id: step, name: Step, purpose: watch, polygon: [[0, 0], [1, 0], [1, 1], [0, 1]] }] }\nrules:\n  - { id: caller, name: A caller, cameras: [porch, shed], classes: [person], behaviour: { kind: appears, zone: step }, notify: [{ to: owner, channel: push }] }',
);

let stations: TestStations;
const hooks: Record<string, string> = {};
beforeEach(async () => {
  stations = await testStations({ site: twoPorches });
  for (const id of ['porch', 'shed']) hooks[id] = new URL((await stations.ask('GET', `/api/cameras/${id}/pairing`)).body.url).pathname;
});
afterEach(() => stations.end());

const caller = (id: string, more: object = {}) =>
  JSON.stringify({
    id,
    at: new Date(stations.clock.now()).toISOString(),
    kind: 'seen',
    objects: [{ class: 'person', score: 0.9, box: [0.6, 0.4, 0.1, 0.3], track: id, ...more }],
  });
const send = async (camera: string, body: string | FormData) =>
  (
    await fetch(stations.url + hooks[camera]!, {
      method: 'POST',
      body,
      headers: typeof body === 'string' ? { 'content-type': 'application/json' } : {},
    })
  ).status;
const eventsOf = (camera: string) => stations.record.tables.events.count({ where: { camera } });
const hasEvents = (camera: string, n: number) => until(async () => ((await eventsOf(camera)) >= n ? true : undefined));

test.each<[string, Box]>([
  ['at the right edge', [0.999999, 0.5, 0.1, 0.2]],
  ['beyond it', [1, 0.2, 0.5, 0.5]],
  ['far out', [1.8, -0.9, 0.2, 0.2]],
  ['of no size', [0.5, 0.5, 0, 0]],
  ['at the lower edge', [0.3, 1, 0.2, 0.2]],
  ['over all of it', [-1, -1, 3, 3]],
])('a box %s is cut to the picture: it is marked and cropped all the same', async (_name, box) => {
  const jpeg = await greyJpeg();
  for (const made of [await markedPicture(jpeg, box, 'person'), await croppedPicture(jpeg, box)]) {
    const { width, height } = await sharp(made).metadata();
    expect([width > 0, height > 0]).toEqual([true, true]);
  }
});

test('a box over the edge holds up no one: its own event and that of the next camera are kept', async () => {
  expect(await send('porch', caller('edge', { box: [0.985, 0.5, 0.02, 0.5] }))).toBe(202);
  expect(await send('shed', caller('after'))).toBe(202);
  await Promise.all([hasEvents('porch', 1), hasEvents('shed', 1)]);
  expect(stations.problems().map((p) => p.text)).toEqual([]);
});

test('a JPEG with a sound head and a broken body is refused, and what comes after it is not', async () => {
  const whole = await sharp({
    create: { width: 640, height: 360, channels: 3, background: '#446688', noise: { type: 'gaussian', mean: 128, sigma: 40 } },
  })
    .jpeg()
    .toBuffer();
  const form = new FormData();
  form.set('event', new Blob([caller('broken')], { type: 'application/json' }), 'event.json');
  const half = Buffer.concat([whole.subarray(0, whole.length >> 1), Buffer.from([0xff, 0xd9])]);
  form.set('shot', new Blob([new Uint8Array(half)], { type: 'image/jpeg' }), 'shot.jpg');
  expect(await send('porch', form)).toBe(400);
  expect(await send('porch', caller('next'))).toBe(202);
  await hasEvents('porch', 1);
});

test('a picture that got lost is done without, and a delivery that cannot be understood is set aside with its reason', async () => {
  const { deliveries } = stations.record.tables;
  const row = { camera: 'porch', form: 'json' as const, understood: '', state: 'due' as const };
  await deliveries.create({
    ...row,
    id: 'lost',
    key: 'lost',
    at: stations.clock.now(),
    body: caller('lost'),
  });
  await stations.record.tables.media.create({
    name: `${'a'.repeat(40)}.jpg`,
    role: 'picture',
    holder: 'delivery',
    holderId: 'lost',
    camera: 'porch',
    takenAt: 1,
    bytes: 1,
  });
  await deliveries.create({ ...row, id: 'odd', key: 'odd', at: stations.clock.now(), body: '{' });
  stations.deliveries.wake('porch');
  await hasEvents('porch', 1);
  const odd = await until(async () => (await deliveries.findOne({ where: { id: 'odd', state: 'set-aside' } })) ?? undefined);
  expect(odd.why).toMatch(/not JSON/);
  expect(await send('porch', caller('next'))).toBe(202);
  await hasEvents('porch', 2);
});

test('a delivery on which the sieve fails each time is set aside after a few attempts, with a problem on Now; the next ones go through', async () => {
  const { deliveries } = stations.record.tables;
  const { delivered } = stations.follow;
  Object.assign(stations.follow, {
    delivered: (...of: Parameters<typeof delivered>) => {
      if (of[0].delivery === 'bad') throw new Error('no such number');
      return delivered(...of);
    },
  });
  const row = { camera: 'porch', form: 'json' as const, understood: '', state: 'due' as const, at: stations.clock.now() };
  await deliveries.create({ ...row, id: 'bad', key: 'bad', body: caller('bad') });
  stations.deliveries.wake('porch');
  expect(await send('porch', caller('good'))).toBe(202);
  await hasEvents('porch', 1);
  expect(await deliveries.findByPk('bad')).toMatchObject({ state: 'set-aside', why: 'no such number' });
  expect(stations.problems().map((p) => p.text)).toEqual(['Deliveries failed 1 time: no such number. Restart Nibber if this continues.']);
});

test('a listener that throws stops no event, and is a problem on Now', async () => {
  stations.bus.on('stored', 'Clips', () => {
    throw new Error('no room');
  });
  expect(await send('porch', caller('a'))).toBe(202);
  await hasEvents('porch', 1);
  expect(stations.problems().map((p) => p.text)).toEqual([expect.stringMatching(/^Clips failed \d+ times?: no room\. Restart Nibber/)]);
});

test('an event whose picture cannot be read is kept with a drawn one, and what the database refuses is set aside and said; others go on', async () => {
  await stations.site.setMode('yard', 'shut', { name: 'Wren' });
  const now = stations.clock.now();
  const broken = Buffer.from('not a picture at all');
  [0.5, 0.5, 0.53, 0.62, 0.66].forEach((feet, i) => stations.bus.publish('watched', sighting(broken, now + i * 200, feet)));
  await until(async () => ((await eventsOf('gate')) === 1 ? true : undefined));
  const event = (await stations.record.tables.events.findOne())!;
  expect((await sharp(await stations.record.media.read((await filesOf(stations, event.id)).picture!)).metadata()).width).toBe(960);

  const { events } = stations.record.tables;
  const create = events.create;
  Object.assign(events, {
    create: (values: { camera: string }, ...rest: never[]) =>
      values.camera === 'porch'
        ? Promise.reject(new Error('it is against the rules'))
        : (create as never as (...a: unknown[]) => unknown).call(events, values, ...rest),
  });
  await send('porch', caller('refused'));
  await send('shed', caller('fine'));
  await hasEvents('shed', 1);
  await until(() => stations.problems()[0]);
  expect(stations.problems().map((p) => p.text)).toEqual(['One item of Porch could not be saved: it is against the rules']);
  const row = await until(
    async () => (await stations.record.tables.deliveries.findOne({ where: { camera: 'porch', state: 'set-aside' } })) ?? undefined,
  );
  expect(row.why).toBe('it is against the rules');
  expect(await stations.record.tables.setAside.count()).toBe(1);
  Object.assign(events, { create });
});

test('while the disk is full for one camera’s picture the program can end, and what was due is due at the next start', async () => {
  const { files } = stations.record;
  Object.assign(files, { keep: () => Promise.reject(Object.assign(new Error('no space left'), { code: 'ENOSPC' })) });
  expect(await send('porch', caller('suppressed'))).toBe(202);
  await until(() => stations.problems()[0]);
  expect(stations.problems().map((p) => p.text)).toEqual(['Data cannot be saved: no space left']);
  const health = await stations.ask('GET', '/health', undefined, {});
  expect([health.status, health.body.problems]).toEqual([503, 1]);
  expect(await stations.record.tables.deliveries.count({ where: { state: 'due' } })).toBe(1);
});

test('2,000 events in one document, or a topic of 60 kB, are refused before they cost anyone time', async () => {
  const at = new Date(stations.clock.now()).toISOString();
  const object = (i: number) =>
    `<tt:Object ObjectId="${i}"><tt:Appearance><tt:Shape><tt:BoundingBox left="-0.2" top="0.2" right="0" bottom="-0.6"/></tt:Shape></tt:Appearance></tt:Object>`;
  const many = `<tt:MetadataStream xmlns:tt="http://www.onvif.org/ver10/schema"><tt:VideoAnalytics><tt:Frame UtcTime="${at}">${Array.from({ length: 1200 }, (_, i) => object(i)).join('')}</tt:Frame></tt:VideoAnalytics></tt:MetadataStream>`;
  const topic = `<wsnt:NotificationMessage xmlns:wsnt="w" xmlns:tt="t"><wsnt:Topic>${'a'.repeat(60_000)}</wsnt:Topic><wsnt:Message><tt:Message UtcTime="${at}"/></wsnt:Message></wsnt:NotificationMessage>`;
  expect([await send('porch', many), await send('porch', topic)]).toEqual([413, 400]);
  expect(await send('porch', 'x'.repeat(300_000))).toBe(413);
});

test('text counts together over all parts of a form; a header that does not decode is said', async () => {
  const form = new FormData();
  for (let i = 0; i < 3; i++) form.set(`part${i}`, new Blob(['x'.repeat(100_000)], { type: 'text/plain' }), `${i}.txt`);
  expect(await send('porch', form)).toBe(413);
  const odd = await fetch(stations.url + hooks.porch!, {
    method: 'POST',
    body: '{"kind":"motion"}',
    headers: { 'content-type': 'application/json', 'ce-id': '%E0%A4%A' },
  });
  expect(odd.status).toBe(400);
});

test('addresses that belong to no one are limited by who asks, and cameras from there are not', async () => {
  const guesses = await Promise.all(
    Array.from({ length: 40 }, (_, i) =>
      fetch(`${stations.url}/hooks/cameras/guess${i}`, { method: 'POST', body: '{}' }).then((r) => r.status),
    ),
  );
  expect([guesses.filter((s) => s === 404).length, guesses.filter((s) => s === 429).length]).toEqual([30, 10]);
  expect(await send('porch', caller('known'))).toBe(202);
  await stations.site.edit([[['cameras', 'porch', 'source'], { kind: 'streamed', low: 'http://127.0.0.1:1/x' }]], {
    by: { name: 'Wren', role: 'owner' },
    what: 'changed it',
  });
  expect(await stations.record.tables.cameraTokens.count({ where: { camera: 'porch' } })).toBe(0);
});

test('what a camera told before the program was killed is remembered: the second half of a way makes the event', async () => {
  // The first half stands in the database as done; the sieve that knew of it is gone.
  await stations.site.edit(
    [
      [
        ['rules', 'caller'],
        {
          id: 'caller',
          name: 'A caller',
          cameras: ['porch'],
          classes: ['person'],
          behaviour: { kind: 'appears', zone: 'step', frames: 2 },
          notify: [{ to: 'owner', channel: 'push' }],
        },
      ],
    ],
    { by: { name: 'Wren', role: 'owner' }, what: 'asked for two' },
  );
  expect(await send('porch', caller('first', { track: 'walker' }))).toBe(202);
  await until(async () => (await stations.record.tables.deliveries.count({ where: { state: 'done' } })) || undefined);
  const again = await testStations({ folder: stations.config.dataFolder, site: stations.site.text });
  const hook = new URL((await again.ask('GET', '/api/cameras/porch/pairing')).body.url).pathname;
  const body = caller('second', { track: 'walker' });
  expect((await fetch(again.url + hook, { method: 'POST', body, headers: { 'content-type': 'application/json' } })).status).toBe(202);
  await until(async () => ((await again.record.tables.events.count({ where: { camera: 'porch' } })) === 1 ? true : undefined));
  expect(await again.record.tables.tracks.count({ where: { camera: 'porch' } })).toBe(1);
  await again.end();
});

test('works one after the other under a key, side by side under others, and goes on after a failure', async () => {
  const queue = inTurn();
  const order: string[] = [];
  let release!: () => void;
  const held = new Promise<void>((resolve) => (release = resolve));
  const failing = queue.add('a', async () => {
    await held;
    order.push('a1');
    throw new Error('no');
  });
  void queue.add('a', async () => order.push('a2'));
  await queue.add('b', async () => order.push('b1'));
  expect([order, queue.waiting('a'), queue.waiting('b')]).toEqual([['b1'], 2, 0]);
  release();
  await expect(failing).rejects.toThrow('no');
  await queue.idle();
  expect(order).toEqual(['b1', 'a1', 'a2']);
});

test('an id that follows from what a thing is made of is the same again, and another for another', () => {
  expect(sameId('a', 1)).toBe(sameId('a', 1));
  expect(new Set([sameId('a', 1), sameId('a1'), sameId('a', 2), sameId('a', '1')]).size).toBe(4);
  expect(sameId('x')).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-8[0-9a-f]{3}-a[0-9a-f]{3}-[0-9a-f]{12}$/);
});

test('what was kept of a camera is gone when it is deleted: events, tests, logbook and pictures point to nothing', async () => {
  await stations.site.setMode('yard', 'shut', { name: 'Wren' });
  await walkIn(stations);
  await until(async () => ((await eventsOf('gate')) === 1 ? true : undefined));
  const event = (await stations.record.tables.events.findOne())!;
  await stations.ask('PUT', `/api/events/${event.id}/mark`, { mark: 'useful' });
  const files = Object.values(await filesOf(stations, event.id));
  const { marked } = await filesOf(stations, event.id);
  // Its pictures are of a moment ahead of the clock; what is deleted is what was seen up to now.
  await until(() => stations.clock.now() > event.at + 1000 || undefined);
  await stations.record.tables.walkTests.create({
    id: 'w',
    startedAt: 1,
    endedAt: 2,
    by: 'Wren',
    items: [
      {
        kind: 'rule',
        rule: 'comes-in',
        expect: 'fires',
        name: 'R',
        cameras: ['gate'],
        settingsHash: '',
        result: { state: 'answered', at: 1, event: event.id, picture: marked } as never,
      },
    ],
  });
  expect((await stations.ask('DELETE', '/api/cameras/gate/stored-data')).status).toBe(200);
  const [test] = await stations.record.tables.walkTests.findAll();
  expect(JSON.stringify(test!.items)).not.toMatch(new RegExp(`${event.id}|${marked}`));
  expect((await stations.record.tables.logbook.findAll()).every((l) => l.event === null)).toBe(true);
  for (const name of files) expect(stations.record.media.file(name)).toBeUndefined();
});
