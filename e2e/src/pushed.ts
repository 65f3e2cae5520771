// A real browser told by the stand-in push service: Debian's Chromium has no push service of its own to subscribe at, so its subscription is
// made here, with keys of its own; what is sealed to them is opened as a browser opens it, and given to the service worker.

import { createECDH, randomBytes } from 'node:crypto';
import ece from 'http_ece';
import type { Browser } from './browser';
import { attachToPage, openDevTools, type DevTools } from './devtools';
import { waitFor } from './world';

export type Pushed = {
  readonly tools: DevTools;
  /** How many sealed messages came. */
  messages(): number;
  /** What the browser shows now, as its service worker has it. */
  shown(): Promise<readonly Shown[]>;
  /** Its service worker is stopped, as a phone stops one that has nothing to do; it starts again when it is needed. */
  sleep(): Promise<void>;
  close(): void;
};
export type Shown = {
  readonly title: string;
  readonly body: string;
  readonly tag: string;
  readonly silent: boolean;
  readonly actions: readonly { readonly action: string; readonly title: string }[];
  readonly data: { readonly id: string; readonly open: string };
};

/** Before the page asks: from then on it can subscribe. */
export async function canBePushedTo(browser: Browser, url: string, push: string): Promise<Pushed> {
  const { driver } = browser;
  const tools = await openDevTools(driver);
  await tools.send('Browser.grantPermissions', { origin: url, permissions: ['notifications'] });
  const keys = createECDH('prime256v1');
  keys.generateKeys();
  const auth = randomBytes(16).toString('base64url');
  const { endpoint, receive } = (await (await fetch(`${push}/subscriptions`, { method: 'POST' })).json()) as {
    endpoint: string;
    receive: string;
  };
  const page = await attachToPage(tools, url);
  const subscription = { endpoint, keys: { p256dh: keys.getPublicKey('base64url'), auth } };
  // A subscription as the Push API has it, with the key that it was asked for by.
  const source = `(() => {
    let made = sessionStorage.getItem('test subscribed');
    const wrap = (key) => ({ ...${JSON.stringify({ endpoint })}, options: { applicationServerKey: Uint8Array.from(JSON.parse(key)).buffer, userVisibleOnly: true }, toJSON: () => (${JSON.stringify(subscription)}), unsubscribe: async () => { made = null; sessionStorage.removeItem('test subscribed'); return true; } });
    PushManager.prototype.subscribe = async (options) => { made = JSON.stringify([...options.applicationServerKey]); sessionStorage.setItem('test subscribed', made); return wrap(made); };
    PushManager.prototype.getSubscription = async () => (made ? wrap(made) : null);
  })()`;
  await tools.send('Page.enable', {}, page);
  await tools.send('Page.addScriptToEvaluateOnNewDocument', { source }, page);
  await driver.get(await driver.getCurrentUrl());
  await tools.send('ServiceWorker.enable', {}, page);
  type Registered = { registrations: { registrationId: string; scopeURL: string; isDeleted: boolean }[] };
  const { registrations } = await tools.heard<Registered>('ServiceWorker.workerRegistrationUpdated', (p) =>
    p.registrations.some((r) => r.scopeURL.startsWith(url) && !r.isDeleted),
  );
  const { registrationId } = registrations.find((r) => r.scopeURL.startsWith(url))!;
  let messages = 0;
  const closing = new AbortController();
  void (async () => {
    const answer = await fetch(receive, { signal: closing.signal });
    let held = '';
    for await (const piece of answer.body ?? []) {
      held += Buffer.from(piece).toString('utf8');
      const lines = held.split('\n');
      held = lines.pop()!;
      for (const line of lines) {
        const sealed = JSON.parse(line) as { id: string; body: string };
        const open = ece.decrypt(Buffer.from(sealed.body, 'base64'), { version: 'aes128gcm', privateKey: keys, authSecret: auth });
        await tools.send('ServiceWorker.deliverPushMessage', { origin: url, registrationId, data: open.toString('utf8') }, page);
        messages++;
        await fetch(`${push}/message/${sealed.id}`, { method: 'DELETE' });
      }
    }
  })().catch(() => {});
  const read = `const d = arguments[arguments.length - 1]; navigator.serviceWorker.ready.then((r) => r.getNotifications()).then((all) => d(all.map(({ title, body, tag, silent, actions, data }) => ({ title, body, tag, silent, actions, data }))))`;
  return {
    tools,
    messages: () => messages,
    shown: () => driver.executeAsyncScript(read),
    sleep: () => tools.send('ServiceWorker.stopAllWorkers', {}, page),
    close: () => {
      closing.abort();
      tools.close();
    },
  };
}

/** Waits until what is shown is as asked. */
export const showsThat = (
  pushed: Pushed,
  isActive: (shown: readonly Shown[]) => boolean,
  milliseconds = 100_000,
): Promise<readonly Shown[]> =>
  waitFor(
    async () => {
      const now = await pushed.shown();
      return isActive(now) ? now : undefined;
    },
    milliseconds,
    async () => `shown: ${JSON.stringify(await pushed.shown())}, ${pushed.messages()} messages came`,
  );
