import sharp from 'sharp';
import { testStations, until, greyJpeg, peopledYard, type TestStations } from '../../testing/stations';

const withPorch = peopledYard.replace(
  'rules:',
  '  - id: porch\n    name: Porch\n    area: yard\n    source: { kind: paired }\n    zones:\n      - { id: step, name: Step, purpose: watch, polygon: [[0, 0], [1, 0], [1, 1], [0, 1]] }\n      - { id: door, name: Next door, purpose: privacy, polygon: [[0, 0], [0.5, 0], [0.5, 1], [0, 1]] }\nrules:\n  - { id: caller, name: A caller, cameras: [porch], classes: [person], behaviour: { kind: appears, zone: step }, notify: [{ to: owner, channel: push }] }',
);

let stations: TestStations;
let hook: string;
beforeAll(async () => {
  stations = await testStations({ site: withPorch });
  hook = new URL((await stations.ask('GET', '/api/cameras/porch/pairing')).body.url).pathname;
});
afterAll(() => stations.end());

const send = async (body: string | FormData, type?: string, headers: Record<string, string> = {}, to = hook) => {
  const response = await fetch(stations.url + to, {
    method: 'POST',
    body,
    headers: { ...(type ? { 'content-type': type } : {}), ...headers },
  });
  return { status: response.status, body: (await response.json()) as any }; // eslint-disable-line @typescript-eslint/no-explicit-any -- answers of every shape
};
const at = () => new Date(stations.clock.now()).toISOString();
const caller = (id: string, more: object = {}) =>
  JSON.stringify({ id, at: at(), kind: 'seen', objects: [{ class: 'person', score: 0.9, box: [0.6, 0.4, 0.1, 0.3] }], ...more });
const events = async () => (await stations.ask('GET', '/api/events?show=notified&camera=porch')).body.items as { id: string; at: number }[];

test('an event is accepted once, and becomes an event of its rule', async () => {
  const body = caller('one');
  const first = await send(body, 'application/json');
  expect(first).toEqual({ status: 202, body: { id: expect.any(String), again: false } });
  expect(await send(body, 'application/json')).toEqual({ status: 202, body: { id: first.body.id, again: true } });
  await until(async () => ((await events()).length === 1 ? true : undefined));
  const { body: pairing } = await stations.ask('GET', '/api/cameras/porch/pairing');
  expect(pairing).toMatchObject({
    count: 1,
    deliveries: [{ form: 'json', received: body, understood: 'something detected, person 90 %' }],
  });
});

test('a picture that comes with it is kept with the privacy mask burnt in', async () => {
  const form = new FormData();
  form.set('event', new Blob([caller('two')], { type: 'application/json' }), 'event.json');
  form.set('shot', new Blob([new Uint8Array(await greyJpeg())], { type: 'image/jpeg' }), 'shot.jpg');
  expect((await send(form)).status).toBe(202);
  const newest = await until(
    async () => (await stations.ask('GET', '/api/cameras/porch/pairing')).body.deliveries[0].picture as string | null,
  );
  const name = newest!.split('/').at(-1)!;
  const { data, info } = await sharp(await stations.record.media.read(name))
    .raw()
    .toBuffer({ resolveWithObject: true });
  const pixel = (x: number) => data[(Math.floor(info.height / 2) * info.width + x) * info.channels]!;
  expect(pixel(Math.round(info.width * 0.25))).toBeLessThan(12);
  expect(pixel(Math.round(info.width * 0.75))).toBeGreaterThan(80);
});

test.each([
  [
    'a CloudEvent in one piece',
    () => JSON.stringify({ specversion: '1.0', id: 'c1', source: '/porch', type: 't', time: at(), data: { kind: 'motion' } }),
    'application/cloudevents+json',
    {},
    'motion',
  ],
  [
    'a CloudEvent in headers',
    () => JSON.stringify({ kind: 'button' }),
    'application/json',
    () => ({ 'ce-specversion': '1.0', 'ce-id': 'c2', 'ce-source': '/porch', 'ce-type': 't', 'ce-time': at() }),
    'its button was pressed',
  ],
  [
    'ONVIF metadata',
    () =>
      `<tt:MetadataStream xmlns:tt="http://www.onvif.org/ver10/schema"><tt:VideoAnalytics><tt:Frame UtcTime="${at()}"><tt:Object ObjectId="4"><tt:Appearance><tt:Shape><tt:BoundingBox left="-0.2" top="0.2" right="0" bottom="-0.6"/></tt:Shape><tt:Class><tt:Type Likelihood="0.8">Human</tt:Type></tt:Class></tt:Appearance></tt:Object></tt:Frame></tt:VideoAnalytics></tt:MetadataStream>`,
    'application/xml',
    {},
    'person 80 %',
  ],
])('%s is understood', async (_name, body, type, headers, understood) => {
  expect((await send(body(), type, typeof headers === 'function' ? headers() : headers)).status).toBe(202);
  const newest = await until(async () => {
    const { body: pairing } = await stations.ask('GET', '/api/cameras/porch/pairing');
    return pairing.deliveries.some((d: { understood: string }) => d.understood === understood) || undefined;
  });
  expect(newest).toBe(true);
});

test.each([
  ['no JSON', '{"at": "yesterday"', 'application/json', 400, /not JSON/],
  ['no time', '{"at": "yesterday", "kind": "seen"}', 'application/json', 400, /ISO 8601|at/],
  ['an unknown kind', '{"at": "2026-06-01T21:00:00Z", "kind": "sneeze"}', 'application/json', 400, /kind/],
  ['XML with a document type', '<!DOCTYPE a [<!ENTITY b "c">]><a>&b;</a>', 'application/xml', 400, /document type/],
  ['nothing', '', 'application/json', 400, /empty/],
])('%s is refused with what is wrong, and not kept', async (_name, body, type, status, words) => {
  const before = await stations.record.tables.deliveries.count();
  const answer = await send(body, type);
  expect([answer.status, answer.body.error.message]).toEqual([status, expect.stringMatching(words)]);
  expect(await stations.record.tables.deliveries.count()).toBe(before);
});

test('a form without a picture that can be decoded is refused', async () => {
  const form = new FormData();
  form.set('event', caller('three'));
  form.set('shot', new Blob(['rubbish'], { type: 'image/jpeg' }), 'shot.jpg');
  expect(await send(form)).toMatchObject({ status: 400, body: { error: { message: 'The picture is not a JPEG.' } } });
});

test('a wrong address is not found, and a replaced one is dead', async () => {
  expect((await send(caller('x'), 'application/json', {}, '/hooks/cameras/guess')).status).toBe(404);
  const { body } = await stations.ask('POST', '/api/cameras/porch/pairing/token');
  const next = new URL(body.url).pathname;
  expect(next).not.toBe(hook);
  expect((await send(caller('y'), 'application/json')).status).toBe(404);
  hook = next;
  expect((await send(caller('y'), 'application/json')).status).toBe(202);
});

test('a clock that runs ahead or behind does not move the place’s time', async () => {
  const known = (await events()).length;
  const far = JSON.stringify({
    id: 'future',
    at: '2099-01-01T00:00:00Z',
    kind: 'seen',
    objects: [{ class: 'person', score: 0.9, box: [0.6, 0.4, 0.1, 0.3], track: 'f' }],
  });
  expect((await send(far, 'application/json')).status).toBe(202);
  await until(async () => ((await events()).length > known ? true : undefined));
  expect((await events())[0]!.at).toBeLessThanOrEqual(stations.clock.now());
});

test('what was accepted and not yet gone through the sieve goes through after the next start', async () => {
  const known = (await events()).length;
  await stations.record.tables.deliveries.create({
    id: 'left',
    camera: 'porch',
    key: 'left',
    at: stations.clock.now(),
    form: 'json',
    body: caller('left'),
    understood: '',
    state: 'due',
  });
  // One that can no longer be understood does not hold up the others.
  await stations.record.tables.deliveries.create({
    id: 'spoilt',
    camera: 'porch',
    key: 'spoilt',
    at: 0,
    form: 'json',
    body: '{',
    understood: '',
    state: 'due',
  });
  stations.deliveries.wake('porch');
  await until(async () => ((await events()).length > known ? true : undefined));
  await until(async () => ((await stations.record.tables.deliveries.count({ where: { state: 'due' } })) === 0 ? true : undefined));
});

test('a flood of one camera is limited, and leaves the others alone', async () => {
  const answers = await Promise.all(Array.from({ length: 260 }, () => send('', 'application/json')));
  expect(answers.some((a) => a.status === 429)).toBe(true);
  expect((await send('', 'application/json', {}, '/hooks/cameras/other')).status).toBe(404);
});
