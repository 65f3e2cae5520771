// A mailbox: a mail server (RFC 5321) with STARTTLS and sign-in, and a page that shows its mail as a person reads it.

import type { AddressInfo } from 'node:net';
import express, { type Express } from 'express';
import { simpleParser, type ParsedMail } from 'mailparser';
import { SMTPServer } from 'smtp-server';
import { servePage } from '../pages/serve';

export const mailFaults = ['none', 'refuse', 'lie', 'slow', 'cut off'] as const;
export type MailFault = (typeof mailFaults)[number];

export type Mail = Pick<ParsedMail, 'messageId' | 'inReplyTo' | 'subject' | 'text' | 'date'> & {
  readonly to: string;
  readonly from: string;
  readonly html: string;
  readonly headers: ParsedMail['headers'];
  readonly pictures: readonly { readonly cid: string | undefined; readonly bytes: Buffer }[];
};

export type Mailbox = {
  readonly port: number;
  readonly page: Express;
  mails(): readonly Mail[];
  setFault(fault: MailFault): void;
  close(): Promise<void>;
};

export const mailSignIn = { user: 'nibber', password: 'withy-mail' } as const;

const slowMs = 60_000;

/** @param tls certificate and key for STARTTLS, PEM; without them nothing is encrypted */
export async function mailbox(port: number, tls?: { readonly cert: string; readonly key: string }): Promise<Mailbox> {
  let fault: MailFault = 'none';
  let mails: Mail[] = [];
  const listeners = new Set<() => void>();
  const server = new SMTPServer({
    ...(tls ?? { disabledCommands: ['STARTTLS'] }),
    authOptional: false,
    allowInsecureAuth: tls === undefined,
    banner: 'mailbox',
    onAuth: ({ username, password }, _session, done) =>
      username === mailSignIn.user && password === mailSignIn.password
        ? done(null, { user: username })
        : done(Object.assign(new Error('the name or the password is wrong'), { responseCode: 535 })),
    onRcptTo: (_address, _session, done) =>
      fault === 'refuse' ? done(Object.assign(new Error('the mailbox is full'), { responseCode: 452 })) : done(),
    onData(stream, session, done) {
      if (fault === 'cut off') {
        stream.resume();
        return void (server as unknown as { connections: Set<{ _socket: { destroy(): void } }> }).connections.forEach((c) =>
          c._socket.destroy(),
        );
      }
      const pieces: Buffer[] = [];
      stream.on('data', (piece: Buffer) => pieces.push(piece));
      stream.on('end', () => {
        const answer = () => done();
        if (fault === 'slow') return void setTimeout(answer, slowMs).unref();
        // It says that it took it, and did not.
        if (fault === 'lie') return done(Object.assign(new Error('queued, or perhaps not'), { responseCode: 451 }));
        void simpleParser(Buffer.concat(pieces)).then((read) => {
          const to = session.envelope.rcptTo.map((r) => r.address).join(', ');
          const pictures = read.attachments
            .filter((a) => a.contentType.startsWith('image/'))
            .map((a) => ({ cid: a.cid, bytes: a.content }));
          const { messageId, inReplyTo, subject, text, date, headers } = read;
          // The same message once more is shown once.
          mails = [
            { messageId, inReplyTo, subject, text, date, headers, to, from: read.from?.text ?? '', html: read.html || '', pictures },
            ...mails.filter((m) => m.messageId !== messageId),
          ];
          listeners.forEach((l) => l());
          answer();
        });
      });
    },
  });
  // A line that breaks off is no matter for the others.
  server.on('error', () => {});
  await new Promise<void>((ready) => server.listen(port, '127.0.0.1', ready));

  const page = express();
  const state = () =>
    mails.map(({ messageId, inReplyTo, subject, text, to, from, date, pictures }, index) => ({
      index,
      id: messageId,
      replyTo: inReplyTo ?? null,
      subject,
      text,
      to,
      from,
      at: date,
      pictures: pictures.length,
    }));
  page.get('/mails', (_request, response) => void response.json(state()));
  page.get('/changes', (_request, response) => {
    response.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' });
    const say = () => response.write(`data: ${JSON.stringify(state())}\n\n`);
    say();
    listeners.add(say);
    response.on('close', () => listeners.delete(say));
  });
  page.get('/mails/:index/pictures/:picture', (request, response) => {
    const bytes = mails[Number(request.params.index)]?.pictures[Number(request.params.picture)]?.bytes;
    if (!bytes) return void response.status(404).end();
    response.type('jpeg').send(bytes);
  });
  servePage(page, 'mailbox');
  return {
    port: (server.server.address() as AddressInfo).port,
    page,
    mails: () => mails,
    setFault: (next) => void (fault = next),
    close: () => new Promise((done) => server.close(() => done())),
  };
}
