import { createECDH, randomBytes } from 'node:crypto';
import { createServer } from 'node:http';
import ece from 'http_ece';
import express from 'express';
import webPush from 'web-push';
import type { Notice } from '@nibber/server/notify/channels/index';
import { sendPush } from '@nibber/server/notify/channels/push';
import { phone } from '../pocket/phone';
import { pushService } from './service';

// RFC 8291, section 5 (push message encryption example): keys, salt and ciphertext as printed there; transcribed from memory and
// accepted because the authenticated ciphertext opens to the plaintext that the RFC gives.
test('the phone opens the worked example of RFC 8291', () => {
  const keys = createECDH('prime256v1');
  keys.setPrivateKey(Buffer.from('q1dXpw3UpT5VOmu_cf_v6ih07Aems3njxI-JWgLcM94', 'base64url'));
  const message =
    'DGv6ra1nlYgDCS1FRnbzlwAAEABBBP4z9KsN6nGRTbVYI_c7VJSPQTBtkgcy27mlmlMoZIIgDll6e3vCYLocInmYWAmS6TlzAC8wEqKK6PBru3jl7A_yl95bQpu6cVPTpK4Mqgkf1CXztLVBSt2Ks3oZwbuwXPXLWyouBWLVWGNWQexSgSxsj_Qulcy4a-fN';
  const open = ece.decrypt(Buffer.from(message, 'base64url'), {
    version: 'aes128gcm',
    privateKey: keys,
    authSecret: 'BTBZMqHH6r4Tts7J_aSIgg',
  });
  expect(open.toString()).toBe('When I grow up, I want to be a watermelon');
});

const closing: (() => void)[] = [];
// Also after a test that failed: an open server keeps the whole run from ending.
afterEach(() => closing.splice(0).forEach((close) => close()));

async function running() {
  let address = '';
  const service = pushService(() => address);
  const server = createServer(express().use(service.router));
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  address = `http://127.0.0.1:${(server.address() as { port: number }).port}`;
  closing.push(() => (server.closeAllConnections(), server.close()));
  return { service, address };
}

const notice = (id: string, kind: 'alert' | 'fill-in', body: string): Notice => ({
  id,
  kind,
  title: 'T',
  body,
  at: '2026-06-01T21:00:00Z',
  when: 'Monday 22:00',
  picture: null,
  open: 'http://x/events/1',
  thread: null,
  silent: false,
  small: null,
  live: null,
  joins: false,
  count: 1,
  badge: 0,
  actions: [],
  of: { event: '1', rule: 'r', camera: 'c', area: 'a', class: 'person', type: null, description: null },
});

test('a sealed message reaches the phone, is shown once, and is filled in', async () => {
  const { address } = await running();
  const vapid = webPush.generateVAPIDKeys();
  // A server that takes the sign-up and keeps it, as Nibber does.
  let signedUp: { endpoint: string; keys: { p256dh: string; auth: string } } | undefined;
  const app = express().use(express.json());
  app.post('/api/session', (_request, response) => void response.setHeader('set-cookie', 's=1').json({}));
  app.get('/api/phones', (_request, response) => void response.json([]));
  app.post('/api/phones', (request, response) => void response.json((signedUp = request.body)));
  app.delete('/api/session', (_request, response) => void response.json({}));
  const server = createServer(app);
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  const pocket = phone(address);
  closing.push(
    () => pocket.close(),
    () => (server.closeAllConnections(), server.close()),
  );
  await pocket.signUp(`http://127.0.0.1:${(server.address() as { port: number }).port}`, 'Wren', 'x');
  const send = (n: ReturnType<typeof notice>) =>
    sendPush({ ...vapid, subject: 'mailto:wren@withy.example' }, [address], { endpoint: signedUp!.endpoint, ...signedUp!.keys }, n);
  const three = new Promise<void>((done) => pocket.onChange(() => pocket.notifications()[0]?.filledIn && done()));
  expect(await send(notice('n1', 'alert', 'first'))).toEqual({ kind: 'accepted' });
  expect(await send(notice('n1', 'alert', 'first'))).toEqual({ kind: 'accepted' });
  await send(notice('n1', 'fill-in', 'a person'));
  await three;
  expect(pocket.notifications()).toMatchObject([{ id: 'n1', body: 'a person', filledIn: true }]);
});

test('the service refuses what is not signed, not sealed, not for it, or too late', async () => {
  const { address, service } = await running();
  const { endpoint } = (await (await fetch(`${address}/subscriptions`, { method: 'POST' })).json()) as { endpoint: string };
  const headers = { ttl: '60', 'content-encoding': 'aes128gcm' };
  const post = (h: Record<string, string>) => fetch(endpoint, { method: 'POST', headers: h, body: randomBytes(100) }).then((r) => r.status);
  expect([await post({}), await post({ ttl: '60' }), await post(headers)]).toEqual([400, 415, 403]);
  const keys = createECDH('prime256v1');
  keys.generateKeys();
  const target = { endpoint, p256dh: keys.getPublicKey('base64url'), auth: randomBytes(16).toString('base64url') };
  service.setFault('refuse');
  expect(
    await sendPush({ ...webPush.generateVAPIDKeys(), subject: 'mailto:wren@withy.example' }, [address], target, notice('n', 'alert', 'b')),
  ).toMatchObject({ kind: 'failed' });
  service.setFault('gone');
  expect(
    await sendPush({ ...webPush.generateVAPIDKeys(), subject: 'mailto:wren@withy.example' }, [address], target, notice('n', 'alert', 'b')),
  ).toEqual({
    kind: 'gone',
    why: 'The phone was unregistered.',
  });
});
