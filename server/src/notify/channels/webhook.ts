// Other programs notified over HTTP: a CloudEvent (1.0, structured JSON), signed by HMAC-SHA-256 (RFC 2104) over its time and its body, so that one
// that was changed, or is sent again later by someone else, is known as such (docs/receivers.md).

import { createHmac } from 'node:crypto';
import { writeAlertEvent } from '@nibber/core/formats';
import { callPublic } from '../../net/public-address';
import type { SiteBook } from '../../db/site';
import { maxAnswerBytes, shownAnswer, type Channel, type Notice } from './index';
import { ofReceiver, type ChannelSecrets } from '../../db/secrets';

const timeoutMs = 10_000;

export type WebhookNeeds = {
  readonly site: SiteBook;
  readonly secrets: ChannelSecrets;
  readonly publicUrl: string;
  readonly ownServices: readonly string[];
  readonly machine: () => number;
};

/** @param seconds since 1970, by the machine's clock */
export const signatureOf = (secret: string, seconds: number, body: string): string =>
  `sha256=${createHmac('sha256', secret).update(`${seconds}.${body}`).digest('hex')}`;

export function webhookChannel({ site, secrets, publicUrl, ownServices, machine }: WebhookNeeds): Channel {
  const receiver = (id: string) => site.file.receivers?.find((r) => r.id === id && r.by === 'webhook');
  return {
    name: 'webhook',
    fillsIn: true,
    reach: async () => ({ of: (to) => (receiver(to) ? [to] : []), why: () => 'It is no longer set up' }),
    recipientOf: async (id) => receiver(id)?.id,
    async send(id, notice) {
      const to = receiver(id);
      if (!to) return { kind: 'gone', why: 'It is no longer set up.' };
      const body = JSON.stringify(alertEvent(notice, publicUrl));
      const seconds = Math.floor(machine() / 1000);
      const secret = await secrets.of(ofReceiver(to));
      try {
        const { status, text } = await callPublic(to.url, ownServices, {
          headers: {
            'content-type': 'application/cloudevents+json; charset=utf-8',
            'nibber-time': String(seconds),
            ...(secret ? { 'nibber-signature': signatureOf(secret, seconds, body) } : {}),
          },
          body: Buffer.from(body),
          milliseconds: timeoutMs,
          maxBytes: maxAnswerBytes,
        });
        if (status === 410) return { kind: 'gone', why: 'It answered that it is gone (410).' };
        const said = `${status} ${shownAnswer(text)}`.trim();
        return status >= 200 && status < 300 ? { kind: 'accepted', said } : { kind: 'failed', why: `It answered ${said}.` };
      } catch (thrown) {
        return { kind: 'failed', why: `It is unreachable: ${(thrown as Error).message}` };
      }
    },
  };
}

/** What other programs get, the same by webhook and by MQTT. */
export const alertEvent = ({ id, kind, title, body, at, picture, open, of }: Notice, publicUrl: string) =>
  writeAlertEvent({ id, kind, at, source: publicUrl, ...of, title, body, picture, open });
