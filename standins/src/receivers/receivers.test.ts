import { ofReceiver } from '@nibber/server/db/secrets';
import { createServer as createHttpServer } from 'node:http';
import { createServer, type AddressInfo, type Socket } from 'node:net';
import { CloudEvent } from 'cloudevents';
import express from 'express';
import { generate } from 'selfsigned';
import { peopledYard, testStations, until, walkIn, type TestStations } from '@nibber/server/testing/stations';
import { signatureOf } from '@nibber/server/notify/channels/webhook';
import { broker, receiverSignIn, textGateway, webhookReceiver, wrongIn, type Broker } from './server';

const closing: (() => unknown)[] = [];
afterEach(async () => {
  for (const close of closing.splice(0).reverse()) await close();
});

async function listening(app: express.Express): Promise<string> {
  const server = createHttpServer(app);
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  closing.push(() => (server.closeAllConnections(), server.close()));
  return `http://127.0.0.1:${(server.address() as { port: number }).port}`;
}

async function place(tell: string, more: string, options: Parameters<typeof testStations>[0] = {}): Promise<TestStations> {
  const stations = await testStations({
    site: peopledYard
      .replace('role: owner }', 'role: owner, phone: "+351900000001" }')
      .replaceAll('notify: [{ to: owner, channel: push }]', `notify: [${tell}]`)
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
  const stations = await place(
    '{ to: board, channel: webhook }',
    `receivers: [{ id: board, name: Board, by: webhook, url: "${url}/events" }]\n`,
    { ownServices: [url] },
  );
  hook.setSecret('a secret of ours');
  await stations.record.write((transaction) =>
    stations.secrets.give(ofReceiver(stations.site.file.receivers![0]!), 'a secret of ours', transaction),
  );
  await walkIn(stations);
  const [told] = (await until(() => (hook.taken().length ? hook.taken() : undefined))) as {
    id: string;
    data: { picture: string; rule: string; title: string };
  }[];
  // The reference library of the standard reads it strictly (CloudEvents 1.0.2).
  expect(() => new CloudEvent(told as never, true)).not.toThrow();
  expect(told).toMatchObject({
    specversion: '1.0',
    type: 'nibber.alert',
    subject: 'gate',
    data: { rule: 'comes-in', title: 'Someone comes in' },
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
  expect(createHmac('sha256', 'Jefe').update('what do ya want for nothing?').digest('hex')).toBe(
    '5bdcc146bf60754e6a042426089575c75a003f089d2739839dec58b964ec3843',
  );
  expect(signatureOf('Jefe', 7, 'x')).toBe(`sha256=${createHmac('sha256', 'Jefe').update('7.x').digest('hex')}`);
});

test('a receiver that refuses is tried again and told once; what it answers is capped, and so is what is shown of it', async () => {
  const hook = webhookReceiver();
  const url = await listening(express().use(hook.router));
  const stations = await place(
    '{ to: board, channel: webhook }',
    `receivers: [{ id: board, name: Board, by: webhook, url: "${url}/events" }]\n`,
    { ownServices: [url] },
  );
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
  const stations = await place('{ to: owner, channel: push }', '');
  const refused = await stations.ask('POST', '/api/receivers', {
    receiver: { name: 'Inside', by: 'webhook', url: 'http://127.0.0.1:9/x' },
  });
  expect([refused.status, refused.body.error.message]).toEqual([400, 'This address is not allowed.']);
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
  const stations = await place('{ to: owner, channel: text }', '', { ownServices: [url] });
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
  expect(message).toMatchObject({
    to: '+351900000001',
    text: expect.stringMatching(/^Someone comes in, .+ http:\/\/127\.0\.0\.1:\d+\/events\/[\w-]+$/),
  });
  expect(stations.site.text).not.toContain('key-1');
});

test('a broker holds how the place stands, and hears of what happens without holding it', async () => {
  const bus: Broker = await broker(0, { user: 'nibber', password: 'withy-bus' });
  closing.push(() => bus.close());
  const stations = await place(
    '{ to: bus, channel: mqtt }',
    `receivers: [{ id: bus, name: Bus, by: mqtt, url: "${bus.url}", topic: withy, user: nibber }]\n`,
  );
  const say = () => stations.brokers.sayState(() => 'running');
  // Without a password it is not called, and says so where it is tried.
  expect((await stations.ask('POST', '/api/receivers/bus/try')).body).toMatchObject({
    accepted: false,
    said: expect.stringMatching(/this broker has no password/),
  });
  await stations.record.write((transaction) =>
    stations.secrets.give(ofReceiver(stations.site.file.receivers![0]!), 'withy-bus', transaction),
  );
  await until(async () => (await say(), bus.retained()['withy/state'] ? true : undefined));
  expect(bus.retained()).toEqual({
    'withy/state': 'online',
    'withy/areas/yard/mode': 'shut',
    'withy/cameras/gate/state': 'running',
    'withy/cameras/side/state': 'running',
  });
  await walkIn(stations);
  const heard = await until(() => bus.said().find((s) => s.topic === 'withy/events/comes-in'));
  expect(() => new CloudEvent(JSON.parse(heard.payload), true)).not.toThrow();
  expect(bus.retained()['withy/events/comes-in']).toBeUndefined();
  await stations.site.setMode('yard', 'open', { name: 'Wren' });
  await say();
  expect(bus.retained()['withy/areas/yard/mode']).toBe('open');
});

describe('what a broker holds goes with what it is of', () => {
  const receiverAt = (url: string, topic: string) => ({ id: 'bus', name: 'Bus', by: 'mqtt' as const, url, topic });
  const owner = { by: { name: 'Wren', role: 'owner' }, what: 'x' } as const;
  const open = () => broker(0, { user: undefined as never, password: undefined as never });
  let bus: Broker;
  let stations: Awaited<ReturnType<typeof place>>;
  const say = () => stations.brokers.sayState(() => 'running');
  const topics = () => Object.keys(bus.retained()).sort();
  beforeEach(async () => {
    bus = await open();
    closing.push(() => bus.close());
    stations = await place(
      '{ to: bus, channel: mqtt }',
      `receivers: [{ id: bus, name: Bus, by: mqtt, url: "${bus.url}", topic: withy }]\n`,
    );
    await until(async () => (await say(), topics().length === 4 ? true : undefined));
  });

  test('a camera that is removed', async () => {
    await stations.site.edit([[['cameras', 'side'], undefined]], owner);
    await until(async () => (await say(), topics().length === 3 ? true : undefined));
    expect(topics()).toEqual(['withy/areas/yard/mode', 'withy/cameras/gate/state', 'withy/state']);
  });

  test('topics that begin with another word', async () => {
    await stations.site.edit([[['receivers', 'bus'], receiverAt(bus.url, 'mere')]], owner);
    await until(async () => (await say(), topics().every((t) => t.startsWith('mere/')) && topics().length === 4 ? true : undefined));
  });

  test('a receiver that is moved to another broker, and one that is removed', async () => {
    const [before, next] = [bus, await open()];
    closing.push(() => next.close());
    await stations.site.edit([[['receivers', 'bus'], receiverAt(next.url, 'withy')]], owner);
    await until(async () => (await say(), Object.keys(next.retained()).length === 4 ? true : undefined));
    expect(before.retained()).toEqual({});
    await stations.site.edit(
      [
        [['rules', 'comes-in', 'notify'], [{ to: 'owner', channel: 'push' }]],
        [['receivers', 'bus'], undefined],
      ],
      owner,
    );
    await until(async () => (await say(), Object.keys(next.retained()).length === 0 ? true : undefined));
  });
});

test('a broker with a certificate of its own is trusted where it is named, and shown ours', async () => {
  const own = await generate([{ name: 'commonName', value: 'localhost' }], {
    keySize: 2048,
    extensions: [{ name: 'subjectAltName', altNames: [{ type: 2, value: 'localhost' }] }],
  } as never);
  const ours = await generate([{ name: 'commonName', value: 'nibber' }], { keySize: 2048 });
  const bus = await broker(0, receiverSignIn, { cert: own.cert, key: own.private, clients: ours.cert });
  closing.push(() => bus.close());
  const receivers = `receivers: [{ id: bus, name: Bus, by: mqtt, url: "${bus.url}", topic: withy, user: nibber }]\n`;
  const attempt = async (brokerTls: object) => {
    const stations = await place('{ to: bus, channel: mqtt }', receivers, { brokerTls });
    await stations.record.write((transaction) =>
      stations.secrets.give(ofReceiver(stations.site.file.receivers![0]!), receiverSignIn.password, transaction),
    );
    return (await stations.ask('POST', '/api/receivers/bus/try')).body.accepted as boolean;
  };
  expect(await attempt({})).toBe(false);
  expect(await attempt({ ca: own.cert })).toBe(false);
  expect(await attempt({ ca: own.cert, cert: ours.cert, key: ours.private })).toBe(true);
});

describe('brokers that are not as they should be', () => {
  /** A broker of bytes: what it answers to what it is sent. */
  async function rawBroker(answer: (socket: Socket, packet: Buffer) => void): Promise<string> {
    const sockets: Socket[] = [];
    const server = createServer((socket) => {
      sockets.push(socket);
      socket.on('error', () => {});
      socket.on('data', (packet) => answer(socket, packet));
    });
    await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
    closing.push(async () => {
      sockets.forEach((s) => s.destroy());
      server.close();
    });
    return `mqtt://127.0.0.1:${(server.address() as AddressInfo).port}`;
  }
  const tried = async (url: string) => {
    const stations = await place(
      '{ to: bus, channel: mqtt }',
      `receivers: [{ id: bus, name: Bus, by: mqtt, url: "${url}", topic: withy }]\n`,
    );
    return (await stations.ask('POST', '/api/receivers/bus/try')).body as { accepted: boolean; said: string };
  };
  /** The protocol level of a CONNECT (3.1.1 and 5, 3.1.2.2): behind its header and the name of the protocol. */
  const levelOf = (packet: Buffer) => packet[packet.indexOf('MQTT') + 4];

  test('one that speaks 3.1.1 alone is spoken to so', async () => {
    const levels: (number | undefined)[] = [];
    const url = await rawBroker((socket, packet) => {
      const kind = packet[0]! >> 4;
      if (kind === 1) {
        levels.push(levelOf(packet));
        // CONNACK: accepted, or an unacceptable protocol version (3.1.1, 3.2.2.3).
        socket.write(Buffer.from([0x20, 2, 0, levels.at(-1) === 4 ? 0 : 1]));
        if (levels.at(-1) !== 4) socket.end();
      } else if (kind === 3) {
        // PUBACK of the packet that stands behind the topic.
        const topic = packet.indexOf('withy');
        const length = packet.readUInt16BE(topic - 2);
        socket.write(Buffer.from([0x40, 2, packet[topic + length]!, packet[topic + length + 1]!]));
      }
    });
    expect(await tried(url)).toMatchObject({ accepted: true });
    expect(levels).toEqual([5, 4]);
  });

  test.each([
    ['at once', 0x20],
    ['as a message', 0x30],
  ])('one that sends 256 MB %s is hung up on', async (_when, head) => {
    let sent = 0;
    const url = await rawBroker((socket) => {
      // A remaining length of 268 435 455, the longest there is (2.2.3).
      socket.write(Buffer.from([head, 0xff, 0xff, 0xff, 0x7f]));
      const piece = Buffer.alloc(65_536);
      const more = () => {
        while (!socket.destroyed && socket.write(piece)) sent += piece.length;
      };
      socket.on('drain', more);
      more();
    });
    const before = process.memoryUsage().rss;
    expect(await tried(url)).toMatchObject({ accepted: false });
    expect(sent).toBeLessThan(60_000_000);
    expect(process.memoryUsage().rss - before).toBeLessThan(150_000_000);
  });
});
