import { gateNames } from '@nibber/core/sieve';
import { password, testStations, until, walkIn, type TestStations } from '../testing/stations';

let stations: TestStations;
beforeAll(async () => {
  stations = await testStations();
});
afterAll(() => stations.end());

const nobody = {};

test('a session is a cookie that scripts cannot read and other sites cannot use', async () => {
  const { status, headers } = await stations.ask('POST', '/api/session', { name: 'Wren', password }, nobody);
  expect(status).toBe(200);
  expect(headers.get('set-cookie')).toMatch(/^nibber-session=[\w-]{43}; Max-Age=2592000; Path=\/; HttpOnly; SameSite=Strict/);
});

test('a bearer token has its role and no more', async () => {
  const bearer = { authorization: `Bearer ${await stations.access.makeBearer({ role: 'member', name: 'a script', days: 1 })}` };
  expect((await stations.ask('GET', '/api/rules', undefined, bearer)).status).toBe(200);
  const refused = await stations.ask('PUT', '/api/site/file', { text: 'x' }, bearer);
  expect([refused.status, refused.body.error.code]).toEqual([403, 'not-allowed']);
});

test('the page may load nothing from elsewhere and run nothing inline', async () => {
  const policy = (await stations.ask('GET', '/health', undefined, nobody)).headers.get('content-security-policy')!;
  expect(policy).toContain("default-src 'none'");
  expect(policy).toContain("script-src 'self'");
  expect(policy).not.toContain('unsafe');
});

test.each<[string, string, string, unknown, RegExp]>([
  ['a mode that is not there', 'PUT', '/api/areas/yard/mode', { mode: 'party' }, /Mode party not found.*open, shut/],
  ['a body with a stray key', 'PUT', '/api/areas/yard/mode', { mode: 'shut', why: 'x' }, /why is unknown/],
  ['a body that lacks something', 'PUT', '/api/areas/yard/mode', {}, /mode is missing/],
  [
    'a zone that crosses itself',
    'PUT',
    '/api/cameras/gate/drawings',
    {
      lines: [],
      zones: [
        {
          id: 'a',
          name: 'A',
          purpose: 'watch',
          polygon: [
            [0, 0],
            [1, 1],
            [1, 0],
            [0, 1],
          ],
        },
      ],
    },
    /edge 1 meets edge 3/,
  ],
  [
    'zones without the one a rule needs',
    'PUT',
    '/api/cameras/gate/drawings',
    { zones: [], lines: [] },
    /lane is not a watched zone of gate/,
  ],
  ['a site file with a fault', 'PUT', '/api/site/file', { text: 'nibber: 3' }, /site is missing.*and 1 more/],
  [
    'a phone at no https address',
    'POST',
    '/api/phones',
    { label: 'x', endpoint: 'http://10.0.0.1/x', keys: { p256dh: 'A'.repeat(87), auth: 'A'.repeat(22) } },
    /must be the https address of a push service/,
  ],
])('%s is refused in words, and nothing changes', async (_name, method, route, body, words) => {
  const before = stations.site.text;
  const answer = await stations.ask(method, route, body);
  expect(answer.status).toBeGreaterThanOrEqual(400);
  expect(`${answer.body.error.message} ${answer.body.error.hint}`).toMatch(words);
  expect(stations.site.text).toBe(before);
});

test('what is not JSON, too large or nowhere has the same shape of answer', async () => {
  const send = (body: string) =>
    fetch(`${stations.url}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', origin: stations.url },
      body,
    }).then(async (r) => [r.status, ((await r.json()) as { error: { code: string } }).error.code]);
  expect(await send('{"name":')).toEqual([400, 'bad-input']);
  expect(await send(JSON.stringify({ name: 'x'.repeat(5_000_000) }))).toEqual([413, 'too-large']);
  expect((await stations.ask('GET', '/api/nowhere')).body.error.code).toBe('not-found');
});

test('a rule is changed in its place, noted in the logbook, and the comments of the file stay', async () => {
  await stations.site.replace(`# our yard\n${stations.site.text}`, { by: { name: 'Wren', role: 'owner' }, what: 'replaced the site file' });
  const [rule] = (await stations.ask('GET', '/api/rules')).body;
  const changed = await stations.ask('PUT', '/api/rules/comes-in', { ...rule, cooldownSeconds: 60 });
  expect(changed.body.cooldownSeconds).toBe(60);
  expect(stations.site.text).toMatch(/^# our yard/);
  expect((await stations.ask('GET', '/api/logbook')).body[0]).toMatchObject({ who: 'Wren', what: 'changed the rule Someone comes in' });
});

test('an event is found with its picture, its trail and who could not be told; it can be marked; its picture needs a session or a link', async () => {
  await stations.ask('PUT', '/api/areas/yard/mode', { mode: 'shut' });
  await walkIn(stations);
  const item = await until(async () => (await stations.ask('GET', '/api/events?show=notified')).body.items[0]);
  const { body: moment } = await stations.ask('GET', `/api/events/${item.id}`);
  expect(moment.trails[0]).toMatchObject({ rule: 'comes-in', stoppedAt: null });
  expect(moment.trails[0].steps.map((s: { gate: string }) => s.gate)).toEqual([...gateNames]);
  expect(moment.alerts).toMatchObject([{ person: 'Wren', state: 'undeliverable', why: 'No registered phone' }]);
  expect((await stations.ask('PUT', `/api/events/${item.id}/mark`, { mark: 'noise' })).body).toEqual({ mark: 'noise' });
  expect((await stations.ask('GET', '/api/sieve')).body).toMatchObject({ events: 1, alerts: 0 });

  expect((await stations.ask('GET', item.picture)).status).toBe(200);
  expect((await stations.ask('GET', item.picture, undefined, nobody)).status).toBe(401);
  const link = stations.links.sign(item.picture.replace('/pictures/', ''), 'wren', 60_000).replace(stations.url, '');
  expect((await stations.ask('GET', link, undefined, nobody)).status).toBe(200);
  expect((await stations.ask('GET', link.replace(/expires=\d/, 'expires=9'), undefined, nobody)).status).toBe(401);
  expect((await stations.ask('GET', '/pictures/..%2Fnibber.sqlite')).status).toBe(400);
});
