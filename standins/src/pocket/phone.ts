// The simulated phone: has its own keys (RFC 8291), takes encrypted messages from the push service, decrypts them, shows each alert once.

import { createECDH, randomBytes } from 'node:crypto';
import ece from 'http_ece';
import { pause } from '@nibber/server/base/pause';

export type Notification = {
  readonly id: string;
  readonly title: string;
  readonly body: string;
  readonly when: string;
  readonly at: string;
  readonly picture: string | null;
  readonly open: string;
  readonly filledIn: boolean;
  readonly receivedAt: number;
};

export type Phone = {
  notifications(): readonly Notification[];
  /** How many encrypted messages came, including those shown already. */
  messages(): number;
  clear(): void;
  onChange(listener: () => void): () => void;
  /** Signs in at Nibber as a person would, and registers for alerts. */
  signUp(server: string, name: string, password: string): Promise<void>;
  close(): void;
};

type Sealed = { readonly id: string; readonly body: string };

const again = 500;

export function phone(pushAddress: string): Phone {
  const keys = createECDH('prime256v1');
  keys.generateKeys();
  const secret = randomBytes(16);
  const closing = new AbortController();
  let shown: Notification[] = [];
  let messages = 0;
  const listeners = new Set<() => void>();

  const take = (sealed: Sealed) => {
    const open = ece.decrypt(Buffer.from(sealed.body, 'base64'), {
      version: 'aes128gcm',
      privateKey: keys,
      authSecret: secret.toString('base64url'),
    });
    const notice = JSON.parse(open.toString('utf8')) as Omit<Notification, 'filledIn' | 'receivedAt'> & { kind: 'alert' | 'fill-in' };
    messages++;
    const known = shown.find((n) => n.id === notice.id);
    if (known && notice.kind === 'alert') return;
    const { id, title, body, when, at, picture, open: link } = notice;
    const entry = {
      id,
      title,
      body,
      when,
      at,
      picture,
      open: link,
      filledIn: notice.kind === 'fill-in',
      receivedAt: known?.receivedAt ?? Date.now(),
    };
    shown = known ? shown.map((n) => (n.id === id ? entry : n)) : [entry, ...shown];
    listeners.forEach((l) => l());
  };

  async function receive(url: string) {
    while (!closing.signal.aborted) {
      try {
        const response = await fetch(url, { signal: closing.signal });
        let held = '';
        for await (const piece of response.body ?? []) {
          held += Buffer.from(piece).toString('utf8');
          const lines = held.split('\n');
          held = lines.pop()!;
          for (const text of lines) {
            const sealed = JSON.parse(text) as Sealed;
            take(sealed);
            await fetch(`${pushAddress}/message/${sealed.id}`, { method: 'DELETE' });
          }
        }
      } catch (thrown) {
        if (!closing.signal.aborted) console.error(`pocket: ${(thrown as Error).message}`);
      }
      await pause(again);
    }
  }

  return {
    notifications: () => shown,
    messages: () => messages,
    clear: () => {
      shown = [];
      listeners.forEach((l) => l());
    },
    onChange(listener) {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    async signUp(server, name, password) {
      // As a page of the server's would say it.
      const own = { origin: new URL(server).origin };
      const post = (path: string, body: object, cookie = '') =>
        fetch(`${server}${path}`, {
          method: 'POST',
          headers: { ...own, 'content-type': 'application/json', cookie },
          body: JSON.stringify(body),
        });
      const session = await post('/api/session', { name, password });
      if (!session.ok) throw new Error(`${name} cannot sign in: ${session.status}`);
      const cookie = session.headers.getSetCookie()[0]!.split(';')[0]!;
      const { endpoint, receive: url } = (await (await fetch(`${pushAddress}/subscriptions`, { method: 'POST' })).json()) as {
        endpoint: string;
        receive: string;
      };
      const subscription = {
        label: `${name}’s phone`,
        endpoint,
        keys: { p256dh: keys.getPublicKey('base64url'), auth: secret.toString('base64url') },
      };
      // A phone that was registered here before has lost its keys; this one replaces it.
      const known = (await (await fetch(`${server}/api/phones`, { headers: { cookie } })).json()) as {
        id: string;
        label: string;
        person: string;
      }[];
      for (const old of known)
        if (old.person === name && old.label === subscription.label)
          await fetch(`${server}/api/phones/${old.id}`, { method: 'DELETE', headers: { ...own, cookie } });
      const answer = await post('/api/phones', subscription, cookie);
      if (!answer.ok) throw new Error(`the phone was not taken: ${await answer.text()}`);
      // It stays signed in: a phone gets alerts only while it is.
      void receive(url);
    },
    close: () => closing.abort(),
  };
}
