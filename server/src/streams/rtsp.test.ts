// What a device answers by RTSP before ffmpeg is let at it. Forms of the answers: RFC 2326; the description's: RFC 8866.

import { createServer, type Server, type Socket } from 'node:net';
import { tried } from '../net/login';
import { askDescription } from './rtsp';

const servers: Server[] = [];
afterEach(() => servers.splice(0).forEach((s) => s.close()));

async function device(answer: (request: string, socket: Socket) => string | void): Promise<{ url: string; asked: string[] }> {
  const asked: string[] = [];
  const server = createServer((socket) => {
    socket.on('error', () => {});
    socket.on('data', (d) => {
      asked.push(d.toString());
      const said = answer(d.toString(), socket);
      if (said) socket.write(said);
    });
  });
  servers.push(server);
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  return { url: `rtsp://127.0.0.1:${(server.address() as { port: number }).port}/low`, asked };
}
const described = (sdp: string, more = '') => `RTSP/1.0 200 OK\r\nCSeq: 1\r\n${more}Content-Length: ${sdp.length}\r\n\r\n${sdp}`;
const sdp = 'v=0\r\nm=video 0 RTP/AVP 96\r\na=control:trackID=1\r\n';
const never = new AbortController().signal;

test('a stream on its own machine is described', async () => {
  const { url, asked } = await device(() => described(sdp));
  await askDescription(url, undefined, never);
  expect(asked[0]).toMatch(/^DESCRIBE rtsp:\/\/127\.0\.0\.1:\d+\/low RTSP\/1\.0\r\n/);
});

test.each<[string, string, RegExp]>([
  ['sends to another machine', 'RTSP/1.0 302 Moved\r\nLocation: rtsp://198.51.100.9/low\r\n\r\n', /sends to 198\.51\.100\.9/],
  ['sends to another port', 'RTSP/1.0 301 Moved\r\nLocation: rtsp://127.0.0.1:9/low\r\n\r\n', /sends to 127\.0\.0\.1:9|another address/],
  ['has its base elsewhere', described(sdp, 'Content-Base: rtsp://198.51.100.9/\r\n'), /is at 198\.51\.100\.9/],
  ['has a part elsewhere', described('v=0\r\na=control:rtsp://198.51.100.9/1\r\n'), /is at 198\.51\.100\.9/],
  ['has no such stream', 'RTSP/1.0 404 Not Found\r\n\r\n', /answered 404 Not Found/],
  ['wants a sign-in', 'RTSP/1.0 401 Unauthorized\r\nWWW-Authenticate: Basic realm="x"\r\n\r\n', /does not accept/],
  ['speaks something else', 'HTTP/1.1 400 Bad Request\r\n\r\n', /does not speak RTSP/],
  ['never ends', 'x'.repeat(70_000), /too long/],
])('a device that %s is not followed', async (_name, answer, words) => {
  const { url } = await device(() => answer);
  await expect(askDescription(url, undefined, never)).rejects.toThrow(words);
});

test('Digest is answered, and after it Basic is not', async () => {
  const { url, asked } = await device((request) =>
    /Authorization: Digest/.test(request)
      ? described(sdp)
      : 'RTSP/1.0 401 Unauthorized\r\nWWW-Authenticate: Basic realm="x"\r\nWWW-Authenticate: Digest realm="x", nonce="n"\r\n\r\n',
  );
  const login = tried('admin', 'reed-mace-7');
  await askDescription(url, login, never);
  expect(asked.join()).not.toMatch(/Basic/);
  const open = await device(() => 'RTSP/1.0 401 Unauthorized\r\nWWW-Authenticate: Basic realm="x"\r\n\r\n');
  await expect(askDescription(open.url, login, never)).rejects.toThrow(/unprotected password.*not sent/);
  expect(open.asked.join()).not.toContain('Authorization');
});
