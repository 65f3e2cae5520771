// Simulated receivers: one for signed webhooks, a gateway for text messages, a broker.

import { createServer as createTlsServer } from 'node:tls';
import { createHmac, timingSafeEqual } from 'node:crypto';
import { createServer, type AddressInfo } from 'node:net';
import { Aedes } from 'aedes';
import express, { Router } from 'express';

export const webhookFaults = ['none', 'refuse', 'rubbish', 'late'] as const;
export type WebhookFault = (typeof webhookFaults)[number];

export type Webhook = {
  readonly router: Router;
  /** What was taken: signed by the secret, in its time, each once. */
  taken(): readonly unknown[];
  /** Why what was not taken was not. */
  refused(): readonly string[];
  setSecret(secret: string): void;
  setFault(fault: WebhookFault): void;
};

/** As docs/receivers.md tells a receiver to: older than this, or newer, is someone's copy. */
const windowSeconds = 300;
const lateMs = 12_000;

export function webhookReceiver(now: () => number = Date.now): Webhook {
  let secret = '';
  let fault: WebhookFault = 'none';
  const taken: { id: string }[] = [];
  const refused: string[] = [];
  const router = Router();
  router.post('/events', express.text({ type: () => true, limit: 100_000 }), (request, response) => {
    if (fault === 'refuse') return void response.status(503).send('closed for today');
    if (fault === 'rubbish') return void response.status(500).send('<'.repeat(1_000_000));
    const body = request.body as string;
    const why = wrongIn(secret, now() / 1000, request.headers as Record<string, string | undefined>, body);
    if (why) {
      refused.push(why);
      return void response.status(401).send(why);
    }
    const event = JSON.parse(body) as { id: string };
    // The same id is the same event (CloudEvents 1.0.2, `id`).
    if (!taken.some((t) => t.id === event.id)) taken.push(event);
    if (fault === 'late') return void setTimeout(() => response.status(202).end(), lateMs).unref();
    response.status(202).send('taken');
  });
  return {
    router,
    taken: () => taken,
    refused: () => refused,
    setSecret: (next) => void (secret = next),
    setFault: (next) => void (fault = next),
  };
}

/** What is wrong with a signed message; undefined where it is as it should be. @param now seconds since 1970 */
export function wrongIn(
  secret: string,
  now: number,
  headers: Readonly<Record<string, string | undefined>>,
  body: string,
): string | undefined {
  const at = Number(headers['nibber-time']);
  if (!Number.isInteger(at) || Math.abs(now - at) > windowSeconds) return 'it is too old, or from another time';
  const right = createHmac('sha256', secret).update(`${at}.${body}`).digest();
  const given = Buffer.from(/^sha256=([0-9a-f]{64})$/.exec(headers['nibber-signature'] ?? '')?.[1] ?? '', 'hex');
  return given.length === right.length && timingSafeEqual(given, right) ? undefined : 'the signature is wrong';
}

/** How the gateway and the broker are signed in to. */
export const receiverSignIn = { key: 'withy-key', user: 'nibber', password: 'withy-bus' } as const;

export type TextMessage = { readonly to: string; readonly text: string };
export const textFaults = ['none', 'no credit', 'refuse', 'rubbish'] as const;
export type TextFault = (typeof textFaults)[number];

/** A gateway as many are: JSON with a key in a header; it may say in words alone that it took nothing. */
export function textGateway(key: string): { router: Router; sent(): readonly TextMessage[]; setFault(fault: TextFault): void } {
  let fault: TextFault = 'none';
  const sent: TextMessage[] = [];
  const router = Router();
  router.post('/messages', express.json(), (request, response) => {
    if (fault === 'refuse') return void response.status(502).send('the network is down');
    if (fault === 'rubbish') return void response.status(200).send('?'.repeat(500_000));
    if (request.headers.authorization !== `Bearer ${key}`)
      return void response.status(401).json({ error: `who is ${request.headers.authorization}?` });
    if (fault === 'no credit') return void response.json({ queued: false, error: 'no credit' });
    const { to, text } = request.body as TextMessage;
    sent.push({ to, text });
    response.json({ queued: true });
  });
  return { router, sent: () => sent, setFault: (next) => void (fault = next) };
}

export type Broker = {
  readonly url: string;
  /** What a topic holds, retained. */
  retained(): Readonly<Record<string, string>>;
  /** What was said and not retained. */
  said(): readonly { readonly topic: string; readonly payload: string }[];
  close(): Promise<void>;
};

/** @param tls a certificate of its own; with `clients`, it lets in only who shows one of these certificates */
export async function broker(
  port: number,
  signIn: { readonly user: string; readonly password: string },
  tls?: { readonly cert: string; readonly key: string; readonly clients?: string },
): Promise<Broker> {
  const retained: Record<string, string> = {};
  const said: { topic: string; payload: string }[] = [];
  const aedes = await Aedes.createBroker({
    authenticate: (_client, user, password, done) => done(null, user === signIn.user && password?.toString() === signIn.password),
    published(packet, _client, done) {
      if (packet.topic.startsWith('$')) return done();
      // A retained message of no length takes back what was retained (MQTT 5, 3.3.1.3).
      if (packet.retain && packet.payload.length === 0) delete retained[packet.topic];
      else if (packet.retain) retained[packet.topic] = packet.payload.toString();
      else said.push({ topic: packet.topic, payload: packet.payload.toString() });
      done();
    },
  });
  const { cert, key, clients } = tls ?? {};
  const server = tls
    ? createTlsServer({ cert, key, ...(clients ? { ca: clients, requestCert: true, rejectUnauthorized: true } : {}) }, aedes.handle)
    : createServer(aedes.handle);
  await new Promise<void>((ready) => server.listen(port, '127.0.0.1', ready));
  return {
    url: `${tls ? 'mqtts://localhost' : 'mqtt://127.0.0.1'}:${(server.address() as AddressInfo).port}`,
    retained: () => retained,
    said: () => said,
    close: () => new Promise((done) => aedes.close(() => server.close(() => done()))),
  };
}
