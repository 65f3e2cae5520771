// Text messages by a gateway: an HTTP request that is written down with placeholders (core/formats/gateway).

import { gatewayRequest, isTaken, type Gateway } from '@nibber/core/gateway';
import { callPublic } from '../../net/public-address';
import type { SiteBook } from '../../db/site';
import { maxAnswerBytes, shownAnswer, type Answer, type Channel, type Notice } from './index';
import { ofText, type ChannelSecrets } from '../../db/secrets';

const timeoutMs = 15_000;
/** Four messages joined, as GSM 03.38 counts them with characters outside its alphabet: 4 × 67. */
const maxSigns = 268;

export type TextNeeds = { readonly site: SiteBook; readonly secrets: ChannelSecrets; readonly ownServices: readonly string[] };

export function textChannel(needs: TextNeeds): Channel {
  const { site, secrets } = needs;
  const numberOf = (person: string) => site.file.people?.find((p) => p.id === person)?.phone;
  return {
    name: 'text',
    fillsIn: 0,
    async reach() {
      const isSetUp = site.file.channels?.text !== undefined;
      return {
        of: (to) => (isSetUp && numberOf(to) ? [to] : []),
        why: () => (isSetUp ? 'No phone number' : 'No gateway for text messages is set up'),
      };
    },
    recipientOf: async (person) => (numberOf(person) ? person : undefined),
    async send(person, notice) {
      const [gateway, to] = [site.file.channels?.text, numberOf(person)];
      if (!gateway || !to) return { kind: 'gone', why: gateway ? 'No phone number.' : 'No gateway is set up.' };
      return sendText(gateway, await secrets.of(ofText(gateway)), to, textOf(notice), needs.ownServices);
    },
  };
}

/** The words first, cut before the link is. */
export function textOf({ title, body, when, open }: Pick<Notice, 'title' | 'body' | 'when' | 'open'>): string {
  const words = [...`${title}, ${when}. ${body}`];
  const room = maxSigns - [...open].length - 1;
  return `${words.length > room ? `${words.slice(0, room - 1).join('')}…` : words.join('')} ${open}`;
}

export async function sendText(
  gateway: Gateway,
  secret: string | undefined,
  to: string,
  text: string,
  own: readonly string[],
): Promise<Answer> {
  if (secret === undefined && JSON.stringify(gateway).includes('{secret}'))
    return { kind: 'failed', why: 'The gateway has no secret. Enter it in Channels.' };
  const { url, method, headers, body } = gatewayRequest(gateway, { to, text, secret: secret ?? '' });
  try {
    const answer = await callPublic(url, own, {
      method,
      headers,
      body: body === undefined ? undefined : Buffer.from(body),
      milliseconds: timeoutMs,
      maxBytes: maxAnswerBytes,
    });
    // What a gateway says may hold what it was sent.
    const said = `${answer.status} ${shownAnswer(secret ? answer.text.replaceAll(secret, '…') : answer.text)}`.trim();
    return isTaken(gateway, answer.status, answer.text)
      ? { kind: 'accepted', said }
      : { kind: 'failed', why: `The gateway answered ${said}.` };
  } catch (thrown) {
    return { kind: 'failed', why: `The gateway is unreachable: ${(thrown as Error).message}` };
  }
}
