// A disk that is full, and a database that another program holds: what is said, who still gets in, what is waited for.

import { spawnSync } from 'node:child_process';
import { closeSync, mkdtempSync, openSync, rmSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Sequelize } from 'sequelize';
import { openReserve } from '../db/reserve';
import { diskProblem } from '../db/disk-problem';
import { pairedYard, password, testStations } from '../testing/stations';

/** A small disk of its own, where the one who runs the tests may have one. */
function smallDisk(megabytes: number): { folder: string; end: () => void } | undefined {
  const folder = mkdtempSync(path.join(tmpdir(), 'nibber-small-'));
  const end = () => {
    spawnSync('umount', [folder]);
    rmSync(folder, { recursive: true, force: true });
  };
  if (spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${megabytes}m`, 'tmpfs', folder]).status === 0) return { folder, end };
  end();
  return undefined;
}
function fillUp(folder: string) {
  const file = openSync(path.join(folder, 'filler'), 'w');
  try {
    for (const length of [1_000_000, 4096]) {
      try {
        for (;;) writeSync(file, Buffer.alloc(length));
      } catch {
        // Full, but for less than so much.
      }
    }
  } finally {
    closeSync(file);
  }
}

const disk = smallDisk(40);
if (disk)
  test('on a full disk someone can still sign in, look, and delete; what cannot be saved is said', async () => {
    const stations = await testStations({ folder: disk.folder, site: pairedYard(['porch']) });
    await stations.ask('PUT', '/api/areas/yard/mode', { mode: 'open' });
    fillUp(disk.folder);
    // Until the journal has no room left in itself either.
    let refused: Awaited<ReturnType<typeof stations.ask>> | undefined;
    for (let i = 0; i < 400 && refused?.status !== 503; i++)
      refused = await stations.ask('PUT', '/api/areas/yard/mode', { mode: i % 2 ? 'open' : 'shut' });
    expect([refused!.status, refused!.body.error]).toEqual([
      503,
      expect.objectContaining({ code: 'unavailable', message: expect.stringMatching(/disk is full/) }),
    ]);
    expect(refused!.headers.get('retry-after')).toMatch(/^\d+$/);
    // Someone new, and someone who is signed in.
    const signedIn = await stations.ask('POST', '/api/session', { name: 'Wren', password }, {});
    expect([signedIn.status, signedIn.body.visitor?.name]).toEqual([200, 'Wren']);
    expect((await stations.ask('GET', '/api/site')).status).toBe(200);
    expect((await stations.ask('DELETE', '/api/cameras/gate/stored-data')).status).toBe(200);
    await stations.end();
    disk.end();
  });

test('a database that can grow no more says that the disk is full', async () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'nibber-full-'));
  const sequelize = new Sequelize({ dialect: 'sqlite', storage: path.join(folder, 'x.sqlite'), logging: false });
  await sequelize.query('CREATE TABLE t (x)');
  await sequelize.query('PRAGMA max_page_count = 3');
  const thrown: unknown = await sequelize.query(`INSERT INTO t VALUES (hex(zeroblob(100000)))`).catch((e: unknown) => e);
  expect(diskProblem(thrown)).toMatchObject({ code: 'unavailable', message: expect.stringMatching(/full/) });
  expect(diskProblem(new Error('something else'))).toBeUndefined();
  await sequelize.close();
  rmSync(folder, { recursive: true });
});

test('room that is kept back is given free once, and kept back again', () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'nibber-reserve-'));
  const reserve = openReserve(folder);
  expect([reserve.release(), reserve.release()]).toEqual([true, false]);
  reserve.fill();
  expect(reserve.release()).toBe(true);
  rmSync(folder, { recursive: true });
});

test('a database that another program holds is waited for; where that takes too long, the delivery is asked for again', async () => {
  const stations = await testStations({ site: pairedYard(['porch']) });
  const { body } = await stations.ask('GET', '/api/cameras/porch/pairing');
  const other = new Sequelize({ dialect: 'sqlite', storage: path.join(stations.config.dataFolder, 'nibber.sqlite'), logging: false });
  const event = (id: string) => JSON.stringify({ id, at: new Date(stations.clock.now()).toISOString(), kind: 'seen', objects: [] });
  const send = (id: string) =>
    fetch(stations.url + new URL(body.url as string).pathname, {
      method: 'POST',
      body: event(id),
      headers: { 'content-type': 'application/json' },
    });
  const held = async (ms: number, sent: Promise<Response>) => {
    const answered = sent.then((r) => [r.status, r.headers.get('retry-after')] as const);
    await Promise.race([new Promise((r) => setTimeout(r, ms)), answered]);
    await other.query('ROLLBACK');
    return answered;
  };
  await other.query('BEGIN IMMEDIATE');
  expect((await held(1200, send('one')))[0]).toBe(202);
  await other.query('BEGIN IMMEDIATE');
  expect(await held(30_000, send('two'))).toEqual([503, expect.stringMatching(/^\d+$/)]);
  expect((await send('two')).status).toBe(202);
  await other.close();
  await stations.end();
});
