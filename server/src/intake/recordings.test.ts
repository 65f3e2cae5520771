import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { testStations, until, type TestStations } from '../testing/stations';
import { takeIn } from './camera';
import { openRecordings } from './recordings';

const folder = mkdtempSync(path.join(tmpdir(), 'nibber-recordings-'));
let stations: TestStations;
beforeAll(async () => {
  stations = await testStations();
});
afterAll(async () => {
  await stations.end();
  rmSync(folder, { recursive: true, force: true });
});

/** One second of a moving test picture, as MP4 whose index stands at its end. */
function film(): Buffer {
  const file = path.join(folder, 'film.mp4');
  const made = spawnSync('ffmpeg', [
    '-y',
    '-loglevel',
    'error',
    '-f',
    'lavfi',
    '-i',
    'testsrc=size=320x180:rate=5:duration=1',
    '-c:v',
    'mpeg4',
    file,
  ]);
  if (made.status !== 0) throw new Error(made.stderr.toString());
  return readFileSync(file);
}
const send = async (bytes: Buffer | string) => {
  const body = typeof bytes === 'string' ? bytes : new Uint8Array(bytes);
  const answer = await fetch(`${stations.url}/api/recordings`, {
    method: 'POST',
    headers: { cookie: stations.cookie, origin: stations.url, 'content-type': 'video/mp4' },
    body,
  });
  return (await answer.json()) as { address: string };
};
const tried = async (address: string) => {
  const { id } = (await stations.ask('POST', '/api/connection-attempts', { kind: 'stream', address })).body;
  return until(async () => {
    const { body } = await stations.ask('GET', `/api/connection-attempts/${id}`);
    return body.state === 'trying' ? undefined : body;
  });
};

test('a recording is sent, its picture is seen, and it runs round and round as a camera', async () => {
  const { address } = await send(film());
  expect(address).toMatch(/^recording:[0-9a-f]{40}$/);
  const attempt = await tried(address);
  expect(attempt).toMatchObject({ state: 'done', channels: [{ width: 320, height: 180, hasPicture: true }] });
  const { cameras } = (
    await stations.ask('POST', `/api/connection-attempts/${attempt.id}/cameras`, { cameras: [{ channel: 0, name: 'Film', area: 'yard' }] })
  ).body;
  const { source } = stations.site.file.cameras.find((c) => c.id === cameras[0])!;
  expect(source).toEqual({ kind: 'streamed', low: address });
  let pictures = 0;
  const intake = takeIn(
    { id: 'film', source: source as never },
    async () => undefined,
    stations.clock,
    () => pictures++,
    stations.recordings.resolve,
  );
  // Longer than it lasts.
  await until(() => (pictures > 8 ? true : undefined), 30_000);
  expect(intake.health().state).toBe('running');
  intake.close();
});

test('what is no recording is refused, and one that lists other files opens none of them', async () => {
  writeFileSync(path.join(folder, 'secret.mp4'), film());
  for (const bytes of [
    'no film at all',
    `ffconcat version 1.0\nfile '${folder}/secret.mp4'\n`,
    `#EXTM3U\n#EXTINF:1,\n${folder}/secret.mp4\n#EXT-X-ENDLIST\n`,
  ]) {
    const attempt = await tried((await send(bytes)).address);
    expect(attempt).toMatchObject({ state: 'failed', channels: [{ hasPicture: false }] });
    expect(attempt.steps.find((s: { state: string }) => s.state === 'failed')).toMatchObject({ step: 'decode' });
  }
});

test('only recordings that were sent here can be named, and only by who sets the place up', async () => {
  const ask = async (address: string) => (await stations.ask('POST', '/api/connection-attempts', { kind: 'stream', address })).status;
  expect(await ask(`recording:${'0'.repeat(40)}`)).toBe(404);
  expect(await ask('recording:../../nibber.sqlite')).toBe(404);
  expect(await ask('file:///etc/hostname')).toBe(400);
  expect((await fetch(`${stations.url}/api/recordings`, { method: 'POST', body: 'x' })).status).toBe(401);
});

test('what no camera names any more is let go of after a week', async () => {
  const { address } = await send('of no use');
  const week = 7 * 86_400_000 + 60_000;
  await stations.recordings.tidy(new Set([address]), Date.now() + week);
  expect(stations.recordings.resolve(address)).toContain('recordings');
  await stations.recordings.tidy(new Set(), Date.now());
  expect(stations.recordings.resolve(address)).toContain('recordings');
  await stations.recordings.tidy(new Set(), Date.now() + week);
  expect(() => stations.recordings.resolve(address)).toThrow('not found');
});

test('recordings have a quota together: what would go over it is refused, and what is there stays', async () => {
  const recordings = openRecordings(mkdtempSync(path.join(tmpdir(), 'nibber-quota-')), 1000);
  async function* bytes(n: number, of: number) {
    yield Buffer.alloc(n, of);
  }
  const first = await recordings.keep(bytes(700, 1));
  await expect(recordings.keep(bytes(400, 2))).rejects.toThrow('would exceed');
  expect(recordings.resolve(first)).toMatch(/^recording:\//);
  await expect(recordings.keep(bytes(200, 3))).resolves.toMatch(/^recording:/);
});
