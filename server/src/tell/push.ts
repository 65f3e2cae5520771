// Web Push: RFC 8030 delivery, RFC 8291 encryption (aes128gcm), RFC 8292 VAPID.

import webPush from 'web-push';
import type { Record } from '../record';

export type PushKeys = { readonly publicKey: string; readonly privateKey: string };

export type Notice = {
  /** The alert; a phone shows each once, and fills it in when it comes again. */
  readonly id: string;
  readonly kind: 'alert' | 'fill-in';
  readonly title: string;
  readonly body: string;
  /** ISO 8601, with the wall time of the place in `when`. */
  readonly at: string;
  readonly when: string;
  readonly picture: string | null;
  readonly open: string;
  /** What it belongs to; one that joins an open thread, or fills in, makes no sound. */
  readonly thread: string | null;
  readonly silent: boolean;
};

export type PushAnswer = { readonly kind: 'accepted' } | { readonly kind: 'gone' } | { readonly kind: 'failed'; readonly why: string };

const timeToLiveSeconds = 24 * 3600;
const timeoutMs = 10_000;

export async function pushKeys(record: Record): Promise<PushKeys> {
  const stored = await record.setting('push keys');
  if (stored) return JSON.parse(stored) as PushKeys;
  const made = webPush.generateVAPIDKeys();
  await record.setSetting('push keys', JSON.stringify(made));
  return made;
}

/** Whether a phone's endpoint may be called: https, or this machine. */
export function isEndpoint(url: string): boolean {
  try {
    const { protocol, hostname } = new URL(url);
    return protocol === 'https:' || (protocol === 'http:' && ['127.0.0.1', 'localhost', '[::1]'].includes(hostname));
  } catch {
    return false;
  }
}

export async function sendPush(
  keys: PushKeys,
  contact: string,
  phone: { endpoint: string; p256dh: string; auth: string },
  notice: Notice,
): Promise<PushAnswer> {
  try {
    const request = webPush.generateRequestDetails(
      { endpoint: phone.endpoint, keys: { p256dh: phone.p256dh, auth: phone.auth } },
      JSON.stringify(notice),
      {
        vapidDetails: { subject: contact, ...keys },
        TTL: timeToLiveSeconds,
        urgency: 'high',
        contentEncoding: 'aes128gcm',
        // A fill-in replaces what the push service has not delivered yet (RFC 8030, section 5.4).
        topic: notice.id.replaceAll('-', '').slice(0, 32),
      },
    );
    const response = await fetch(request.endpoint, {
      method: 'POST',
      headers: request.headers as { [name: string]: string },
      body: new Uint8Array(request.body!),
      signal: AbortSignal.timeout(timeoutMs),
      redirect: 'error',
    });
    await response.body?.cancel();
    if (response.status === 404 || response.status === 410) return { kind: 'gone' };
    return response.ok ? { kind: 'accepted' } : { kind: 'failed', why: `The push service answered ${response.status}.` };
  } catch (thrown) {
    return { kind: 'failed', why: `The push service was not reached: ${(thrown as Error).message}` };
  }
}
