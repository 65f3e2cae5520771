// A push service (RFC 8030) that checks the sender (RFC 8292) and holds encrypted messages until the phone has taken them.

import { createPublicKey, randomBytes, verify } from 'node:crypto';
import { Router, type Request, type Response } from 'express';
import { pause } from '@nibber/server/base/pause';

export const pushFaults = ['none', 'refuse', 'late', 'gone'] as const;
export type PushFault = (typeof pushFaults)[number];

type Message = { readonly id: string; readonly topic: string | undefined; readonly body: Buffer };
type Subscription = { waiting: Message[]; line: Response | undefined; received: number };

const lateMs = 3000;
/** Prefix of an uncompressed P-256 key as SubjectPublicKeyInfo (RFC 5480). */
const spkiHead = Buffer.from('3059301306072a8648ce3d020106082a8648ce3d030107034200', 'hex');

export function pushService(address: () => string): { router: Router; setFault(fault: PushFault): void; received(): number } {
  const byPush = new Map<string, Subscription>();
  const byReceive = new Map<string, Subscription>();
  let fault: PushFault = 'none';
  const router = Router();

  router.post('/subscriptions', (_request, response) => {
    const [push, receive] = [randomBytes(16).toString('hex'), randomBytes(16).toString('hex')];
    const subscription: Subscription = { waiting: [], line: undefined, received: 0 };
    byPush.set(push, subscription);
    byReceive.set(receive, subscription);
    response.status(201).json({ endpoint: `${address()}/push/${push}`, receive: `${address()}/receive/${receive}` });
  });

  router.post('/push/:id', async (request, response) => {
    // Read by hand: to a body parser the content encoding of RFC 8188 is an unknown compression.
    const body = await sealedBody(request);
    if (!body) return void response.status(413).end();
    const subscription = byPush.get(String(request.params.id));
    if (fault === 'refuse') return void response.status(503).end();
    if (!subscription || fault === 'gone') return void response.status(410).end();
    if (fault === 'late') await pause(lateMs);
    if (request.headers.ttl === undefined) return void response.status(400).send('TTL is missing (RFC 8030, section 5.2)');
    if (request.headers['content-encoding'] !== 'aes128gcm') return void response.status(415).send('aes128gcm is needed (RFC 8291)');
    const wrong = vapidFault(request.headers.authorization, address());
    if (wrong) return void response.status(403).send(wrong);
    const message = { id: randomBytes(12).toString('hex'), topic: request.headers.topic as string | undefined, body };
    subscription.received++;
    // RFC 8030, section 5.4: a message takes the place of a waiting one of the same topic.
    subscription.waiting = [...subscription.waiting.filter((m) => !m.topic || m.topic !== message.topic), message];
    subscription.line?.write(line(message));
    response.status(201).location(`${address()}/message/${message.id}`).end();
  });

  router.get('/receive/:id', (request, response) => {
    const subscription = byReceive.get(String(request.params.id));
    if (!subscription) return void response.status(404).end();
    response.writeHead(200, { 'content-type': 'application/x-ndjson' });
    response.flushHeaders();
    subscription.line = response;
    subscription.waiting.forEach((m) => response.write(line(m)));
    response.on('close', () => subscription.line === response && (subscription.line = undefined));
  });

  router.delete('/message/:id', (request, response) => {
    for (const s of byPush.values()) s.waiting = s.waiting.filter((m) => m.id !== request.params.id);
    response.status(204).end();
  });

  return { router, setFault: (next) => void (fault = next), received: () => [...byPush.values()].reduce((sum, s) => sum + s.received, 0) };
}

/** At most 4096 bytes (RFC 8030, section 7.2); undefined for more. */
async function sealedBody(request: Request): Promise<Buffer | undefined> {
  const pieces: Buffer[] = [];
  for await (const piece of request) pieces.push(piece as Buffer);
  const body = Buffer.concat(pieces);
  return body.length <= 4096 ? body : undefined;
}

const line = (m: Message) => `${JSON.stringify({ id: m.id, body: m.body.toString('base64') })}\n`;

/** RFC 8292: a JWT signed by the key it comes with, for this service, not expired. */
function vapidFault(authorization: string | undefined, address: string): string | undefined {
  const parts = /^vapid t=([\w-]+\.[\w-]+)\.([\w-]+), ?k=([\w-]+)$/.exec(authorization ?? '');
  if (!parts) return 'vapid authorization is missing';
  const [, signed, signature, key] = parts as unknown as [string, string, string, string];
  const publicKey = createPublicKey({ key: Buffer.concat([spkiHead, Buffer.from(key, 'base64url')]), format: 'der', type: 'spki' });
  if (!verify('sha256', Buffer.from(signed), { key: publicKey, dsaEncoding: 'ieee-p1363' }, Buffer.from(signature, 'base64url')))
    return 'the signature is wrong';
  const claims = JSON.parse(Buffer.from(signed.split('.')[1]!, 'base64url').toString()) as { aud: string; exp: number };
  if (claims.aud !== new URL(address).origin) return `the audience is ${claims.aud}`;
  return claims.exp * 1000 < Date.now() ? 'the token has expired' : undefined;
}
