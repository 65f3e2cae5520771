// What is sent out, as its receiver sees it: a listener on this machine, and the keys of a phone.

import { createECDH, randomBytes } from 'node:crypto';
import { createServer, type RequestListener } from 'node:http';

export async function listener(handle: RequestListener) {
  const server = createServer(handle);
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  return { url: `http://127.0.0.1:${(server.address() as { port: number }).port}`, close: () => server.close() };
}

export function phoneKeys() {
  const keys = createECDH('prime256v1');
  keys.generateKeys();
  return { p256dh: keys.getPublicKey('base64url'), auth: randomBytes(16).toString('base64url') };
}
