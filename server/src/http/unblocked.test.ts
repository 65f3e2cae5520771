// No single device, delivery or request holds up everyone else: while each of these goes on, the event loop has its turns as when idle.

import { connect } from 'node:net';
import { Worker } from 'node:worker_threads';
import { listenToDevices } from '../devices/listen';
import { takeIn } from '../intake/camera';
import { pairedYard, testStations, until, type TestStations } from '../testing/stations';
import { longestTurn, maxHeldUpMs } from '../testing/turns';

let stations: TestStations;
let idle: number;
beforeAll(async () => {
  stations = await testStations({ site: pairedYard(['porch']) });
  const ping = async () => {
    for (let i = 0; i < 40; i++) await fetch(`${stations.url}/health`);
  };
  // Once to have everything loaded.
  await ping();
  idle = await longestTurn(ping);
});
afterAll(() => stations.end());

/** Runs, while the server is asked for its health all along. */
async function heldUp(work: () => Promise<unknown>): Promise<number> {
  let isOver = false;
  const pings = (async () => {
    while (!isOver) expect((await fetch(`${stations.url}/health`)).status).toBeLessThan(504);
  })();
  try {
    return (await longestTurn(work)) - idle;
  } finally {
    isOver = true;
    await pings;
  }
}

/** A device in a thread of its own, so that what it costs is not counted here. @param answer the body of a function of request and response */
async function device(answer: string): Promise<{ url: string; asked: () => Promise<number>; close: () => Promise<unknown> }> {
  const code = `const { parentPort } = require('node:worker_threads');
    let asked = 0;
    const server = require('node:http').createServer((request, response) => { asked++; let text = ''; request.on('data', (d) => (text += d)); request.on('end', () => { ${answer} }); response.on('error', () => {}); });
    server.listen(0, '127.0.0.1', () => parentPort.postMessage(server.address().port));
    parentPort.on('message', () => parentPort.postMessage(asked));`;
  const thread = new Worker(code, { eval: true });
  const next = () => new Promise<number>((resolve) => thread.once('message', resolve));
  const port = await next();
  return {
    url: `http://127.0.0.1:${port}`,
    asked: () => {
      const answered = next();
      thread.postMessage('');
      return answered;
    },
    close: () => thread.terminate(),
  };
}

test('a camera that sends parts of five bytes, as fast as it can', async () => {
  const flood = await device(`response.writeHead(200, { 'content-type': 'multipart/x-mixed-replace; boundary=x' });
    const part = Buffer.concat([Buffer.from('--x\\r\\n\\r\\n'), Buffer.from([0xff, 0xd8, 0xff, 0xff, 0xd9])]);
    const many = Buffer.concat(Array.from({ length: 4000 }, () => part));
    const more = () => { while (response.write(many)); };
    response.on('drain', more); more();`);
  let pictures = 0;
  const intake = takeIn(
    { id: 'gate', source: { kind: 'streamed', low: `${flood.url}/low` } },
    async () => undefined,
    stations.clock,
    () => pictures++,
  );
  const began = performance.now();
  expect(await heldUp(() => until(() => (pictures > 100 ? true : undefined)))).toBeLessThan(maxHeldUpMs());
  // No more of them are taken in than a camera has to show.
  expect(pictures / ((performance.now() - began) / 1000)).toBeLessThan(130);
  expect(intake.health().picturesASecond).toBeGreaterThan(0);
  intake.close();
  await flood.close();
}, 60_000);

const envelope = (body: string) =>
  `<s:Envelope xmlns:s="http://www.w3.org/2003/05/soap-envelope" xmlns:t="http://www.onvif.org/ver10/device/wsdl" xmlns:tt="http://www.onvif.org/ver10/schema" xmlns:e="http://www.onvif.org/ver10/events/wsdl" xmlns:w="http://www.w3.org/2005/08/addressing"><s:Body>${body}</s:Body></s:Envelope>`;
/** An ONVIF device that lets itself be listened to; `pulled` is what it answers when it is pulled from. */
const onvif = (pulled: string) =>
  device(`const own = 'http://' + request.headers.host;
    const say = (body) => response.end(${JSON.stringify(envelope('BODY'))}.replace('BODY', body));
    if (text.includes('GetSystemDateAndTime')) say('<t:GetSystemDateAndTimeResponse/>');
    else if (text.includes('GetCapabilities')) say('<t:GetCapabilitiesResponse><t:Capabilities><tt:Events><tt:XAddr>' + own + '/events</tt:XAddr></tt:Events></t:Capabilities></t:GetCapabilitiesResponse>');
    else if (text.includes('CreatePullPointSubscription')) say('<e:CreatePullPointSubscriptionResponse><e:SubscriptionReference><w:Address>' + own + '/pull</w:Address></e:SubscriptionReference></e:CreatePullPointSubscriptionResponse>');
    else { ${pulled} }`);
const message = `<x:NotificationMessage xmlns:x="http://docs.oasis-open.org/wsn/b-2"><x:Topic>tns1:VideoSource/ImageTooDark/ImagingService</x:Topic><x:Message><tt:Message UtcTime="2026-06-01T10:00:00Z"><tt:Data><tt:SimpleItem Name="State" Value="true"/></tt:Data></tt:Message></x:Message></x:NotificationMessage>`;

test.each([
  ['answers 1.8 MB', `say('<e:PullMessagesResponse>' + ${JSON.stringify(message)}.repeat(4200) + '</e:PullMessagesResponse>');`],
  ['answers as much as is read', `say('<e:PullMessagesResponse>' + ${JSON.stringify(message)}.repeat(400) + '</e:PullMessagesResponse>');`],
  ['answers nothing, at once', `say('<e:PullMessagesResponse/>');`],
])(
  'a device that %s',
  async (_what, pulled) => {
    const own = await onvif(pulled);
    const camera = {
      id: 'gate',
      name: 'Gate',
      area: 'yard',
      source: { kind: 'streamed', low: `${own.url}/low`, device: `${own.url}/onvif` },
    } as const;
    let ears: ReturnType<typeof listenToDevices> | undefined;
    const asked: number[] = [];
    const blocked = await heldUp(async () => {
      ears = listenToDevices(
        stations.clock,
        async () => undefined,
        () => {},
      );
      ears.follow([camera as never]);
      await until(async () => ((await own.asked()) >= 4 ? true : undefined));
      asked.push(await own.asked());
      await new Promise((r) => setTimeout(r, 2500));
      asked.push(await own.asked());
    });
    expect(blocked).toBeLessThan(maxHeldUpMs());
    // In two seconds and a half, three times at most.
    expect(asked[1]! - asked[0]!).toBeLessThanOrEqual(3);
    await ears!.close();
    await own.close();
  },
  60_000,
);

const unknownKeys = (bytes: number) => {
  const keys: string[] = [];
  for (let length = 0, i = 0; length < bytes; length += keys.at(-1)!.length + 1, i++) keys.push(`unknown-${i}: 1`);
  return `${stations.site.text}${keys.join('\n')}\n`;
};

test.each([7_000, 60_000, 900_000])(
  'a site file with %d bytes of unknown keys',
  async (bytes) => {
    const text = unknownKeys(bytes);
    let answer: Awaited<ReturnType<TestStations['ask']>> | undefined;
    expect(await heldUp(async () => (answer = await stations.ask('POST', '/api/site/check', { text })))).toBeLessThan(maxHeldUpMs());
    // So many as anyone reads, each with its line; or that it takes too long.
    if (answer!.status === 200) {
      expect(answer!.body.problems).toHaveLength(100);
      expect(answer!.body.problems[99].line).toBeGreaterThan(0);
    } else expect([answer!.status, answer!.body.error.code]).toEqual([422, 'bad-site']);
    expect(await heldUp(() => stations.ask('PUT', '/api/site/file', { text }))).toBeLessThan(maxHeldUpMs());
    expect(stations.site.text).not.toContain('unknown-1');
  },
  60_000,
);

test('an edit that was made 900 versions ago', async () => {
  const { record, site } = stations;
  const owner = { by: { name: 'Wren', role: 'owner' }, what: 'x' } as const;
  const from = site.version;
  await record.tables.siteVersions.bulkCreate(
    Array.from({ length: 900 }, () => ({ at: 1, by: 'Ives', what: 'x', text: site.text, paths: null })) as never,
  );
  await site.edit([[['rules', 'comes-in', 'cooldownSeconds'], 7]], owner);
  const body = { ...site.file.rules!.find((r) => r.id === 'comes-in')!, cooldownSeconds: 8 };
  let status = 0;
  const put = async () =>
    ({ status } = await stations.ask('PUT', '/api/rules/comes-in', body, { cookie: stations.cookie, 'if-match': `"${from}"` }));
  expect(await heldUp(put)).toBeLessThan(maxHeldUpMs());
  expect(status).toBe(409);
});

test('questions of many words, five at once', async () => {
  const words = Array.from({ length: 24 }, (_, i) => `w${'abcdefghijklmnopqrstuvwx'[i]}x?`);
  const query = { wanted: 'which', kinds: [], cameras: [], areas: [], rules: [], sensors: [], span: null, words };
  const five = () => Promise.all(Array.from({ length: 5 }, () => stations.ask('POST', '/api/ask', { query })));
  await five();
  expect(await heldUp(five)).toBeLessThan(maxHeldUpMs());
});

test('forty forms that are held open take no more memory than two', async () => {
  const { body } = await stations.ask('GET', '/api/cameras/porch/pairing');
  const { pathname } = new URL(body.url as string);
  const { hostname, port } = new URL(stations.url);
  const head = `POST ${pathname} HTTP/1.1\r\nHost: x\r\nContent-Type: multipart/form-data; boundary=cut\r\nContent-Length: 33000000\r\n\r\n--cut\r\nContent-Disposition: form-data; name="p"; filename="p.jpg"\r\nContent-Type: image/jpeg\r\n\r\n`;
  const before = process.memoryUsage().rss;
  const piece = Buffer.alloc(1_000_000, 1);
  const open = await Promise.all(
    Array.from(
      { length: 40 },
      () =>
        new Promise<ReturnType<typeof connect>>((ready) => {
          const socket = connect(Number(port), hostname, () => {
            socket.write(head);
            // Seven of the eight that a picture may have.
            for (let i = 0; i < 7; i++) socket.write(piece);
            socket.write('', () => ready(socket));
          });
          socket.on('data', () => {});
          socket.on('error', () => ready(socket));
        }),
    ),
  );
  expect(await heldUp(async () => (await fetch(`${stations.url}/health`)).status)).toBeLessThan(maxHeldUpMs());
  expect(process.memoryUsage().rss - before).toBeLessThan(200_000_000);
  open.forEach((s) => s.destroy());
});
