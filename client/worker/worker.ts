// The service worker: shows the server's alerts on this phone, does what a notification offers while the application is closed, and keeps the
// shell and the latest events for when there is no line.

import { ExpirationPlugin } from 'workbox-expiration';
import { createHandlerBoundToURL, precacheAndRoute } from 'workbox-precaching';
import { NavigationRoute, registerRoute } from 'workbox-routing';
import { CacheFirst, NetworkFirst } from 'workbox-strategies';
import { shownOf, tagOf, type Carried, type Notice } from './notice';

declare const self: ServiceWorkerGlobalScope & { readonly __WB_MANIFEST: { url: string; revision: string | null }[] };

const answers = 'nibber-answers';
const pictures = 'nibber-pictures';
const slowSeconds = 4;
const daySeconds = 86_400;

precacheAndRoute(self.__WB_MANIFEST);
registerRoute(new NavigationRoute(createHandlerBoundToURL('/index.html'), { denylist: [/^\/(api|pictures|hooks|health|guide\.html)\b/] }));

/** What the first screens are made of. Asked of the server first; what it said last where it does not answer. */
const shown = /^\/api\/(session|site|cameras|rules|modes|sieve|events|events\/[\w-]+|me|logbook)$/;
registerRoute(
  ({ url, request }) => request.method === 'GET' && shown.test(url.pathname) && !url.searchParams.has('before'),
  new NetworkFirst({
    cacheName: answers,
    networkTimeoutSeconds: slowSeconds,
    plugins: [
      {
        // What is shown is never older than it says: the page reads when it was answered.
        cachedResponseWillBeUsed: async ({ cachedResponse }) => {
          if (!cachedResponse) return undefined;
          const headers = new Headers(cachedResponse.headers);
          headers.set('nibber-kept', cachedResponse.headers.get('date') ?? '');
          return new Response(await cachedResponse.blob(), { headers });
        },
      },
      new ExpirationPlugin({ maxEntries: 60, maxAgeSeconds: 7 * daySeconds }),
    ],
  }),
);
/** A picture never changes under its name. */
registerRoute(
  ({ url }) => url.pathname.startsWith('/pictures/') && url.pathname.endsWith('.jpg') && !url.searchParams.has('signature'),
  new CacheFirst({
    cacheName: pictures,
    plugins: [new ExpirationPlugin({ maxEntries: 120, maxAgeSeconds: 7 * daySeconds, purgeOnQuotaError: true })],
  }),
);

self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));
self.addEventListener('message', (event: ExtendableMessageEvent) => {
  const { kind } = event.data as { kind?: string };
  if (kind === 'take over') void self.skipWaiting();
  // Signing out leaves nothing behind; from then on alerts are for the person who signs in next.
  if (kind === 'forget') event.waitUntil(Promise.all([caches.delete(answers), caches.delete(pictures)]));
});

const presentOf = async (tag: string): Promise<Carried | undefined> =>
  (await self.registration.getNotifications({ tag })).map((n) => n.data as Carried).sort((a, b) => b.at - a.at)[0];

self.addEventListener('push', (event) => {
  const notice = event.data?.json() as Notice | undefined;
  if (!notice) return;
  event.waitUntil(
    (async () => {
      const show = shownOf(notice, await presentOf(tagOf(notice)));
      if (show) await self.registration.showNotification(show.title, show.options);
      await (navigator as { setAppBadge?: (n: number) => Promise<void> }).setAppBadge?.(notice.badge);
    })(),
  );
});

async function openAt(address: string): Promise<void> {
  const { pathname, search } = new URL(address, self.location.origin);
  const [open] = await self.clients.matchAll({ type: 'window', includeUncontrolled: true });
  if (!open) return void (await self.clients.openWindow(pathname + search));
  // The page goes there by itself: nothing that is being written in it is lost.
  open.postMessage({ kind: 'go', to: pathname + search });
  await open.focus().catch(() => undefined);
}

/** Does what was touched, and says that it was done, or that it was not and how to try again. */
async function act(notification: Notification, action: string): Promise<void> {
  const carried = notification.data as Carried;
  const { tag } = notification;
  const say = (body: string, options: object = {}) =>
    self.registration.showNotification(notification.title, {
      body,
      tag,
      silent: true,
      icon: '/icon-192.png',
      badge: '/badge.png',
      data: { ...carried, isAnswered: true },
      ...options,
    });
  try {
    const answer = await fetch('/api/actions', {
      method: 'POST',
      credentials: 'omit',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ token: carried.tokens[action] }),
    });
    const said = (await answer.json()) as { done?: string; error?: { message: string; hint: string } };
    await say(said.done ?? `${said.error?.message} ${said.error?.hint}`);
  } catch {
    await say('Failed: no connection to the server.', { actions: [{ action, title: 'Try again' }] });
  }
}

self.addEventListener('notificationclick', (event) => {
  const { notification, action } = event;
  const { open, live } = notification.data as Carried;
  notification.close();
  event.waitUntil(action === 'live' ? openAt(live ?? open) : action === '' ? openAt(open) : act(notification, action));
});

/** The push service has changed this phone's address: the phone is registered again, for the person who is signed in here. */
self.addEventListener('pushsubscriptionchange', (event) => {
  const { oldSubscription } = event as Event & { oldSubscription?: PushSubscription };
  (event as ExtendableEvent).waitUntil(
    (async () => {
      const options = oldSubscription?.options ?? { userVisibleOnly: true, applicationServerKey: await keyOf() };
      const { endpoint, keys } = (await self.registration.pushManager.subscribe(options)).toJSON();
      await fetch('/api/phones', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ label: 'This phone', endpoint, keys }),
      });
    })(),
  );
});

const keyOf = async () => ((await (await fetch('/api/push-key')).json()) as { key: string }).key;
