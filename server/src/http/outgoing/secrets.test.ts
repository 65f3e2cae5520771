// A secret goes to the address that it was given for, and to no other: not by a form, a test, the site file, or a version put back.

import { listener } from '../../testing/listener';
import { testDescriber } from '../../testing/describers';
import { peopledYard, testStations, type TestStations } from '../../testing/stations';
import { ofMail, ofReceiver } from '../../db/secrets';

const word = 'the-word-that-lets-in';
let stations: TestStations;
let heard: { own: string[]; other: string[] };
let [own, other]: string[] = [];
let closing: (() => void)[] = [];
/** Keeps all that it is sent, as text. */
async function ear(said: string[]) {
  const made = await listener((request, response) => {
    let text = `${request.method} ${request.url} ${JSON.stringify(request.headers)}`;
    request.on('data', (d) => (text += d));
    request.on('end', () => {
      said.push(text);
      response.end('{}');
    });
  });
  closing.push(made.close);
  return made.url;
}
beforeEach(async () => {
  heard = { own: [], other: [] };
  [own, other] = [await ear(heard.own), await ear(heard.other)];
  stations = await testStations({ site: peopledYard, ownServices: [own, other] });
});
afterEach(async () => {
  await stations.end();
  closing.forEach((close) => close());
  closing = [];
});

const gateway = (url: string) => ({
  url: `${url}/send?to={to}`,
  method: 'POST',
  headers: { authorization: 'Bearer {secret}' },
  body: '{text}',
});
const tryText = (url: string, more = {}) =>
  stations.ask('POST', '/api/channels/text/try', { text: gateway(url), to: '+351900000000', ...more });

test('a gateway that is moved asks for its secret again', async () => {
  await stations.ask('PUT', '/api/channels/text', { text: gateway(own!), secret: word });
  expect((await tryText(own!)).body.accepted).toBe(true);
  expect(heard.own.join()).toContain(word);
  // By trying another address, by saving it, by the site file.
  expect((await tryText(other!)).body.error).toMatchObject({ code: 'bad-input', problems: [{ path: 'secret' }] });
  expect((await stations.ask('PUT', '/api/channels/text', { text: gateway(other!) })).status).toBe(400);
  await stations.ask('PUT', '/api/site/file', { text: stations.site.text.replace(own!, other!) });
  expect(stations.site.file.channels!.text!.url).toContain(other);
  const text = stations.channels.find((c) => c.name === 'text')!;
  await stations.site.edit([[['people', 'wren', 'phone'], '+351900000000']], { by: { name: 'Wren', role: 'owner' }, what: 'x' });
  const notice = { id: 'n', kind: 'alert', at: 0, title: 't', body: 'b', when: 'w', open: 'o', of: {} } as unknown as Parameters<
    typeof text.send
  >[1];
  expect(await text.send('wren', notice)).toMatchObject({ kind: 'failed' });
  expect(heard.other.join()).not.toContain(word);
  // Given again, it goes there.
  expect((await tryText(other!, { secret: word })).body.accepted).toBe(true);
  expect(heard.other.join()).toContain(word);
});

test('an AI service that is moved is asked without its key until that is given again', async () => {
  const [near, far] = await Promise.all([testDescriber(() => ({ content: 'x' })), testDescriber(() => ({ content: 'x' }))]);
  closing.push(near.close, far.close);
  await stations.end();
  stations = await testStations({ site: peopledYard, ownServices: [near.origin, far.origin] });
  const service = { name: 'Near', url: near.url, model: 'm' };
  const { body } = await stations.ask('POST', '/api/ai-services', { service, key: word });
  const asked = (of: typeof near) => JSON.stringify(of.asked.map((a) => a.headers));
  await stations.ask('POST', '/api/ai-services/try', { service, id: body.id });
  expect(asked(near)).toContain(word);
  expect((await stations.ask('POST', '/api/ai-services/try', { service: { ...service, url: far.url }, id: body.id })).status).toBe(400);
  expect((await stations.ask('PUT', `/api/ai-services/${body.id}`, { service: { ...service, url: far.url, id: body.id } })).status).toBe(
    400,
  );
  await stations.ask('PUT', '/api/site/file', { text: stations.site.text.replace(near.url, far.url) });
  await stations.aiServices.ask('descriptions', {
    prompt: { kind: 'sentence' },
    words: 'x',
    pictures: [],
    of: { event: null, camera: '', why: '', pictures: [] },
  } as never);
  expect(far.asked.length).toBeGreaterThan(0);
  expect(asked(far)).not.toContain(word);
});

test('what was kept before secrets were bound is bound to where it goes now', async () => {
  const site = {
    ...stations.site.file,
    receivers: [{ id: 'bus', name: 'Bus', by: 'mqtt', url: 'mqtts://broker.example' }],
  } as typeof stations.site.file;
  const [receiver] = site.receivers!;
  await stations.record.write((transaction) => stations.sealed.put('channel bus', word, transaction));
  expect(await stations.secrets.of(ofReceiver(receiver!))).toBeUndefined();
  await stations.secrets.bind(site);
  expect(await stations.secrets.of(ofReceiver(receiver!))).toBe(word);
  expect(await stations.secrets.of(ofReceiver({ ...receiver!, url: 'mqtt://broker.example' }))).toBeUndefined();
});

test.each([
  ['another host', { host: 'mail.other' }],
  ['another port', { port: 26 }],
  ['a line that is not safe', { security: 'none' as const }],
])('a mail server at %s is another origin', (_what, change) => {
  const server = { host: 'mail.example', from: 'a@b.example', security: 'tls' as const };
  expect(ofMail({ ...server, ...change }).origin).not.toBe(ofMail(server).origin);
  expect(ofMail({ ...server, host: 'MAIL.example', from: 'c@d.example' }).origin).toBe(ofMail(server).origin);
});
