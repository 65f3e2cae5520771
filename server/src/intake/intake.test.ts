import { createServer, type ServerResponse } from 'node:http';
import fc from 'fast-check';
import { machineClock } from '../base/clock';
import { until } from '../testing/stations';
import { takeIn } from './camera';
import { boundaryOf, pictureCutter } from '../streams/multipart';

const jpeg = (n: number) => Buffer.from([0xff, 0xd8, 0xff, 0xe0, n, n, 0xff, 0xd9]);
const part = (b: Buffer, withLength: boolean) =>
  Buffer.concat([
    Buffer.from(`--frame\r\nContent-Type: image/jpeg\r\n${withLength ? `Content-Length: ${b.length}\r\n` : ''}\r\n`),
    b,
    Buffer.from('\r\n'),
  ]);

test('pictures come whole out of a stream cut anywhere, with and without lengths', () => {
  fc.assert(
    fc.property(fc.boolean(), fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 20 }), (withLength, cuts) => {
      const stream = Buffer.concat([...[1, 2, 3].map((n) => part(jpeg(n), withLength)), Buffer.from('--frame')]);
      const got: number[] = [];
      const cut = pictureCutter('frame', (b) => got.push(b[4]!));
      for (let at = 0, i = 0; at < stream.length; i++) {
        const length = cuts[i % cuts.length]!;
        cut(stream.subarray(at, at + length));
        at += length;
      }
      expect(got).toEqual([1, 2, 3]);
    }),
    { numRuns: 200 },
  );
});

test.each([
  ['multipart/x-mixed-replace; boundary=frame', 'frame'],
  ['multipart/x-mixed-replace;boundary="--my frame"', 'my frame'],
  ['image/jpeg', undefined],
  [null, undefined],
])('the boundary of %s', (type, boundary) => expect(boundaryOf(type)).toBe(boundary));

test('what is no picture, or has no end, is an error and not a growing heap', () => {
  const cut = pictureCutter('frame', () => {});
  expect(() => cut(part(Buffer.from('this is no picture'), true))).toThrow('not a JPEG');
  expect(() => pictureCutter('frame', () => {})(Buffer.concat([Buffer.from('--frame\r\n'), Buffer.alloc(9000, 'x')]))).toThrow(
    'head without an end',
  );
  expect(() => pictureCutter('frame', () => {})(Buffer.from('--frame\r\nContent-Length: 99999999\r\n\r\n'))).toThrow('larger than');
});

test('a camera that drops, refuses, sends another form, rubbish or nothing is tried again and says what was wrong', async () => {
  const acts: ((response: ServerResponse) => void)[] = [
    (r) => r.destroy(),
    (r) => void r.writeHead(404).end(),
    (r) => void r.writeHead(200, { 'content-type': 'text/html' }).end('<html>'),
    (r) => {
      r.writeHead(200, { 'content-type': 'multipart/x-mixed-replace; boundary=frame' });
      r.write(part(Buffer.from('rubbish of some length'), true));
    },
    // Sends two pictures and then nothing.
    (r) =>
      void r
        .writeHead(200, { 'content-type': 'multipart/x-mixed-replace; boundary=frame' })
        .write(Buffer.concat([part(jpeg(1), true), part(jpeg(2), true)])),
    (r) => {
      r.writeHead(200, { 'content-type': 'multipart/x-mixed-replace; boundary=frame' });
      r.write(part(jpeg(9), true));
      r.write('--frame');
    },
  ];
  let turn = 0;
  const server = createServer((_request, response) => acts[Math.min(turn++, acts.length - 1)]!(response));
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  const url = `http://127.0.0.1:${(server.address() as { port: number }).port}/low`;
  const got: number[] = [];
  const problems = new Set<string>();
  const intake = takeIn(
    { id: 'c', source: { kind: 'streamed', low: url } },
    async () => undefined,
    machineClock(),
    (p) => got.push(p.jpeg[4]!),
  );
  await until(() => {
    const { problem } = intake.health();
    if (problem) problems.add(problem);
    return got.includes(9) || undefined;
  }, 30_000);
  expect(got).toEqual([1, 2, 9]);
  expect(intake.health().state).toBe('running');
  expect([...problems].join(' ')).toMatch(/closed the connection.*answered 404.*sends text\/html.*not a JPEG.*No picture for 5 s/);
  intake.close();
  server.closeAllConnections();
  server.close();
});

test('a camera that refuses the sign-in is not asked again and again, and it is said when it will be', async () => {
  let asked = 0;
  const server = createServer((_request, response) => {
    asked++;
    response.writeHead(401, { 'www-authenticate': 'Basic realm="c"' }).end();
  });
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  const url = `http://127.0.0.1:${(server.address() as { port: number }).port}/low`;
  const wrong = async () => ({ name: 'admin', password: 'guess' });
  const intake = takeIn({ id: 'c', source: { kind: 'streamed', low: url } }, wrong, machineClock(), () => {});
  const problem = await until(() => intake.health().problem);
  expect(problem).toMatch(/does not accept this name and password.*Next try in 1 min/);
  // Without the sign-in, which is how it says what it wants, and then with it: two questions, one try.
  expect(asked).toBe(2);
  intake.close();
  server.close();
});
