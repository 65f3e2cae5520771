// Deliveries that break off, come in pieces, or come too many at once: each is refused by itself, and the server goes on.

import { connect } from 'node:net';
import { greyJpeg, pairedYard, testStations, type TestStations } from '../../testing/stations';

let stations: TestStations;
let hook: string;
let jpeg: Buffer;
/** So many that none comes to its limit a minute. */
const many = Array.from({ length: 16 }, (_, i) => `door-${i}`);
beforeAll(async () => {
  stations = await testStations({ site: pairedYard([...many, 'porch', 'shed', 'barn', 'mill']) });
  jpeg = await greyJpeg();
  hook = await hookOf('porch');
});
afterAll(() => stations.end());
const hookOf = async (camera: string) => new URL((await stations.ask('GET', `/api/cameras/${camera}/pairing`)).body.url).pathname;

const event = () =>
  JSON.stringify({
    id: `e${Math.random()}`,
    at: new Date(stations.clock.now()).toISOString(),
    kind: 'seen',
    objects: [{ class: 'person', score: 0.9, box: [0.6, 0.4, 0.1, 0.3] }],
  });
const cloudEvent = () =>
  JSON.stringify({
    specversion: '1.0',
    id: `c${Math.random()}`,
    source: '/porch',
    type: 'seen',
    time: new Date(stations.clock.now()).toISOString(),
    data: JSON.parse(event()) as object,
  });
const xml = `<?xml version="1.0"?><tt:MetadataStream xmlns:tt="http://www.onvif.org/ver10/schema"><tt:VideoAnalytics><tt:Frame UtcTime="2026-06-01T21:00:00Z"><tt:Object ObjectId="1"><tt:Appearance><tt:Shape><tt:BoundingBox left="-0.2" top="0.4" right="0.2" bottom="-0.4"/></tt:Shape><tt:Class><tt:Type Likelihood="0.9">Human</tt:Type></tt:Class></tt:Appearance></tt:Object></tt:Frame></tt:VideoAnalytics></tt:MetadataStream>`;
const part = (head: string, bytes: Buffer | string) => [
  Buffer.from(`--cut\r\n${head}\r\n\r\n`),
  Buffer.from(bytes as string),
  Buffer.from('\r\n'),
];
const pictureHead = 'Content-Disposition: form-data; name="shot"; filename="s.jpg"\r\nContent-Type: image/jpeg';
const form = (pictures = 1) =>
  Buffer.concat([
    ...part('Content-Disposition: form-data; name="event"', event()),
    ...Array.from({ length: pictures }, () => part(pictureHead, jpeg)).flat(),
    Buffer.from('--cut--\r\n'),
  ]);

/** Sends a request as bytes. `more`: what its head says will come and never does. @returns the status; 0 where the line was closed without one */
function raw(type: string, body: Buffer, more = 0, to = hook): Promise<number> {
  return new Promise((resolve) => {
    const { hostname, port } = new URL(stations.url);
    let answer = '';
    const socket = connect(Number(port), hostname, () => {
      socket.write(
        `POST ${to} HTTP/1.1\r\nHost: x\r\nConnection: close\r\nContent-Type: ${type}\r\nContent-Length: ${body.length + more}\r\n\r\n`,
      );
      socket.write(body, () => more > 0 && socket.destroy());
    });
    socket.on('data', (d) => (answer += d.toString('latin1')));
    socket.on('error', () => {});
    socket.on('close', () => resolve(Number(/^HTTP\/1\.1 (\d{3})/.exec(answer)?.[1] ?? 0)));
  });
}
const isAlive = async () => expect((await fetch(`${stations.url}/health`)).status).toBeLessThan(504);

test('99 bytes that end inside their picture are refused, and nothing else happens', async () => {
  const short = Buffer.from(`--cut\r\n${pictureHead}\r\n\r\nx`);
  expect(await raw('multipart/form-data; boundary=cut', short)).toBe(400);
  await isAlive();
});

describe('cut at every 20th byte', () => {
  const kinds: readonly (readonly [string, string, () => Buffer])[] = [
    ['JSON', 'application/json', () => Buffer.from(event())],
    ['CloudEvents', 'application/cloudevents+json', () => Buffer.from(cloudEvent())],
    ['ONVIF metadata', 'application/xml', () => Buffer.from(xml)],
    ['a form', 'multipart/form-data; boundary=cut', () => form()],
  ];
  test.each(kinds)('%s, as a whole request and as one that breaks off', async (_name, type, make) => {
    const whole = make();
    const camera = { i: 0 };
    const hooks = await Promise.all(many.map(hookOf));
    const next = () => hooks[camera.i++ % hooks.length]!;
    for (let end = 0; end < whole.length; end += 20) {
      const cut = whole.subarray(0, end);
      expect(400).toBe(await raw(type, cut, 0, next()));
      expect([0, 400]).toContain(await raw(type, cut, 5, next()));
    }
    await isAlive();
  });
});

test('a form holds one picture, and a camera sends two forms at a time', async () => {
  const to = await hookOf('mill');
  const { hostname, port } = new URL(stations.url);
  const start = () =>
    new Promise<ReturnType<typeof connect>>((ready) => {
      const body = form().subarray(0, 300);
      const socket = connect(Number(port), hostname, () => {
        socket.write(`POST ${to} HTTP/1.1\r\nHost: x\r\nContent-Type: multipart/form-data; boundary=cut\r\nContent-Length: 90000\r\n\r\n`);
        socket.write(body, () => ready(socket));
      });
      socket.on('error', () => {});
    });
  const held = [await start(), await start()];
  const statuses: number[] = [];
  // The two are being read once a third is refused.
  while (!statuses.includes(429) && statuses.length < 200) statuses.push(await raw('multipart/form-data; boundary=cut', form(), 0, to));
  expect(statuses.at(-1)).toBe(429);
  // Others are not held up by it.
  expect(await raw('multipart/form-data; boundary=cut', form(), 0, await hookOf('barn'))).toBe(202);
  held.forEach((s) => s.destroy());
});

test('a form with two pictures is refused', async () => {
  expect(await raw('multipart/form-data; boundary=cut', form(2), 0, await hookOf('shed'))).toBe(400);
});
