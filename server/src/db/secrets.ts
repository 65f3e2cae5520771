// What channels and services are let in by elsewhere: passwords, keys, what signs. Sealed, each with the origin that it was given for; it leaves the
// server for that one alone.

import type { Transaction } from 'sequelize';
import type { Channels, AiService, Receiver, SiteFile } from '@nibber/core/site';
import { Problem } from '@nibber/core/problem';
import { originOf } from '../net/origin';
import type { Sealed } from './sealed';

/** What a secret is of, and where it goes. */
export type SecretFor = { readonly of: string; readonly origin: string };

export type ChannelSecrets = {
  /** @returns undefined where there is none, or where the one that is kept was given for another origin */
  of(secretFor: SecretFor): Promise<string | undefined>;
  /**
   * What is used where something is sent or saved: the one that is given with it (null: none), or else the one that is kept.
   * @throws Problem 'bad-input' where that one was given for another origin
   */
  given(secretFor: SecretFor, given: string | null | undefined): Promise<string | undefined>;
  give(secretFor: SecretFor, secret: string, transaction: Transaction): Promise<void>;
  drop(of: string, transaction: Transaction): Promise<void>;
  /** Those that were kept before they were bound are bound to where they go now. */
  bind(site: SiteFile): Promise<void>;
};

/** A gateway's address with something harmless in its blanks. */
export const withoutBlanks = (url: string): string => url.replace(/\{(to|text|secret)\}/g, 'x');

/** How the line is safe belongs to where it goes: a password that was given for TLS is not sent in the open. */
export const ofMail = ({ host, port, security = 'starttls' }: NonNullable<Channels['mail']>): SecretFor => ({
  of: 'mail',
  origin: originOf(`${security}://${host}:${port ?? ''}`),
});
export const ofText = ({ url }: NonNullable<Channels['text']>): SecretFor => ({ of: 'text', origin: originOf(withoutBlanks(url)) });
/** What signs for a webhook is never sent, so it stays where the webhook moves. */
export const ofReceiver = ({ id, by, url }: Receiver): SecretFor => ({ of: id, origin: by === 'webhook' ? 'signs' : originOf(url) });
export const ofService = ({ id, url }: Pick<AiService, 'id' | 'url'>): SecretFor => ({ of: `describing ${id}`, origin: originOf(url) });

const allOf = ({ channels, receivers = [], ai }: SiteFile): SecretFor[] => [
  ...(channels?.mail ? [ofMail(channels.mail)] : []),
  ...(channels?.text ? [ofText(channels.text)] : []),
  ...receivers.map(ofReceiver),
  ...(ai?.services ?? []).map(ofService),
];

type Stored = { readonly secret: string; readonly origin: string };
const nameOf = (of: string): string => `channel ${of}`;

/** @param write one after the other, as the record does */
export const openChannelSecrets = (
  sealed: Sealed,
  write?: <T>(work: (transaction: Transaction) => Promise<T>) => Promise<T>,
): ChannelSecrets => {
  const kept = (of: string) => sealed.get<Stored | string>(nameOf(of));
  const isFor = (found: Stored | string | undefined, origin: string): found is Stored =>
    typeof found === 'object' && found.origin === origin;
  const ofIt = async ({ of, origin }: SecretFor) => {
    const found = await kept(of);
    return isFor(found, origin) ? found.secret : undefined;
  };
  return {
    of: ofIt,
    async given(secretFor, given) {
      if (given !== undefined) return given ?? undefined;
      const found = await kept(secretFor.of);
      if (found !== undefined && !isFor(found, secretFor.origin))
        throw new Problem('bad-input', 'The saved secret belongs to another address.', 'Enter it again. Nothing was sent or changed.', [
          { path: 'secret', wrong: 'belongs to another address', allowed: 'enter it again' },
        ]);
      return found?.secret;
    },
    give: ({ of, origin }, secret, transaction) => sealed.put(nameOf(of), { secret, origin } satisfies Stored, transaction),
    drop: (of, transaction) => sealed.drop(nameOf(of), transaction),
    async bind(site) {
      for (const { of, origin } of allOf(site)) {
        const found = await kept(of).catch(() => undefined);
        if (typeof found === 'string')
          await write!((transaction) => sealed.put(nameOf(of), { secret: found, origin } satisfies Stored, transaction));
      }
    },
  };
};
