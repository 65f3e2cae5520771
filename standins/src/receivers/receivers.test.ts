import { ofReceiver } from '@nibber/server/tell/channels/secrets';
import { createServer } from 'node:http';
import { CloudEvent } from 'cloudevents';
import express from 'express';
import { peopledYard, testStations, until, walkIn, type TestStations } from '@nibber/server/testing/stations';
import { signatureOf } from '@nibber/server/tell/channels/webhook';
import { broker, textGateway, webhookReceiver, wrongIn, type Broker } from './server';

const closing: (() => unknown)[] = [];
afterEach(async () => {
  for (const close of closing.splice(0).reverse()) await close();
});

async function listening(app: express.Express): Promise<string> {
  const server = createServer(app);
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  closing.push(() => (server.closeAllConnections(), server.close()));
  return `http://127.0.0.1:${(server.address() as { port: number }).port}`;
}

async function place(tell: string, more: string, options: Parameters<typeof testStations>[0] = {}): Promise<TestStations> {
  const stations = await testStations({
    site: peopledYard
      .replace('role: owner }', 'role: owner, phone: "+351900000001" }')
      .replaceAll('tell: [{ to: owner, by: push }]', `tell: [${tell}]`)
      .concat(more),
    ...options,
  });
  closing.push(() => stations.end());
  await stations.site.setMode('yard', 'shut', { name: 'Wren' });
  return stations;
}

test('a webhook is a CloudEvent that its receiver can prove; its picture is there for whoever holds the link', async () => {
  const hook = webhookReceiver();
  const url = await listening(express().use(hook.router));
  const stations = await place('{ to: board, by: webhook }', `receivers: [{ id: board, name: Board, by: webhook, url: "${url}/events" }]\n`, { ownServices: [url] }); // prettier-ignore
  hook.setSecret('a secret of ours');
  await stations.record.write((transaction) => stations.secrets.give(ofReceiver(stations.site.file.receivers![0]!), 'a secret of ours', transaction));
  await walkIn(stations);
  const [told] = (await until(() => (hook.taken().length ? hook.taken() : undefined))) as { id: string; data: { picture: string; rule: string; title: string } }[]; // prettier-ignore
  // The reference library of the standard reads it strictly (CloudEvents 1.0.2).
  expect(() => new CloudEvent(told as never, true)).not.toThrow();
  expect(told).toMatchObject({
    specversion: '1.0',
    type: 'nibber.alert',
    subject: 'gate',
    data: { rule: 'comes-in', title: 'Somebody comes in' },
  });
  const picture = await fetch(told!.data.picture);
  expect([picture.status, picture.headers.get('content-type')]).toEqual([200, 'image/jpeg']);
  expect(hook.refused()).toEqual([]);
  // Taken out, its links are of no use.
  await stations.ask('DELETE', '/api/receivers/board');
  expect((await fetch(told!.data.picture)).status).toBe(401);
});

test('a body that was changed, a copy that comes later, another secret: the receiver knows', () => {
  const at = 1_800_000_000;
  const body = '{"id":"1"}';
  const headers = { 'nibber-time': String(at), 'nibber-signature': signatureOf('ours', at, body) };
  expect(wrongIn('ours', at + 299, headers, body)).toBeUndefined();
  expect(wrongIn('ours', at + 301, headers, body)).toMatch(/too old/);
  expect(wrongIn('ours', at, headers, '{"id":"2"}')).toMatch(/signature/);
  expect(wrongIn('theirs', at, headers, body)).toMatch(/signature/);
  expect(wrongIn('ours', at, { ...headers, 'nibber-time': String(at + 1) }, body)).toMatch(/signature/);
});

// RFC 4231, test case 2, over what is signed here: the key "Jefe" and the data "what do ya want for nothing?" are the standard's; the time stands before ours.
test('the signature is HMAC-SHA-256 over time and body', () => {
  const { createHmac } = jest.requireActual<typeof import('node:crypto')>('node:crypto');
  expect(createHmac('sha256', 'Jefe').update('what do ya want for nothing?').digest('hex')).toBe('5bdcc146bf60754e6a042426089575c75a003f089d2739839dec58b964ec3843'); // prettier-ignore
  expect(signatureOf('Jefe', 7, 'x')).toBe(`sha256=${createHmac('sha256', 'Jefe').update('7.x').digest('hex')}`);
});

test('a receiver that refuses is tried again and told once; what it answers is capped, and so is what is shown of it', async () => {
  const hook = webhookReceiver();
  const url = await listening(express().use(hook.router));
  const stations = await place('{ to: board, by: webhook }', `receivers: [{ id: board, name: Board, by: webhook, url: "${url}/events" }]\n`, { ownServices: [url] }); // prettier-ignore
  hook.setSecret('s');
  await stations.record.write((transaction) => stations.secrets.give(ofReceiver(stations.site.file.receivers![0]!), 's', transaction));
  hook.setFault('rubbish');
  await walkIn(stations);
  const state = await until(async () => (await stations.record.channelStates.all()).find((s) => s.refusedAt !== null));
  expect([state.key, state.why!.length < 300]).toEqual(['webhook/board', true]);
  hook.setFault('none');
  await until(() => (hook.taken().length ? true : undefined));
  await until(async () => (await stations.record.tables.alerts.findOne({ where: { state: 'sent', person: 'board' } })) ?? undefined);
  expect(hook.taken()).toHaveLength(1);
});

test('private addresses are not called unless they were named when the program was started', async () => {
  const stations = await place('{ to: owner, by: push }', '');
  const refused = await stations.ask('POST', '/api/receivers', {
    receiver: { name: 'Inside', by: 'webhook', url: 'http://127.0.0.1:9/x' },
  });
  expect([refused.status, refused.body.error.message]).toEqual([400, 'This address may not be called.']);
  const gateway = { url: 'http://169.254.169.254/?{to}{text}', method: 'GET' };
  expect((await stations.ask('PUT', '/api/channels/text', { text: gateway })).status).toBe(400);
  expect((await stations.ask('POST', '/api/channels/text/try', { text: gateway, to: '+351900000001' })).status).toBe(400);
  const made = await stations.ask('POST', '/api/receivers', {
    receiver: { name: 'Board', by: 'webhook', url: 'https://board.example/in' },
  });
  expect(made.body).toMatchObject({ id: 'board', secret: expect.stringMatching(/^[\w-]{43}$/) });
  // Shown once; the site file names no secret, and no answer holds it.
  expect(JSON.stringify([(await stations.ask('GET', '/api/channels')).body, stations.site.text])).not.toContain(made.body.secret);
});

const gatewayAt = (url: string) => ({
  url: `${url}/messages`,
  headers: { 'Content-Type': 'application/json', Authorization: 'Bearer {secret}' },
  body: '{"to":"{to}","text":"{text}"}',
  accepted: '"queued":true',
});

test('a gateway is tried before it is saved, says what it answered, and then sends', async () => {
  const gateway = textGateway('key-1');
  const url = await listening(express().use(gateway.router));
  const stations = await place('{ to: owner, by: text }', '', { ownServices: [url] });
  const attempt = (secret: string) => stations.ask('POST', '/api/channels/text/try', { text: gatewayAt(url), to: '+351900000001', secret });
  const wrong = (await attempt('key-2')).body;
  expect(wrong.accepted).toBe(false);
  // What it echoes of the key is not shown.
  expect(wrong.said).toMatch(/401/);
  expect(wrong.said).not.toContain('key-2');
  gateway.setFault('no credit');
  expect((await attempt('key-1')).body).toMatchObject({ accepted: false, said: expect.stringContaining('no credit') });
  gateway.setFault('rubbish');
  expect((await attempt('key-1')).body.accepted).toBe(false);
  gateway.setFault('none');
  expect((await attempt('key-1')).body).toMatchObject({ accepted: true, said: expect.stringContaining('queued') });
  expect(stations.site.file.channels?.text).toBeUndefined();
  await stations.ask('PUT', '/api/channels/text', { text: gatewayAt(url), secret: 'key-1' });
  await walkIn(stations);
  const [message] = (await until(() => (gateway.sent().length === 2 ? gateway.sent().slice(1) : undefined)))!;
  expect(message).toMatchObject({ to: '+351900000001', text: expect.stringMatching(/^Somebody comes in, .+ http:\/\/127\.0\.0\.1:\d+\/moment\/[\w-]+$/) }); // prettier-ignore
  expect(stations.site.text).not.toContain('key-1');
});

test('a broker holds how the place stands, and hears of what happens without holding it', async () => {
  const bus: Broker = await broker(0, { user: 'nibber', password: 'withy-bus' });
  closing.push(() => bus.close());
  const stations = await place(
    '{ to: bus, by: mqtt }',
    `receivers: [{ id: bus, name: Bus, by: mqtt, url: "${bus.url}", topic: withy, user: nibber }]\n`,
  );
  const say = () => stations.brokers.sayState(() => 'running');
  // Without a password it is not called, and says so where it is tried.
  expect((await stations.ask('POST', '/api/receivers/bus/try')).body).toMatchObject({ accepted: false, said: expect.stringMatching(/no password is kept/) }); // prettier-ignore
  await stations.record.write((transaction) => stations.secrets.give(ofReceiver(stations.site.file.receivers![0]!), 'withy-bus', transaction));
  await until(async () => (await say(), bus.retained()['withy/state'] ? true : undefined));
  expect(bus.retained()).toEqual({ 'withy/state': 'online', 'withy/areas/yard/mode': 'shut', 'withy/cameras/gate/state': 'running', 'withy/cameras/side/state': 'running' }); // prettier-ignore
  await walkIn(stations);
  const heard = await until(() => bus.said().find((s) => s.topic === 'withy/events/comes-in'));
  expect(() => new CloudEvent(JSON.parse(heard.payload), true)).not.toThrow();
  expect(bus.retained()['withy/events/comes-in']).toBeUndefined();
  await stations.site.setMode('yard', 'open', { name: 'Wren' });
  await say();
  expect(bus.retained()['withy/areas/yard/mode']).toBe('open');
});
