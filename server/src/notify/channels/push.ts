// Web Push: RFC 8030 delivery, RFC 8291 encryption (aes128gcm), RFC 8292 VAPID.

import webPush from 'web-push';
import { callPublic } from '../../net/public-address';
import type { Clock } from '../../base/clock';
import type { Phones } from '../../db/phones';
import type { SiteBook } from '../../db/site';
import type { PushKeys } from '../../db/push-keys';
import type { Answer, Channel, Notice } from './index';

/** With whom a push service can take up: a mail address or a page (RFC 8292, 2.1). */
export type VapidDetails = PushKeys & { readonly subject: string };

const timeToLiveSeconds = 24 * 3600;
const timeoutMs = 10_000;

export async function sendPush(
  vapidDetails: VapidDetails,
  ownServices: readonly string[],
  phone: { endpoint: string; p256dh: string; auth: string },
  notice: Notice,
): Promise<Answer> {
  try {
    const request = webPush.generateRequestDetails(
      { endpoint: phone.endpoint, keys: { p256dh: phone.p256dh, auth: phone.auth } },
      // Fields for other programs are not sent to a phone: a message has room for 4,096 bytes (RFC 8030, 7.2).
      JSON.stringify({ ...notice, of: undefined }),
      {
        vapidDetails,
        TTL: timeToLiveSeconds,
        urgency: 'high',
        contentEncoding: 'aes128gcm',
        // A fill-in replaces what the push service has not delivered yet (RFC 8030, section 5.4).
        topic: notice.id.replaceAll('-', '').slice(0, 32),
      },
    );
    const { status } = await callPublic(request.endpoint, ownServices, {
      headers: request.headers as Record<string, string>,
      body: request.body as Buffer,
      milliseconds: timeoutMs,
    });
    if (status === 404 || status === 410) return { kind: 'gone', why: 'The phone was unregistered.' };
    return status >= 200 && status < 300 ? { kind: 'accepted' } : { kind: 'failed', why: `The push service answered ${status}.` };
  } catch (thrown) {
    return { kind: 'failed', why: `The push service is unreachable: ${(thrown as Error).message}` };
  }
}

type PushNeeds = {
  readonly record: { readonly phones: Phones };
  readonly clock: Clock;
  readonly keys: PushKeys;
  readonly ownPushServices: readonly string[];
  readonly site: Pick<SiteBook, 'file'>;
  readonly publicUrl: string;
};

/** The owner's address where one is known; else the page by which this server is. */
const subjectOf = ({ file }: Pick<SiteBook, 'file'>, publicUrl: string): string => {
  const mail = file.people?.find((p) => p.role === 'owner' && p.mail)?.mail;
  return mail ? `mailto:${mail}` : publicUrl.replace(/^http:/, 'https:');
};

/** Registered phones. */
export function pushChannel({ record: { phones }, clock, keys, ownPushServices, site, publicUrl }: PushNeeds): Channel {
  const signedUp = async (id: string) => {
    const phone = await phones.find(id);
    return phone?.goneAt === null ? phone : undefined;
  };
  return {
    name: 'push',
    fillsIn: true,
    async reach(transaction) {
      const all = await phones.all(transaction);
      return { of: (person) => all.filter((p) => p.person === person).map((p) => p.id), why: () => 'No registered phone' };
    },
    recipientOf: async (id) => (await signedUp(id))?.person,
    async send(id, notice) {
      const phone = await signedUp(id);
      if (!phone) return { kind: 'gone', why: 'The phone is no longer registered.' };
      const answer = await sendPush({ ...keys, subject: subjectOf(site, publicUrl) }, ownPushServices, phone, notice);
      if (answer.kind === 'gone') await phones.gone(id, clock.now());
      return answer;
    },
  };
}
