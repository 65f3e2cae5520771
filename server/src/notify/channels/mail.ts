// Mail (RFC 5321, 5322) by a server of the owner's, with TLS and sign-in. One message starts a thread, those that join it are replies to it by
// its Message-ID; a message that is sent again after a failure has the same one, so that it is shown once.

import { createHash } from 'node:crypto';
import { createTransport } from 'nodemailer';
import type { Channels } from '@nibber/core/site';
import type { SiteBook } from '../../db/site';
import type { Media } from '../../db/media';
import type { Answer, Channel, Notice } from './index';
import { ofMail, type ChannelSecrets } from '../../db/secrets';

type MailNeeds = {
  readonly site: SiteBook;
  readonly secrets: ChannelSecrets;
  readonly record: { readonly media: Pick<Media, 'read'> };
  /** Certificates to trust beside the usual, PEM. */
  readonly ca?: string | undefined;
};
export type MailServer = NonNullable<Channels['mail']>;

const connectMs = 10_000;
const socketMs = 20_000;
/** Mail is not read in seconds: its one message waits for the sentence, so that there need be no second. */
const descriptionMs = 20_000;
const defaultPort = { tls: 465, starttls: 587, none: 25 } as const;

export function mailChannel({ site, secrets, record, ca }: MailNeeds): Channel {
  const addressOf = (person: string) => site.file.people?.find((p) => p.id === person)?.mail;
  return {
    name: 'mail',
    fillsIn: descriptionMs,
    async reach() {
      const isSetUp = site.file.channels?.mail !== undefined;
      return {
        of: (to) => (isSetUp && addressOf(to) ? [to] : []),
        why: () => (isSetUp ? 'No e-mail address' : 'No mail server is set up'),
      };
    },
    recipientOf: async (person) => (addressOf(person) ? person : undefined),
    async send(person, notice) {
      const [server, to] = [site.file.channels?.mail, addressOf(person)];
      if (!server || !to) return { kind: 'gone', why: server ? 'No e-mail address.' : 'No mail server is set up.' };
      const name = notice.picture && pictureName(notice.picture);
      // A picture that is gone takes no words with it.
      const picture = name ? await record.media.read(name).catch(() => undefined) : undefined;
      return sendMail(server, await secrets.of(ofMail(server)), { to, person, notice, picture, siteName: site.file.site.name }, ca);
    },
  };
}

const pictureName = (link: string): string | undefined => /\/pictures\/([0-9a-f]{40}\.jpg)/.exec(link)?.[1];

export type Letter = {
  readonly to: string;
  readonly person: string;
  readonly notice: Notice;
  readonly picture: Buffer | undefined;
  readonly siteName: string;
};

export async function sendMail(server: MailServer, password: string | undefined, letter: Letter, ca: string | undefined): Promise<Answer> {
  const { host, security = 'starttls', port = defaultPort[security], user, from } = server;
  if (user !== undefined && password === undefined)
    return { kind: 'failed', why: 'The mail server has no password. Enter it in Channels.' };
  const transport = createTransport({
    host,
    port,
    secure: security === 'tls',
    requireTLS: security === 'starttls',
    ignoreTLS: security === 'none',
    ...(user === undefined ? {} : { auth: { user, pass: password! } }),
    ...(ca ? { tls: { ca } } : {}),
    connectionTimeout: connectMs,
    greetingTimeout: connectMs,
    socketTimeout: socketMs,
    disableFileAccess: true,
    disableUrlAccess: true,
  });
  try {
    const sent = await transport.sendMail(messageOf(from, letter));
    return sent.accepted.length > 0
      ? { kind: 'accepted', said: sent.response }
      : { kind: 'failed', why: `The mail server rejected every recipient: ${sent.response}` };
  } catch (thrown) {
    return { kind: 'failed', why: `The mail server refused: ${(thrown as Error).message}` };
  } finally {
    transport.close();
  }
}

/** Message-IDs follow from what they are of (RFC 5322, 3.6.4). */
const messageId = (of: readonly string[], from: string) =>
  `<${createHash('sha256').update(JSON.stringify(of)).digest('hex').slice(0, 32)}@${from.split('@')[1]}>`;

function messageOf(from: string, { to, person, notice, picture, siteName }: Letter) {
  const { id, thread, joins, title, body, when, open, live } = notice;
  const first = messageId(['thread', thread ?? id, person], from);
  const links = [`Event: ${open}`, ...(live ? [`Live: ${live}`] : [])];
  const cid = 'picture@nibber';
  return {
    from: { name: `Nibber, ${siteName}`, address: from },
    to,
    subject: `${joins ? 'Re: ' : ''}${title}`,
    messageId: joins ? messageId(['alert', id, person], from) : first,
    ...(joins ? { inReplyTo: first, references: first } : {}),
    // No holiday answers (RFC 3834).
    headers: { 'Auto-Submitted': 'auto-generated' },
    text: [`${title}\n${when}`, body, links.join('\n')].join('\n\n'),
    html: [
      `<p><strong>${html(title)}</strong><br>${html(when)}</p><p>${html(body)}</p>`,
      picture ? `<p><a href="${html(open)}"><img src="cid:${cid}" alt="${html(title)}" style="max-width:100%"></a></p>` : '',
      `<p><a href="${html(open)}">Event</a>${live ? ` · <a href="${html(live)}">Live</a>` : ''}</p>`,
    ].join(''),
    attachments: picture ? [{ filename: 'picture.jpg', content: picture, contentType: 'image/jpeg', cid }] : [],
  };
}

const html = (text: string) => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);
