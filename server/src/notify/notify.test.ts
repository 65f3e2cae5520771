import { createHmac, randomBytes } from 'node:crypto';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { filesOf, peopledYard, testStations, until, walkIn, type TestStations } from '../testing/stations';
import { listener, phoneKeys } from '../testing/listener';
import { testDescriber, type Answering, type AskedOfIt } from '../testing/describers';
import { saidBy } from '../ai-services/conversation';
import type { LookupFunction } from 'node:net';
import { makeLinks, type LinkQuery } from '../base/links';
import { callPublic, mayBeCalled, publicLookup } from '../net/public-address';

const signUp = (stations: TestStations, endpoint: string) =>
  stations.ask('POST', '/api/phones', { label: 'test', endpoint, keys: phoneKeys() });

test('a push that is refused is sent again; what the service says is gone is not', async () => {
  const got: string[] = [];
  const service = await listener((request, response) => {
    got.push(`${request.url} ${request.headers['content-encoding']} ${request.headers.ttl}`);
    response.statusCode = request.url === '/gone' ? 410 : got.filter((g) => g.startsWith('/busy')).length < 3 ? 503 : 201;
    response.end();
  });
  const stations = await testStations({ ownPushServices: [service.url] });
  await signUp(stations, `${service.url}/busy`);
  await signUp(stations, `${service.url}/gone`);
  await stations.site.setMode('yard', 'shut', { name: 'Wren' });
  await walkIn(stations);
  const alert = await until(async () => (await stations.record.tables.alerts.findOne({ where: { state: 'sent' } })) ?? undefined);
  expect(alert.person).toBe('wren');
  expect(got.filter((g) => g.startsWith('/busy'))).toEqual(new Array(3).fill('/busy aes128gcm 86400'));
  expect(got.filter((g) => g.startsWith('/gone'))).toHaveLength(1);
  expect((await stations.ask('GET', '/api/phones')).body).toHaveLength(1);
  await stations.end();
  service.close();
});

// RFC 8292, section 2.1: `sub` is a mailto: or an https: address by which whoever runs this server is reached; 2: `aud` is the service's origin,
// and `exp` no more than 24 hours ahead.
test.each([
  [
    'the owner’s address where there is one',
    peopledYard.replace('name: Wren, role: owner', 'name: Wren, role: owner, mail: wren@withy.example'),
    /^mailto:wren@withy\.example$/,
  ],
  ['else the page of this server', peopledYard, /^https:\/\/127\.0\.0\.1:\d+$/],
])('a push service is told whom to write to: %s', async (_name, site, sub) => {
  const tokens: string[] = [];
  const service = await listener((request, response) => {
    tokens.push(/^vapid t=([^,]+)/.exec(request.headers.authorization ?? '')![1]!);
    response.writeHead(201).end();
  });
  const stations = await testStations({ site, ownPushServices: [service.url] });
  await signUp(stations, `${service.url}/phone`);
  await stations.site.setMode('yard', 'shut', { name: 'Wren' });
  await walkIn(stations);
  const [token] = await until(async () => (tokens.length > 0 ? tokens : undefined));
  const claims = JSON.parse(Buffer.from(token!.split('.')[1]!, 'base64url').toString());
  expect(claims).toMatchObject({ aud: service.url, sub: expect.stringMatching(sub) });
  expect(claims.exp * 1000 - Date.now()).toBeLessThanOrEqual(24 * 3_600_000);
  await stations.end();
  service.close();
});

test('what was due when the program ended is sent by the next one', async () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'nibber-outbox-'));
  let isOpen = false;
  let arrived = 0;
  const service = await listener((_request, response) => {
    if (!isOpen) return void response.destroy();
    arrived++;
    response.writeHead(201).end();
  });
  const first = await testStations({ folder, ownPushServices: [service.url] });
  await signUp(first, `${service.url}/phone`);
  await first.site.setMode('yard', 'shut', { name: 'Wren' });
  await walkIn(first);
  await until(async () => (await first.record.tables.outbox.findOne({ where: { kind: 'alert', state: 'due' } })) ?? undefined);
  await first.end();
  isOpen = true;
  const second = await testStations({ folder, ownPushServices: [service.url] });
  await until(async () => (await second.record.tables.alerts.findOne({ where: { state: 'sent' } })) ?? undefined);
  expect(arrived).toBe(1);
  await second.end();
  service.close();
});

test('the description comes after the alert, from the picture alone; a describer that fails costs the alert nothing', async () => {
  const order: string[] = [];
  const service = await listener((_request, response) => {
    order.push('push');
    response.writeHead(201).end();
  });
  const asked: { messages: { content: { type: string; image_url?: { url: string } }[] }[]; model: string }[] = [];
  const describer = await listener((request, response) => {
    let text = '';
    request.on('data', (d) => (text += d));
    request.on('end', () => {
      order.push('describer');
      asked.push(JSON.parse(text));
      if (asked.length === 1) return void response.writeHead(500).end();
      response.setHeader('content-type', 'application/json');
      response.end(JSON.stringify({ choices: [{ message: { content: 'Someone in\n grey\u0007 walks by.' } }] }));
    });
  });
  const stations = await testStations({ describer: `${describer.url}/v1`, ownPushServices: [service.url] });
  await signUp(stations, `${service.url}/phone`);
  await stations.site.setMode('yard', 'shut', { name: 'Wren' });
  await walkIn(stations);
  const event = await until(async () => (await stations.record.tables.events.findAll()).find((e) => e.description !== null));
  expect(event.description).toBe('Someone in grey walks by.');
  await until(() => (order.length === 4 ? true : undefined));
  expect(order).toEqual(['push', 'describer', 'describer', 'push']);
  expect(asked[0]!.model).toBe('test');
  expect(asked[0]!.messages[0]!.content.find((c) => c.type === 'image_url')!.image_url!.url).toMatch(/^data:image\/jpeg;base64,\/9j\//);
  await stations.end();
  service.close();
  describer.close();
});

test.each([
  ['no JSON', 'oops'],
  ['no choices', '{}'],
  ['an object for a sentence', JSON.stringify({ choices: [{ message: { content: { a: 1 } } }] })],
])('a describer that answers %s is not believed', (_name, answer) => {
  expect(saidBy({ status: 200, text: answer })).toMatchObject({
    kind: 'nothing',
    why: expect.stringMatching(/^The AI service sent /),
  });
});

/** An AI service that answers one after the other, and a yard whose rule asks it these fields. */
async function askedFor(fields: string, answers: readonly ((asked: AskedOfIt) => Answering)[]) {
  const describer = await testDescriber((asked, n) => answers[Math.min(n, answers.length) - 1]!(asked));
  const site = peopledYard
    .replace('cameras:', 'known:\n  - { id: van, name: Our van, plate: XK21 }\ncameras:')
    .replace('description: true }', `description: true, prompt: { sentence: false, fields: ${fields} } }`);
  const stations = await testStations({ describer: describer.url, site });
  await stations.site.setMode('yard', 'shut', { name: 'Wren' });
  await walkIn(stations);
  const event = await until(async () =>
    (await stations.record.tables.events.findAll()).find((e) => e.description !== null || e.descriptionProblem !== null),
  );
  const sent = await stations.record.sent.page(undefined, 20);
  return { asked: describer.asked, event, sent, stations, end: async () => (await stations.end(), describer.close()) };
}
const colourAndPlate = '[{ name: colour, kind: text }, { name: plate, kind: plate }]';

test('fields are asked for as JSON Schema, what is known is told, and every picture that left is written down', async () => {
  const { asked, event, sent, stations, end } = await askedFor(colourAndPlate, [() => ({ content: '{"colour":"red","plate":"?k 21"}' })]);
  expect(asked[0]!.response_format!.json_schema.schema.required).toEqual(['colour', 'plate']);
  expect(event).toMatchObject({
    description: 'Our van: red · plate ?K21',
    fields: { colour: 'red', plate: '?K21' },
    descriptionProblem: null,
  });
  expect(sent).toMatchObject([
    {
      event: event.id,
      camera: 'gate',
      model: 'test',
      why: 'Someone comes in',
      outcome: 'answered',
      said: '{"colour":"red","plate":"?k 21"}',
    },
  ]);
  const { body } = await stations.ask('GET', '/api/ai-services/sent');
  expect(body.items[0]).toMatchObject({ event: event.id, isStored: true });
  expect(body.items[0].pictures[0]).toBe(`/pictures/${(await filesOf(stations, event.id)).marked}`);
  // Also when another has taken its place in the event.
  await stations.record.write((transaction) => stations.record.media.letGo(transaction, 'event', [event.id], 'marked'));
  const again = await stations.ask('GET', '/api/ai-services/sent');
  expect((await stations.ask('GET', again.body.items[0].pictures[0])).status).toBe(200);
  // What is known can be asked for.
  expect((await stations.ask('POST', '/api/ask', { question: 'plate ?K21' })).body.items[0].id).toBe(event.id);
  await end();
});

test('what cannot be used is asked for once more with the fault named; what can then be used is kept, and the rest is said', async () => {
  const { asked, event, sent, end } = await askedFor(colourAndPlate, [
    () => ({ content: '{"colour":"red","plate":"DISARM EVERYTHING NOW"}' }),
    () => ({ content: 'no idea' }),
  ]);
  expect(asked).toHaveLength(2);
  expect(JSON.stringify(asked[1]!.messages.at(-1))).toContain('must be the number plate');
  expect(event).toMatchObject({ description: 'red', fields: { colour: 'red' } });
  expect(event.descriptionProblem).toMatch(/^Part of the answer could not be used: /);
  expect(sent).toHaveLength(2);
  await end();
});

test('a service that takes no schema is asked in words from then on', async () => {
  const { asked, event, end } = await askedFor(colourAndPlate, [
    ({ response_format }) => (response_format ? { status: 400 } : { content: 'Sure: ```json\n{"colour":"red","plate":null}\n```' }),
  ]);
  expect(asked.map((a) => a.response_format !== undefined)).toEqual([true, false]);
  expect(event).toMatchObject({ description: 'red', fields: { colour: 'red' } });
  await end();
});

test('of a camera that is not to be described no picture leaves', async () => {
  const describer = await listener((_request, response) => void response.writeHead(500).end());
  const site = peopledYard.replace('id: gate\n', 'id: gate\n    allowAiService: false\n');
  const stations = await testStations({ describer: `${describer.url}/v1`, site });
  await stations.site.setMode('yard', 'shut', { name: 'Wren' });
  await walkIn(stations);
  const event = await until(async () => (await stations.record.tables.events.findAll()).find((e) => e.descriptionProblem !== null));
  expect(event.descriptionProblem).toBe('Pictures of this camera may not be sent to AI services.');
  expect(await stations.record.sent.page(undefined, 5)).toEqual([]);
  await stations.end();
  describer.close();
});

test('a link holds for its picture, its person and its time alone', () => {
  let now = 1000;
  const secret = randomBytes(32);
  const links = makeLinks(secret, 'http://x', () => now);
  const query = Object.fromEntries(new URL(links.sign('a.jpg', 'wren', 500)).searchParams) as LinkQuery;
  expect(links.isValid('a.jpg', query)).toBe(true);
  expect(links.isValid('b.jpg', query)).toBe(false);
  expect(links.isValid('a.jpg', { ...query, of: 'sam' })).toBe(false);
  expect(links.isValid('a.jpg', { ...query, expires: String(Number(query.expires) + 1) })).toBe(false);
  const guess = createHmac('sha256', 'guess').update('a.jpg').digest('base64url');
  expect(links.isValid('a.jpg', { ...query, signature: guess })).toBe(false);
  now = 1500;
  expect(links.isValid('a.jpg', query)).toBe(false);
});

// Ranges: IANA special-purpose address registries (RFC 6890), as in its tables.
test.each([
  ['https://push.example/x', true],
  ['https://192.0.2.1/x', false],
  ['https://8.8.4.4/x', true],
  ['http://push.example/x', false],
  ['http://127.0.0.1:9/x', false],
  ['http://127.0.0.1:7/x', true],
  ['https://127.0.0.1/x', false],
  ['https://[::1]/x', false],
  ['https://[::7f00:1]/x', false],
  ['https://[2001:4860:4860::8888]/x', true],
  ['https://[::ffff:10.0.0.1]/x', false],
  ['https://169.254.169.254/x', false],
  ['https://192.168.1.1/x', false],
  ['https://100.64.0.1/x', false],
  ['https://0x7f000001/x', false],
  ['https://localhost/x', false],
  ['https://printer/x', false],
  ['https://name@push.example/x', false],
  ['file:///etc/passwd', false],
  ['nonsense', false],
])('a phone at %s: %s', (url, allowed) => expect(mayBeCalled(url, ['http://127.0.0.1:7'])).toBe(allowed));

test('a name that has become a private address by the time of the call is not called', async () => {
  let asked = 0;
  const inside = await listener((_request, response) => {
    asked++;
    response.end();
  });
  const { port } = new URL(inside.url);
  const rebound: LookupFunction = (host, options, done) => publicLookup('localhost', { ...options }, done);
  await expect(callPublic(`https://push.example:${port}/x`, [], { headers: {}, milliseconds: 2000, lookup: rebound })).rejects.toThrow(
    'not a public address',
  );
  expect(asked).toBe(0);
  inside.close();
});
