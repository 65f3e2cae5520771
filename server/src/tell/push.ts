// Web Push: RFC 8030 delivery, RFC 8291 encryption (aes128gcm), RFC 8292 VAPID.

import webPush from 'web-push';
import { postPublic } from '../net/public-address';
import type { Sealed } from '../record/sealed';

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

export const pushKeys = (sealed: Sealed): Promise<PushKeys> =>
  sealed.made('push keys', () => webPush.generateVAPIDKeys(), {
    setting: 'push keys',
    read: (text) => JSON.parse(text) as PushKeys,
  });

export async function sendPush(
  keys: PushKeys,
  ownServices: readonly string[],
  phone: { endpoint: string; p256dh: string; auth: string },
  notice: Notice,
): Promise<PushAnswer> {
  try {
    const request = webPush.generateRequestDetails(
      { endpoint: phone.endpoint, keys: { p256dh: phone.p256dh, auth: phone.auth } },
      JSON.stringify(notice),
      {
        vapidDetails: { subject: 'mailto:owner@nibber.invalid', ...keys },
        TTL: timeToLiveSeconds,
        urgency: 'high',
        contentEncoding: 'aes128gcm',
        // A fill-in replaces what the push service has not delivered yet (RFC 8030, section 5.4).
        topic: notice.id.replaceAll('-', '').slice(0, 32),
      },
    );
    const status = await postPublic(
      request.endpoint,
      ownServices,
      request.headers as Record<string, string>,
      request.body as Buffer,
      timeoutMs,
    );
    if (status === 404 || status === 410) return { kind: 'gone' };
    return status >= 200 && status < 300 ? { kind: 'accepted' } : { kind: 'failed', why: `The push service answered ${status}.` };
  } catch (thrown) {
    return { kind: 'failed', why: `The push service was not reached: ${(thrown as Error).message}` };
  }
}
