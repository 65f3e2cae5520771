// A recording whose sender goes away in the middle: nothing of it stays, and it is no fault of the server's.

import { connect } from 'node:net';
import { mkdtempSync, readdirSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { log } from '../../base/log';
import { testStations, until } from '../../testing/stations';

test.each([
  ['its length was said', 'Content-Length: 1000000', (piece: Buffer) => [piece]],
  ['it comes piece by piece', 'Transfer-Encoding: chunked', (piece: Buffer) => [`${piece.length.toString(16)}\r\n`, piece, '\r\n']],
])('a recording breaks off; %s', async (_name, header, framed) => {
  const folder = mkdtempSync(path.join(tmpdir(), 'nibber-broken-off-'));
  const stations = await testStations({ folder });
  const said = jest.spyOn(log, 'error');
  const parts = () => readdirSync(path.join(folder, 'recordings')).filter((name) => name.endsWith('.part'));
  const { hostname, port, origin } = new URL(stations.url);
  const socket = connect(Number(port), hostname);
  socket.on('error', () => {});
  socket.write(
    `POST /api/recordings HTTP/1.1\r\nHost: ${hostname}:${port}\r\nOrigin: ${origin}\r\nCookie: ${stations.cookie}\r\nIf-Match: "${stations.site.version}"\r\nContent-Type: video/mp4\r\n${header}\r\n\r\n`,
  );
  for (const bytes of framed(Buffer.alloc(100_000, 7))) socket.write(bytes);
  const size = (name: string) => statSync(path.join(folder, 'recordings', name)).size;
  await until(async () => parts().some((name) => size(name) > 0) || undefined);
  socket.destroy();
  await until(async () => parts().length === 0 || undefined);
  expect((await stations.ask('GET', '/api/site')).status).toBe(200);
  expect(readdirSync(path.join(folder, 'recordings'))).toEqual([]);
  expect(said).not.toHaveBeenCalled();
  said.mockRestore();
  await stations.end();
});
