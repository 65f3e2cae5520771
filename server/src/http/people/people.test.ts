// People come in by invitation, see what they are given, and are out at once when that ends.

import { password, peopledYard, testStations, until, walkIn, type TestStations } from '../../testing/stations';

let stations: TestStations;
const house = peopledYard
  .replace('- { id: yard, name: Yard }', '- { id: yard, name: Yard }\n  - { id: house, name: House }')
  .replace('id: side\n    name: Side\n    area: yard', 'id: side\n    name: Side\n    area: house');
beforeAll(async () => {
  stations = await testStations({ site: house });
});
afterAll(() => stations.end());

const invite = async (body: object) =>
  (await stations.ask('POST', '/api/invitations', { days: 2, ...body })).body as { id: string; link: string };
const tokenOf = ({ link }: { link: string }) => link.split('#')[1]!;
const comeIn = (token: string, name: string, word = password) =>
  stations.ask('POST', '/api/invited/account', { token, name, password: word }, {});
const cookieOf = (headers: Headers) => ({ cookie: headers.getSetCookie()[0]!.split(';')[0]!, 'if-match': `"${stations.site.version}"` });

test('an invitation lets one in, once, as what it says; the link tells no server what it is', async () => {
  const made = await invite({ role: 'member', name: 'Tess', access: { areas: ['yard'] } });
  expect(new URL(made.link).pathname + new URL(made.link).search).toBe('/join');
  const token = tokenOf(made);
  expect((await stations.ask('POST', '/api/invited', { token }, {})).body).toMatchObject({
    siteName: 'Example yard',
    name: 'Tess',
    role: 'member',
    madeBy: 'Wren',
    isKnown: false,
  });
  expect((await stations.ask('GET', '/api/invitations')).body).toHaveLength(1);
  expect((await comeIn(token, 'Sam')).status).toBe(409);
  expect((await comeIn(token, 'Tess', 'short')).status).toBe(400);
  const both = await Promise.all([comeIn(token, 'Tess'), comeIn(token, 'Tessa')]);
  expect(both.map((b) => b.status).sort()).toEqual([200, 404]);
  const person = stations.site.file.people!.find((p) => /^Tess/.test(p.name))!;
  expect(person).toMatchObject({ role: 'member', access: { areas: ['yard'] } });
  expect((await comeIn(token, 'Late')).status).toBe(404);
  expect((await stations.ask('GET', '/api/invitations')).body).toEqual([]);
  expect((await stations.ask('POST', '/api/invited', { token: 'x'.repeat(32) }, {})).status).toBe(404);
});

test('one that is ended, or over, lets no one in', async () => {
  const ended = await invite({ role: 'member' });
  expect((await stations.ask('DELETE', `/api/invitations/${ended.id}`)).status).toBe(200);
  expect((await comeIn(tokenOf(ended), 'Ada')).status).toBe(404);
  const over = await invite({ role: 'member' });
  await stations.record.tables.invitations.update({ expiresAtMachine: stations.clock.machine() - 1 }, { where: { id: over.id } });
  expect((await comeIn(tokenOf(over), 'Ada')).status).toBe(404);
});

test('a guest is let in until the day, by what is shared alone; who lets in whom is held; guesses cost waits', async () => {
  const other = await testStations({ site: house });
  const send = (body: object, headers?: Record<string, string>) => other.ask('POST', '/api/invitations', { days: 1, ...body }, headers);
  expect((await send({ role: 'guest' })).status).toBe(400);
  const { body } = await send({ role: 'guest', until: '2099-01-01', access: { cameras: ['side'] } });
  const guest = await other.ask('POST', '/api/invited/account', { token: tokenOf(body), name: 'Gil', password }, {});
  const gil = { cookie: guest.headers.getSetCookie()[0]!.split(';')[0]! };
  expect((await other.ask('GET', '/api/cameras', undefined, gil)).body.map((c: { id: string }) => c.id)).toEqual(['side']);
  await other.site.edit([[['people', 'gil', 'until'], '2020-01-01']], { by: { name: 'Wren', role: 'owner' }, what: 'x' });
  expect((await other.ask('GET', '/api/cameras', undefined, gil)).status).toBe(401);
  expect(await other.access.signIn('Gil', password, null)).toBeUndefined();
  const installer = { authorization: `Bearer ${await other.access.makeBearer({ role: 'installer', name: 'x', days: 1 })}` };
  expect((await send({ role: 'owner' }, installer)).status).toBe(403);
  expect((await send({ person: 'wren' }, installer)).status).toBe(403);
  expect((await other.ask('DELETE', '/api/people/wren', undefined, installer)).status).toBe(403);
  expect((await other.ask('PUT', '/api/people/sam', { role: 'owner', access: null, until: null }, installer)).status).toBe(403);
  expect((await other.ask('DELETE', '/api/people/wren')).body.error.message).toBe('Wren is the only owner.');
  const guesses = [];
  for (let i = 0; i < 6; i++) guesses.push((await other.ask('POST', '/api/invited', { token: `guess-${i}` }, {})).status);
  expect(guesses.at(-1)).toBe(429);
  await other.end();
});

test('a lost password: a new one by an invitation, and whoever knew the old one is out', async () => {
  await stations.access.addAccount({ name: 'Sam', person: 'sam', role: 'member', password });
  const before = { cookie: `nibber-session=${await stations.access.signIn('Sam', password, null)}` };
  const made = await invite({ person: 'sam' });
  expect((await stations.ask('POST', '/api/invited', { token: tokenOf(made) }, {})).body).toMatchObject({ name: 'Sam', isKnown: true });
  const after = await comeIn(tokenOf(made), 'whatever is typed', 'another long one');
  expect(after.body.visitor).toMatchObject({ name: 'Sam', person: 'sam' });
  expect((await stations.ask('GET', '/api/rules', undefined, before)).status).toBe(401);
  expect(await stations.access.signIn('Sam', password, null)).toBeUndefined();
  expect((await stations.ask('GET', '/api/rules', undefined, cookieOf(after.headers))).status).toBe(200);
});

test('of what is not shared nothing is shown: lists, pictures, moments, links, what comes live', async () => {
  await stations.site.edit([[['people', 'sam', 'access'], { cameras: ['side'] }]], { by: { name: 'Wren', role: 'owner' }, what: 'x' });
  const sam = { cookie: `nibber-session=${await stations.access.signIn('Sam', 'another long one', null)}` };
  const get = async (route: string) => (await stations.ask('GET', route, undefined, sam)).body;
  await stations.site.setMode('yard', 'shut', { name: 'Wren' });
  const live = await fetch(`${stations.url}/api/live`, { headers: sam });
  const reader = live.body!.getReader();
  let heard = '';
  void (async () => {
    for (;;) {
      const { done, value } = await reader.read();
      if (done) return;
      heard += Buffer.from(value).toString();
    }
  })().catch(() => {});
  await walkIn(stations);
  const event = await until(async () => (await stations.record.tables.events.findOne()) ?? undefined);
  const held = (await stations.record.media.of('event', [event.id])).get(event.id)!;
  expect((await get('/api/events')).items).toEqual([]);
  expect((await stations.ask('GET', `/api/events/${event.id}`, undefined, sam)).status).toBe(404);
  expect((await stations.ask('PUT', `/api/events/${event.id}/mark`, { mark: 'noise' }, sam)).status).toBe(404);
  expect((await stations.ask('GET', `/pictures/${held.marked!.name}`, undefined, sam)).status).toBe(404);
  expect(
    (await stations.ask('GET', stations.links.sign(held.marked!.name, 'sam', 60_000).replace(stations.url, ''), undefined, {})).status,
  ).toBe(404);
  expect(
    (await stations.ask('GET', stations.links.sign(held.marked!.name, 'wren', 60_000).replace(stations.url, ''), undefined, {})).status,
  ).toBe(200);
  expect((await get('/api/sieve')).events).toBe(0);
  expect((await stations.ask('GET', '/api/sieve')).body.events).toBe(1);
  const site = await get('/api/site');
  expect([site.areas, site.areaModes, site.people.find((p: { id: string }) => p.id === 'wren')]).toEqual([
    [],
    [],
    { id: 'wren', name: 'Wren', role: 'owner' },
  ]);
  expect(await get('/api/rules')).toEqual([]);
  expect((await get('/api/health')).cameras.map((c: { id: string }) => c.id)).toEqual(['side']);
  expect((await stations.ask('PUT', '/api/areas/mode', { areas: ['yard'], mode: 'open' }, sam)).status).toBe(404);
  expect(JSON.stringify(await get('/api/logbook'))).not.toContain('Yard');
  // What came live meanwhile speaks of their camera alone.
  await stations.site.setMode('house', 'shut', { name: 'Wren' });
  expect(heard).not.toMatch(/gate|yard/i);
  await reader.cancel();
});

const limited = `
  GET  /api/cameras/gate
  GET  /api/cameras/gate/picture.jpg
  GET  /api/cameras/gate/live.mjpg
  GET  /api/cameras/gate/track-paths
  GET  /api/cameras/gate/chain
  POST /api/cameras/gate/still
  POST /api/cameras/gate/commands
  PUT  /api/areas/yard/mode
  GET  /api/why?camera=gate&at=1
`;
test.each([...limited.matchAll(/^ {2}(\w+) +(\S+)$/gm)].map(([, method, route]) => [method!, route!]))(
  '%s %s is not there for whoever sees another camera',
  async (method, route) => {
    const sam = { cookie: `nibber-session=${await stations.access.signIn('Sam', 'another long one', null)}` };
    const answer = await stations.ask(method, route, method === 'GET' ? undefined : { mode: 'shut', what: 'lamp', on: true }, sam);
    expect([answer.status, answer.body.error.code]).toEqual([404, 'not-found']);
  },
);

test('whoever is taken out is out at once: the stream breaks off, the phone is told nothing more', async () => {
  const word = 'another long one';
  const headers = { cookie: `nibber-session=${await stations.access.signIn('Sam', word, null)}` };
  const live = await fetch(`${stations.url}/api/live`, { headers });
  const phone = {
    person: 'sam',
    label: 'x',
    endpoint: 'https://push.example/1',
    p256dh: 'x',
    auth: 'y',
    createdAt: 1,
    session: (await stations.access.sessions('sam'))[0]!.id,
  };
  await stations.record.phones.signUp(phone, { name: 'Sam' }, 5);
  expect((await stations.ask('POST', '/api/people/sam/end')).body.sessions).toBeGreaterThan(0);
  expect((await stations.record.phones.all()).filter((p) => p.person === 'sam')).toEqual([]);
  const reader = live.body!.getReader();
  await (async () => {
    for (;;) if ((await reader.read()).done) return;
  })().catch(() => {});
  expect((await stations.ask('GET', '/api/rules', undefined, headers)).status).toBe(401);
  // She stays in the site, and may come in again; taken out, they may not, and rules that told them by name tell the others.
  expect(await stations.access.signIn('Sam', word, null)).toBeDefined();
  await stations.site.edit(
    [
      [
        ['rules', 'comes-in', 'notify'],
        [
          { to: 'sam', channel: 'push' },
          { to: 'owner', channel: 'push' },
        ],
      ],
    ],
    { by: { name: 'Wren', role: 'owner' }, what: 'x' },
  );
  expect((await stations.ask('DELETE', '/api/people/sam')).status).toBe(200);
  expect(await stations.access.signIn('Sam', word, null)).toBeUndefined();
  expect(stations.site.file.rules![0]!.notify).toEqual([{ to: 'owner', channel: 'push' }]);
});
