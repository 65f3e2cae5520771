// What streams: server-sent events, live pictures, and the routes of cameras and phones.

import { createECDH, randomBytes } from 'node:crypto';
import { createServer } from 'node:http';
import { compileSchema } from '@nibber/core/check';
import { greyJpeg, password, sighting, testStations, until, walkIn, type TestStations } from '../../testing/stations';
import { liveMessage } from './messages';

let stations: TestStations;
beforeAll(async () => {
  stations = await testStations();
});
afterAll(() => stations.end());

const opened: ReadableStreamDefaultReader[] = [];
afterEach(() => opened.splice(0).forEach((r) => void r.cancel().catch(() => {})));

/** Reads a stream until it has brought what is asked for. */
async function streams(route: string, isThere: (text: string) => boolean): Promise<{ text: Promise<string>; headers: Headers }> {
  const response = await fetch(stations.url + route, { headers: { cookie: stations.cookie } });
  const reader = response.body!.getReader();
  opened.push(reader);
  const read = async () => {
    let text = '';
    while (!isThere(text)) {
      const { value, done } = await reader.read();
      if (done) break;
      text += Buffer.from(value).toString('latin1');
    }
    return text;
  };
  return { text: read(), headers: response.headers };
}

test('who listens is told of modes, settings, cameras and events as they happen, each message as its schema says', async () => {
  const { text, headers } = await streams('/api/live', (t) =>
    ['sieve', 'time', 'walk', 'item'].every((kind) => t.includes(`event: ${kind}`) || t.includes(`event:${kind}`)),
  );
  expect(headers.get('content-type')).toMatch('text/event-stream');
  await stations.site.setMode('yard', 'shut', { name: 'Wren' });
  await stations.site.edit([[['rules', 'comes-in', 'cooldownSeconds'], 1]], { by: { name: 'Wren', role: 'owner' }, what: 'changed it' });
  await walkIn(stations);
  const jpeg = await greyJpeg();
  stations.bus.publish('watched', sighting(jpeg, stations.clock.now() + 1500, 0.7));
  stations.bus.publish('said', { camera: 'gate' });
  await stations.ask('POST', '/api/walk-test', { items: [{ kind: 'zone', camera: 'gate', zone: 'yard' }] });
  await stations.ask('DELETE', '/api/walk-test');
  const said = [...(await text).matchAll(/^data: ?(\{.*\})$/gm)].map((m) => JSON.parse(m[1]!) as { kind: string });
  const isSound = compileSchema(liveMessage);
  expect(said.filter((m) => !isSound(m))).toEqual([]);
  const kinds = said.map((m) => m.kind);
  expect(kinds.slice(0, 2)).toEqual(['mode', 'site']);
  expect(new Set(kinds)).toEqual(new Set(['mode', 'site', 'seen', 'camera', 'walk', 'item', 'sieve', 'time']));
  expect(said.find((m) => m.kind === 'item')).toMatchObject({
    item: { kind: 'event', ruleName: 'Someone comes in', picture: expect.stringMatching(/^\/pictures\//) },
  });
  expect(said[0]).toMatchObject({ mode: { area: 'yard', mode: 'shut' } });
});

const safe = async (at: number) => ({
  camera: 'gate',
  at,
  jpeg: await greyJpeg(),
  motion: { parts: [], share: 0, isLightChange: false },
  isInfrared: false,
});

test('a camera that has sent nothing says so; then latest snapshot is to be had, and is not cached', async () => {
  const before = await stations.ask('GET', '/api/cameras/gate/picture.jpg');
  expect([before.status, before.body.error.message]).toEqual([503, 'Gate has sent no picture yet.']);
  stations.recent.add(await safe(1));
  const after = await stations.ask('GET', '/api/cameras/gate/picture.jpg');
  expect([after.status, after.headers.get('content-type'), after.headers.get('cache-control')]).toEqual([
    200,
    'image/jpeg',
    'private, no-store',
  ]);
});

test('the live picture begins with the newest and goes on with each that comes', async () => {
  stations.recent.add(await safe(2));
  const { text, headers } = await streams('/api/cameras/gate/live.mjpg', (t) => t.split('content-type: image/jpeg').length > 2);
  expect(headers.get('content-type')).toBe('multipart/x-mixed-replace; boundary=nibber-picture');
  stations.recent.add(await safe(3));
  expect((await text).match(/--nibber-picture/g)!.length).toBeGreaterThanOrEqual(2);
});

test.each(['/api/cameras/gate/live.mjpg', '/api/live'])(
  '%s ends, or goes on without what is not seen any more, as soon as less is seen',
  async (route) => {
    const { access, site, recent } = stations;
    if (!(await access.withAccounts()).has('sam')) await access.addAccount({ name: 'Sam', person: 'sam', role: 'member', password });
    const owner = { by: { name: 'Wren', role: 'owner' }, what: 'x' } as const;
    const answer = await fetch(stations.url + route, {
      headers: { cookie: `nibber-session=${await access.signIn('Sam', password, null)}` },
    });
    const reader = answer.body!.getReader();
    let text = '';
    const ended = (async () => {
      for (;;) {
        const { done, value } = await reader.read();
        if (done) return true;
        text += Buffer.from(value).toString('latin1');
      }
    })().catch(() => true);
    const seen = async (at: number) => {
      const picture = await safe(at);
      recent.add(picture);
      stations.bus.publish('watched', { picture, sightings: [], frame: { at, camera: 'gate', objects: [] } } as never);
    };
    await until(async () => (await seen(10), /image\/jpeg|"camera":"gate"/.test(text)) || undefined);
    await site.edit([[['people', 'sam', 'access'], { cameras: ['side'] }]], owner);
    if (route.endsWith('mjpg')) expect(await ended).toBe(true);
    const before = text.length;
    for (let i = 0; i < 5; i++) await seen(11 + i);
    if (!route.endsWith('mjpg')) {
      // Said after all of these, and heard after them.
      stations.bus.publish('site', { kind: 'site' });
      await until(() => text.slice(before).includes('"kind":"site"') || undefined);
    }
    expect(text.slice(before)).not.toMatch(/image\/jpeg|"gate"/);
    await reader.cancel().catch(() => {});
    await site.edit([[['people', 'sam', 'access'], undefined]], owner);
  },
);

test('zones are replaced whole, and the camera answers with them', async () => {
  const { body: camera } = await stations.ask('GET', '/api/cameras/gate');
  const zones = camera.zones.map((z: { id: string; polygon: number[][] }) =>
    z.id === 'yard'
      ? {
          ...z,
          polygon: [
            [0, 0.7],
            [1, 0.7],
            [1, 1],
            [0, 1],
          ],
        }
      : z,
  );
  const { status, body } = await stations.ask('PUT', '/api/cameras/gate/drawings', { zones, lines: camera.lines });
  expect([status, body.zones.find((z: { id: string }) => z.id === 'yard').polygon[0]]).toEqual([200, [0, 0.7]]);
  expect((await stations.ask('GET', '/api/cameras/attic')).body.error.message).toBe('Camera attic not found.');
});

test('trying a camera says whether it answers, and why not', async () => {
  const jpeg = await greyJpeg();
  const server = createServer((request, response) =>
    request.url === '/still' ? response.setHeader('content-type', 'image/jpeg').end(jpeg) : response.writeHead(403).end(),
  );
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  const base = `http://127.0.0.1:${(server.address() as { port: number }).port}`;
  const move = (source: object) =>
    stations.site.edit([[['cameras', 'gate', 'source'], source]], { by: { name: 'Wren', role: 'owner' }, what: 'moved it' });
  await move({ kind: 'streamed', low: `${base}/low`, still: `${base}/still` });
  expect((await stations.ask('POST', '/api/cameras/gate/test')).body).toMatchObject({ works: true, bytes: jpeg.length });
  await move({ kind: 'streamed', low: `${base}/low` });
  expect((await stations.ask('POST', '/api/cameras/gate/test')).body).toMatchObject({
    works: false,
    why: expect.stringMatching(/^The camera answered 403: it does not accept/),
  });
  server.close();
});

test('a phone is its person’s: a member signs off their own alone', async () => {
  if (!(await stations.access.withAccounts()).has('sam'))
    await stations.access.addAccount({ name: 'Sam', person: 'sam', role: 'member', password });
  const sam = { cookie: `nibber-session=${await stations.access.signIn('Sam', password, null)}` };
  const keys = createECDH('prime256v1');
  keys.generateKeys();
  const phone = (endpoint: string) => ({
    label: 'a phone',
    endpoint,
    keys: { p256dh: keys.getPublicKey('base64url'), auth: randomBytes(16).toString('base64url') },
  });
  const { body: wrens } = await stations.ask('POST', '/api/phones', phone('https://push.example/wren'));
  const { body: sams } = await stations.ask('POST', '/api/phones', phone('https://push.example/sam'), sam);
  expect((await stations.ask('POST', '/api/phones', phone('https://push.example/sam'), sam)).body.id).toBe(sams.id);
  expect((await stations.ask('GET', '/api/phones')).body.map((p: { person: string }) => p.person).sort()).toEqual(['Sam', 'Wren']);
  expect((await stations.ask('DELETE', `/api/phones/${wrens.id}`, undefined, sam)).status).toBe(404);
  expect((await stations.ask('DELETE', `/api/phones/${sams.id}`, undefined, sam)).status).toBe(200);
  expect((await stations.ask('GET', '/api/push-key')).body.key).toMatch(/^[\w-]{87}$/);
});

test('events are paged and filtered; health says whether it can write', async () => {
  await until(async () => (await stations.record.tables.events.count()) || undefined);
  const all = (await stations.ask('GET', '/api/events?show=notified')).body;
  expect(all).toMatchObject({ more: null, items: [{ class: 'person', camera: 'gate' }] });
  expect((await stations.ask('GET', `/api/events?show=notified&before=${all.items[0].at}`)).body.items).toEqual([]);
  expect((await stations.ask('GET', '/api/events?show=notified&class=pet')).body.items).toEqual([]);
  expect((await stations.ask('GET', '/api/events?before=soon')).status).toBe(400);
  const health = await stations.ask('GET', '/health', undefined, {});
  expect([health.status, health.body]).toEqual([503, { ok: false, writable: true, takesFrames: false, problems: 0 }]);
});
