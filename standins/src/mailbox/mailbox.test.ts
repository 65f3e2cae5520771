// Mail as it leaves the server, read by a general MIME parser (mailparser) behind a general mail server (smtp-server).

import { ofMail } from '@nibber/server/db/secrets';
import { generate } from 'selfsigned';
import { peopledYard, testStations, until, walkIn, type TestStations } from '@nibber/server/testing/stations';
import { mailbox, mailSignIn, type Mailbox, type MailFault } from './server';

let box: Mailbox;
let tls: { cert: string; key: string };
const open: TestStations[] = [];

beforeAll(async () => {
  const made = await generate([{ name: 'commonName', value: 'localhost' }], {
    extensions: [{ name: 'subjectAltName', altNames: [{ type: 2, value: 'localhost' }] }],
  } as never);
  tls = { cert: made.cert, key: made.private };
  box = await mailbox(0, tls);
});
afterEach(async () => {
  box.setFault('none');
  for (const stations of open.splice(0)) await stations.end();
});
afterAll(() => box.close());

const site = (more: object = {}) =>
  peopledYard
    .replace('role: owner }', `role: owner, mail: "wren@withy.example", ${JSON.stringify(more).slice(1, -1)} }`.replace(', }', ' }'))
    .replaceAll('notify: [{ to: owner, channel: push }]', 'notify: [{ to: owner, channel: mail }]')
    .replace('cooldownSeconds: 300', 'cooldownSeconds: 0')
    .replace('- { id: yard, name: Yard }', '- { id: yard, name: Yard, threadSeconds: 600 }')
    .concat(`channels: { mail: { host: localhost, port: ${box.port}, user: ${mailSignIn.user}, from: nibber@withy.example } }\n`);

async function place(options: Partial<Parameters<typeof testStations>[0]> = {}, password: string = mailSignIn.password) {
  const stations = await testStations({ site: site(), mailCa: tls.cert, ...options });
  open.push(stations);
  await stations.record.write((transaction) => stations.secrets.give(ofMail(stations.site.file.channels!.mail!), password, transaction));
  await stations.site.setMode('yard', 'shut', { name: 'Wren' });
  return stations;
}
const alertOf = (stations: TestStations, state: string) =>
  until(async () => (await stations.record.tables.alerts.findOne({ where: { state } })) ?? undefined);
const mailsTo = (count: number) => until(() => (box.mails().length >= count ? box.mails() : undefined));

test('an alert is a mail with its picture; what joins its thread is a reply to it, and the first of another thread is not', async () => {
  const stations = await place();
  const before = box.mails().length;
  await walkIn(stations);
  const [first] = await mailsTo(before + 1);
  expect(first).toMatchObject({ subject: 'Someone comes in', to: 'wren@withy.example' });
  expect(first!.from).toContain('nibber@withy.example');
  expect(first!.text).toMatch(/Event: http:\/\/127\.0\.0\.1:\d+\/events\/[\w-]+/);
  expect(first!.html).toContain('<img src="data:image/jpeg;base64,');
  expect(first!.pictures).toHaveLength(1);
  expect([...first!.pictures[0]!.bytes.subarray(0, 2)]).toEqual([0xff, 0xd8]);
  // RFC 3834, section 5.
  expect(first!.headers.get('auto-submitted')).toBe('auto-generated');
  expect(first!.inReplyTo).toBeUndefined();
  await walkIn(stations, 70_000);
  const [second] = await mailsTo(before + 2);
  // RFC 5322, 3.6.4.
  expect([second!.inReplyTo, second!.headers.get('references'), second!.subject]).toEqual([
    first!.messageId,
    first!.messageId,
    'Re: Someone comes in',
  ]);
  expect(second!.messageId).not.toBe(first!.messageId);
  await alertOf(stations, 'sent');
  const [mail] = (await stations.ask('GET', '/api/channels')).body.channels.filter((c: { name: string }) => c.name === 'mail');
  expect(mail).toMatchObject({ isSetUp: true, hasSecret: true, waiting: 0, acceptedAt: expect.any(Number), why: null });
});

test.each<[MailFault, RegExp]>([
  ['refuse', /mailbox is full/],
  ['lie', /queued, or perhaps not/],
  ['cut off', /refused/],
])('a mail server that fails (%s) is tried again, and one mail comes', async (fault, why) => {
  box.setFault(fault);
  const before = box.mails().length;
  const stations = await place();
  await walkIn(stations);
  const state = await until(async () => (await stations.record.channelStates.all()).find((s) => s.refusedAt !== null));
  expect(state).toMatchObject({ key: 'mail/wren', acceptedAt: null, why: expect.stringMatching(why) });
  expect(JSON.stringify((await stations.ask('GET', '/api/channels')).body)).not.toContain(mailSignIn.password);
  box.setFault('none');
  await alertOf(stations, 'sent');
  expect(box.mails()).toHaveLength(before + 1);
});

test('it is not signed in where the line is not safe: an unknown certificate, or a wrong password, is said', async () => {
  const unknown = await place({ mailCa: undefined });
  const attempt = (s: TestStations) =>
    s.ask('POST', '/api/channels/mail/try', { mail: s.site.file.channels!.mail, to: 'wren@withy.example' });
  expect((await attempt(unknown)).body).toMatchObject({ accepted: false, said: expect.stringMatching(/certificate/) });
  const wrong = await place({}, 'not this one');
  expect((await attempt(wrong)).body).toMatchObject({ accepted: false, said: expect.stringMatching(/name or the password is wrong/) });
  const right = await place();
  const before = box.mails().length;
  expect((await attempt(right)).body).toMatchObject({ accepted: true });
  expect(box.mails()).toHaveLength(before + 1);
  expect(box.mails()[0]!.subject).toMatch(/^Test for/);
});

test('words that would be a header, or a script, stay words', async () => {
  const stations = await place();
  const title = 'Late\r\nBcc: all@withy.example';
  const rule = stations.site.file.rules![0]!;
  await stations.site.edit([[['rules', rule.id, 'message'], { title, text: '<script>alert(1)</script> & "so"' }]], {
    by: { name: 'Wren', role: 'owner' },
    what: 'x',
  });
  const before = box.mails().length;
  await walkIn(stations);
  const [mail] = await mailsTo(before + 1);
  expect(mail!.to).toBe('wren@withy.example');
  expect(mail!.headers.has('bcc')).toBe(false);
  expect(mail!.html).not.toContain('<script>');
  expect(mail!.text).toContain('<script>alert(1)</script> & "so"');
});
