// How each person is told: by their next channel where one fails, many at once as one, what was kept back in the morning, and what they do from a
// notification.

import { createECDH, createDecipheriv, createHmac, randomBytes } from 'node:crypto';
import { createServer } from 'node:http';
import { peopledYard, testStations, until, walkIn, type TestStations } from '../testing/stations';
import type { Notice } from './channels';
import { makeActionTokens } from '../base/actions';
import { lastSummaryTime, sumUp } from './summary';

const closing: (() => unknown)[] = [];
/** A track that no one looks at ends after a minute: each comes when the one before is gone. */
const betweenMs = 70_000;
let walks = 0;
const walkOn = (stations: TestStations) => walkIn(stations, betweenMs * walks++);
afterEach(async () => {
  walks = 0;
  for (const close of closing.splice(0).reverse()) await close();
});

/** Opens what was sealed to a phone, as RFC 8291 and RFC 8188 say, from their words alone. */
function opened(body: Buffer, keys: ReturnType<typeof createECDH>, auth: Buffer): Notice {
  const [salt, idLength] = [body.subarray(0, 16), body[20]!];
  const sender = body.subarray(21, 21 + idLength);
  const hmac = (key: Buffer, data: Buffer) => createHmac('sha256', key).update(data).digest();
  const info = Buffer.concat([Buffer.from('WebPush: info\0'), keys.getPublicKey(), sender]);
  const secret = hmac(hmac(auth, keys.computeSecret(sender)), Buffer.concat([info, Buffer.from([1])]));
  const extracted = hmac(salt, secret);
  const key = hmac(extracted, Buffer.from('Content-Encoding: aes128gcm\0\x01')).subarray(0, 16);
  const nonce = hmac(extracted, Buffer.from('Content-Encoding: nonce\0\x01')).subarray(0, 12);
  const sealed = body.subarray(21 + idLength);
  const decipher = createDecipheriv('aes-128-gcm', key, nonce).setAuthTag(sealed.subarray(-16));
  const padded = Buffer.concat([decipher.update(sealed.subarray(0, -16)), decipher.final()]);
  return JSON.parse(padded.subarray(0, padded.lastIndexOf(2)).toString()) as Notice;
}

/** A push service and a gateway for text messages at one address, which can be told what to answer. */
async function outside() {
  const keys = createECDH('prime256v1');
  keys.generateKeys();
  const auth = randomBytes(16);
  const notices: Notice[] = [];
  const texts: string[] = [];
  let pushAnswers = 201;
  const server = createServer((request, response) => {
    const pieces: Buffer[] = [];
    request.on('data', (piece: Buffer) => pieces.push(piece));
    request.on('end', () => {
      const isPush = request.url!.startsWith('/push');
      if (!isPush) texts.push(decodeURIComponent(request.url!.split('text=')[1]!));
      else if (pushAnswers < 300) notices.push(opened(Buffer.concat(pieces), keys, auth));
      response.writeHead(isPush ? pushAnswers : 200).end();
    });
  });
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  closing.push(() => (server.closeAllConnections(), server.close()));
  const url = `http://127.0.0.1:${(server.address() as { port: number }).port}`;
  const phone = {
    label: 'test',
    endpoint: `${url}/push/1`,
    keys: { p256dh: keys.getPublicKey('base64url'), auth: auth.toString('base64url') },
  };
  return { url, phone, notices, texts, answer: (status: number) => void (pushAnswers = status) };
}

async function place(person = '', more = '', change = (text: string) => text) {
  const out = await outside();
  const site = peopledYard
    .replace('name: Wren, role: owner }', `name: Wren, role: owner, phone: "+351900000001"${person} }`)
    .replace('cooldownSeconds: 300', 'cooldownSeconds: 0')
    .replace('description: true', 'description: false')
    .concat(`channels: { text: { url: "${out.url}/send?to={to}&text={text}", method: GET }${more} }\n`);
  const stations = await testStations({ site: change(site), ownPushServices: [out.url], ownServices: [out.url] });
  closing.push(() => stations.end());
  await stations.ask('POST', '/api/phones', out.phone);
  await stations.site.setMode('yard', 'shut', { name: 'Wren' });
  return { stations, ...out };
}
const alerts = async (stations: TestStations) =>
  (await stations.record.tables.alerts.findAll({ order: [['rowid' as never, 'ASC']] })).map((a) => a.get({ plain: true }));
const sent = (stations: TestStations, count: number) =>
  until(async () => ((await alerts(stations)).filter((a) => a.state === 'sent').length >= count ? true : undefined));

test('a phone that has signed off hands over to their next channel at once; no one is told twice', async () => {
  const { stations, texts, answer } = await place();
  answer(410);
  await walkOn(stations);
  await until(() => (texts.length ? true : undefined));
  await sent(stations, 1);
  expect((await alerts(stations)).map((a) => [a.channel, a.state])).toEqual([
    ['push', 'rerouted'],
    ['text', 'sent'],
  ]);
  expect((await alerts(stations))[0]!.why).toBe(
    'The push notification did not reach Wren: The phone was unregistered. Sent by text message instead.',
  );
  expect(texts).toHaveLength(1);
});

test('a channel that has failed for two minutes hands over, and is given up for that alert', async () => {
  const { stations, texts, answer, notices } = await place();
  answer(503);
  await walkOn(stations);
  await until(async () => (await stations.record.channelStates.all()).find((s) => s.refusedAt !== null));
  expect(texts).toEqual([]);
  const [alert] = await alerts(stations);
  await stations.record.write((transaction) =>
    stations.record.alerts.change(alert!.id, { madeAtMachine: alert!.madeAtMachine! - 121_000 }, transaction),
  );
  await until(() => (texts.length ? true : undefined));
  await sent(stations, 1);
  answer(201);
  expect(await stations.record.jobs.next('push', stations.clock.machine() + 3_600_000, [], 9)).toEqual([]);
  expect([texts.length, notices.length]).toEqual([1, 0]);
});

test('many at once are one more alert that counts them; urgent ones come by themselves', async () => {
  const { stations, notices } = await place('', ', maxPerMinute: 2');
  for (let i = 0; i < 5; i++) {
    await walkOn(stations);
    await until(async () => ((await stations.record.tables.events.count()) > i ? true : undefined));
  }
  expect((await alerts(stations)).map((a) => a.state).filter((s) => s === 'combined')).toHaveLength(2);
  await sent(stations, 3);
  const many = (await until(() => notices.find((n) => n.kind === 'fill-in' && / more alerts/.test(n.title)), 60_000))!;
  // The first that was too many, and the two that were joined to it.
  expect([many.title, many.body, many.silent]).toEqual(['3 more alerts within a minute', 'Someone comes in 3', true]);
  expect(notices.filter((n) => n.kind === 'alert')).toHaveLength(3);
  await stations.site.edit([[['rules', 'comes-in', 'urgent'], true]], { by: { name: 'Wren', role: 'owner' }, what: 'x' });
  await walkOn(stations);
  await sent(stations, 4);
}, 90_000);

test('what is kept to the morning is told then, once, and says how much it was', async () => {
  const { stations, notices } = await place(', alertPreferences: { comes-in: summary }, summary: { at: "07:00" }');
  await walkOn(stations);
  await walkOn(stations);
  await until(async () => ((await stations.record.tables.events.count()) === 2 ? true : undefined));
  expect((await alerts(stations)).map((a) => [a.state, a.why])).toEqual(
    new Array(2).fill(['suppressed', 'Wren gets it in the summary at 07:00']),
  );
  const needs = {
    ...stations,
    publicUrl: '',
    changed: () => {},
    clock: { ...stations.clock, now: () => stations.clock.now() + 86_400_000 },
  };
  expect(await sumUp(needs)).toHaveLength(2);
  expect(await sumUp(needs)).toHaveLength(0);
  const queued = await stations.record.jobs.next('push', stations.clock.machine(), [], 9);
  expect(queued).toHaveLength(1);
  await walkOn(stations);
  const notified = await until(() => notices.find((n) => /since/.test(n.title)));
  expect([notified.title.startsWith('2 events since'), notified.body, notified.open.endsWith('/events')]).toEqual([
    true,
    'Someone comes in 2',
    true,
  ]);
});

test.each([
  // Lisbon: on 29 March 2026 the clock goes from 01:00 to 02:00 (IANA zone data).
  ['07:00', '2026-06-02T06:30:00Z', '2026-06-02T06:00:00Z'],
  ['07:00', '2026-06-02T05:59:00Z', '2026-06-01T06:00:00Z'],
  ['01:30', '2026-03-29T12:00:00Z', '2026-03-28T01:30:00Z'],
])('the last %s before %s', (at, now, expected) => {
  expect(new Date(lastSummaryTime({ summary: { at } }, 'Europe/Lisbon', Date.parse(now))).toISOString()).toBe(
    new Date(expected).toISOString(),
  );
});

test('a locked phone shows as much as its owner wants', async () => {
  const { stations, notices } = await place();
  const show = (lockScreen: string) => stations.ask('PUT', '/api/me', { lockScreen });
  await walkOn(stations);
  await until(() => (notices.length === 1 ? true : undefined));
  await sent(stations, 1);
  await show('words');
  await walkOn(stations);
  await until(() => (notices.length === 2 ? true : undefined));
  await sent(stations, 2);
  await show('something');
  await walkOn(stations);
  await until(() => (notices.length === 3 ? true : undefined));
  expect(notices.map((n) => [n.title, n.small !== null])).toEqual([
    ['Someone comes in', true],
    ['Someone comes in', false],
    ['Nibber', false],
  ]);
  expect(notices[2]!.body).toBe('Something happened at Example yard.');
  expect(notices.map((n) => n.badge)).toEqual([1, 2, 3]);
});

test('an action is done once, by its token, by whoever may; it is no session', async () => {
  const { stations, notices } = await place();
  await walkOn(stations);
  const [notice] = (await until(() => (notices.length ? notices : undefined)))!;
  expect(notice!.actions.map((a) => a.words)).toEqual(['Quiet for an hour', 'Noise']);
  const act = (token: string) => stations.ask('POST', '/api/actions', { token }, {});
  const [quiet, noise] = notice!.actions.map((a) => a.token) as [string, string];
  const [one, two] = await Promise.all([act(quiet), act(quiet)]);
  expect([one.status, two.status]).toEqual([200, 200]);
  expect(await stations.record.people.snoozes(stations.clock.now(), 'wren')).toHaveLength(1);
  expect((await stations.record.tables.logbook.findAll()).filter((l) => /for an hour/.test(l.what))).toHaveLength(1);
  expect((await act(noise)).body.done).toBe('Marked as noise');
  expect((await stations.record.events.find(notice!.of?.event ?? notice!.open.split('/').at(-1)!))!.mark).toBe('noise');
  // A token opens nothing else, and what was changed in it is refused.
  expect((await stations.ask('GET', '/api/rules', undefined, { authorization: `Bearer ${quiet}` })).status).toBe(401);
  expect((await act(`${quiet.slice(0, -3)}AAA`)).status).toBe(403);
  const forged = makeActionTokens(randomBytes(32), stations.clock.machine).make({ alert: notice!.id, person: 'wren', action: 'quiet' });
  expect((await act(forged)).status).toBe(403);
  const late = makeActionTokens(Buffer.alloc(32, 1), () => 0);
  expect(
    makeActionTokens(Buffer.alloc(32, 1), () => 86_400_001).read(late.make({ alert: 'a', person: 'p', action: 'quiet' })),
  ).toBeUndefined();
  // The next is kept from them by what they did, and says so.
  await walkOn(stations);
  await until(async () =>
    (await alerts(stations)).some((a) => a.state === 'suppressed' && /snoozed it until/.test(a.why ?? '')) ? true : undefined,
  );
});

test('they set what is theirs, and nothing else; a snooze until the mode changes ends with it', async () => {
  const { stations } = await place();
  await stations.access.addAccount({ name: 'Sam', person: 'sam', role: 'member', password: 'a long enough one' });
  const sam = { cookie: `nibber-session=${await stations.access.signIn('Sam', 'a long enough one', null)}` };
  const put = (route: string, body: unknown) => stations.ask('PUT', route, body, sam);
  expect((await put('/api/me', { mail: 'sam@withy.example', channels: ['mail', 'push'] })).body.person).toMatchObject({
    mail: 'sam@withy.example',
  });
  expect((await put('/api/me', { mail: null })).body.person.mail).toBeUndefined();
  expect((await put('/api/me', { role: 'owner' })).status).toBe(400);
  expect((await put('/api/me', { mail: 'a@b.example, c@d.example' })).status).toBe(400);
  const quiet = (await put('/api/me/quiet-hours', { schedule: { weekly: { mon: ['22:00-06:00'] } } })).body.quietHours;
  expect(quiet).toMatchObject({ isOwn: true, weekly: { mon: ['22:00-06:00'] } });
  // What others go by is not theirs to change: they get a plan of their own.
  await stations.site.edit(
    [
      [['people', 'sam', 'quietHours'], 'closed'],
      [['rules', 'comes-in', 'schedule'], 'closed'],
    ],
    { by: { name: 'Wren', role: 'owner' }, what: 'x' },
  );
  const own = (await put('/api/me/quiet-hours', { schedule: { weekly: { tue: ['22:00-06:00'] } } })).body.quietHours;
  expect(own.id).not.toBe('closed');
  expect(stations.site.file.schedules!.find((h) => h.id === 'closed')!.weekly).not.toHaveProperty('tue', ['22:00-06:00']);
  const snooze = (body: object) => stations.ask('POST', '/api/me/snoozes', body, sam);
  expect((await snooze({ area: 'yard', until: null })).status).toBe(200);
  expect((await snooze({ rule: 'nothing', until: null })).status).toBe(404);
  expect((await snooze({ until: 5 })).status).toBe(400);
  expect((await stations.ask('GET', '/api/me', undefined, sam)).body.snoozes).toMatchObject([{ words: 'Yard, until the mode changes' }]);
  await stations.site.setMode('yard', 'open', { name: 'Wren' });
  await until(async () => ((await stations.ask('GET', '/api/me', undefined, sam)).body.snoozes.length === 0 ? true : undefined));
});

test('why did I (not) get this is answered from the record', async () => {
  const { stations, notices } = await place();
  await walkOn(stations);
  await until(() => (notices.length ? true : undefined));
  await sent(stations, 1);
  const event = (await stations.record.tables.events.findOne())!;
  await stations.ask('GET', `/api/events/${event.id}`);
  const why = async (at: number, person = '') => (await stations.ask('GET', `/api/why?camera=gate&at=${at}${person}`)).body;
  const [found] = (await why(event.at)).found;
  expect(found.item.id).toBe(event.id);
  expect(found.alerts).toMatchObject([
    { person: 'Wren', channel: 'push', state: 'sent', sentAt: expect.any(Number), viewedAt: expect.any(Number) },
  ]);
  expect((await why(event.at, '&person=sam')).found[0].alerts).toEqual([]);
  const earlier = await why(event.at - 3_600_000);
  expect([earlier.found, earlier.before, earlier.after !== null]).toEqual([[], null, true]);
});

test('a phone that its owner ends is told nothing more, not even what is on its way; what lets it in is over too', async () => {
  const { stations, notices, answer, phone, url } = await place();
  await stations.access.addAccount({ name: 'Sam', person: 'sam', role: 'member', password: 'a long enough one' });
  const sam = { cookie: `nibber-session=${await stations.access.signIn('Sam', 'a long enough one', null)}` };
  // It is Sam's, at a push service that does not take anything just now.
  const own = { ...phone, label: 'Sam’s', endpoint: `${url}/push/2` };
  const made = await stations.ask('POST', '/api/phones', own, sam);
  expect(made.status).toBe(200);
  await stations.site.edit([[['rules', 'comes-in', 'notify'], [{ to: 'sam', channel: 'push' }]]], {
    by: { name: 'Wren', role: 'owner' },
    what: 'x',
  });
  answer(503);
  await walkOn(stations);
  await until(async () =>
    (await stations.record.channelStates.all()).find((s) => s.key === `push/${made.body.id}` && s.refusedAt !== null),
  );
  expect((await stations.ask('DELETE', `/api/phones/${made.body.id}`)).status).toBe(200);
  answer(201);
  await until(async () => ((await alerts(stations)).some((a) => a.state === 'undeliverable') ? true : undefined), 30_000);
  expect(notices).toEqual([]);
  expect((await stations.ask('GET', '/api/rules', undefined, sam)).status).toBe(401);
});
