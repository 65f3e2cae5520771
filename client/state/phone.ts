// This phone: whether it can get alerts, and how it is registered (Push API, W3C).

/** What keeps this phone from getting alerts. */
export type PhoneState =
  /** This browser has no notifications. */
  | 'unsupported'
  /** They need https. */
  | 'insecure'
  /** They are for applications on the home screen alone. */
  | 'install first'
  /** Someone refused, and the browser does not ask again. */
  | 'blocked'
  | 'off'
  | 'on';

export type Subscription = {
  readonly label: string;
  readonly endpoint: string;
  readonly keys: { readonly p256dh: string; readonly auth: string };
};

const isApple = () =>
  /iPhone|iPad/.test(navigator.userAgent) || (navigator.userAgent.includes('Macintosh') && navigator.maxTouchPoints > 1);
export const isInstalled = (): boolean =>
  window.matchMedia('(display-mode: standalone)').matches || (navigator as { standalone?: boolean }).standalone === true;

export async function phoneState(): Promise<PhoneState> {
  if (!window.isSecureContext) return 'insecure';
  if (!('serviceWorker' in navigator) || !('PushManager' in window) || !('Notification' in window))
    return isApple() && !isInstalled() ? 'install first' : 'unsupported';
  if (Notification.permission === 'denied') return 'blocked';
  return Notification.permission === 'granted' && (await present()) ? 'on' : 'off';
}

const present = async () => (await navigator.serviceWorker.getRegistration())?.pushManager.getSubscription();

/** The subscription that there is, as the server takes it. */
export async function subscriptionNow(): Promise<Subscription | undefined> {
  if ((await phoneState()) !== 'on') return undefined;
  return asSent((await present())!);
}

/**
 * Asks for permission, and subscribes. Only after someone touched a button that said what it is for.
 * @param key the server's public key (RFC 8292), base64url
 * @returns undefined where it was refused
 * @throws Error in words where the push service does not take it
 */
export async function subscribe(key: string): Promise<Subscription | undefined> {
  if ((await Notification.requestPermission()) !== 'granted') return undefined;
  const registration = await navigator.serviceWorker.ready;
  const known = await registration.pushManager.getSubscription();
  // One that was made for another server's key is of no use.
  if (known && !isOf(known, key)) await known.unsubscribe();
  const made = await registration.pushManager.subscribe({ userVisibleOnly: true, applicationServerKey: bytesOf(key) });
  return asSent(made);
}

export async function unsubscribe(): Promise<void> {
  await (await present())?.unsubscribe();
}

const bytesOf = (text: string): Uint8Array<ArrayBuffer> => {
  const binary = atob(text.replace(/-/g, '+').replace(/_/g, '/'));
  return Uint8Array.from(binary, (c) => c.charCodeAt(0));
};
const isOf = (subscription: PushSubscription, key: string) => {
  const own = subscription.options.applicationServerKey;
  return own !== null && String(new Uint8Array(own)) === String(bytesOf(key));
};

function asSent(subscription: PushSubscription): Subscription {
  const { endpoint, keys } = subscription.toJSON() as { endpoint: string; keys: { p256dh: string; auth: string } };
  return { label: deviceName(), endpoint, keys };
}

/** As its owner will know it in a list. */
function deviceName(): string {
  const { userAgent } = navigator;
  const device = /\b(iPhone|iPad|Android|Windows|Macintosh|Linux)\b/.exec(userAgent)?.[1] ?? 'device';
  // Most name others before themselves.
  const browser = ['Firefox', 'Edg', 'OPR', 'Chrome', 'Safari'].find((b) => userAgent.includes(`${b}/`));
  const names: { readonly [short: string]: string } = { Edg: 'Edge', OPR: 'Opera', Macintosh: 'Mac' };
  return [device, browser].flatMap((w) => (w ? (names[w] ?? w) : [])).join(', ');
}

type InstallPrompt = Event & { prompt(): Promise<{ outcome: 'accepted' | 'dismissed' }> };
let offered: InstallPrompt | undefined;
const listeners = new Set<() => void>();
// It comes once, soon after the page has loaded, whether anyone listens or not.
globalThis.addEventListener?.('beforeinstallprompt', (event) => {
  event.preventDefault();
  offered = event as InstallPrompt;
  listeners.forEach((l) => l());
});

export const onInstallOffer = (listener: () => void): (() => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};
export const canInstall = (): boolean => offered !== undefined;
/** @returns whether it was put on the home screen */
export async function install(): Promise<boolean> {
  const answer = await offered?.prompt();
  offered = undefined;
  listeners.forEach((l) => l());
  return answer?.outcome === 'accepted';
}
