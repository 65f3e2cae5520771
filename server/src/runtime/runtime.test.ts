// Two places in one program, and one detector for both.

import { createServer, type Server } from 'node:http';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { openSite, type RunningSite } from '.';
import { openRecord } from '../db';
import { openAccess } from '../db/access';
import { peopledYard, until } from '../testing/stations';
import { startDetecting, type Detecting } from '../vision/detecting';
import { machineClock } from '../base/clock';
import { readConfig } from '../base/config';

let camera: Server;
let detector: Detecting;
const places: RunningSite[] = [];
beforeAll(async () => {
  const base = sharp({ create: { width: 320, height: 180, channels: 3, background: '#707c68' } });
  const pictures = await Promise.all(
    [40, 200].map((left) =>
      base
        .clone()
        .composite([{ input: { create: { width: 40, height: 70, channels: 3, background: '#d0d4da' } }, left, top: 60 }])
        .jpeg()
        .toBuffer(),
    ),
  );
  const asked = new Map<string, number>();
  camera = createServer(({ url = '' }, response) => {
    asked.set(url, (asked.get(url) ?? 0) + 1);
    response.setHeader('content-type', 'image/jpeg').end(pictures[asked.get(url)! % 2]);
  });
  await new Promise<void>((ready) => camera.listen(0, '127.0.0.1', ready));
  detector = startDetecting(undefined);
});
afterAll(async () => {
  await Promise.all(places.map((p) => p.close()));
  await detector.close();
  camera.closeAllConnections();
  camera.close();
});

async function open(name: string, own: Detecting = detector) {
  const dataFolder = mkdtempSync(path.join(tmpdir(), 'nibber-place-'));
  const siteFile = path.join(dataFolder, 'site.yaml');
  const low = `http://127.0.0.1:${(camera.address() as { port: number }).port}/${name}`;
  writeFileSync(siteFile, peopledYard.replace('name: Example yard', `name: ${name}`).replace('http://127.0.0.1:9001/low.mjpg', low));
  const config = readConfig({ PORT: '0', NIBBER_DATA: dataFolder, NIBBER_SITE: siteFile, NIBBER_CHECK_ANSWERS: 'yes' });
  const place = await openSite(config, { detector: own });
  places.push(place);
  const record = await openRecord(dataFolder);
  const authorization = `Bearer ${await openAccess(record, machineClock()).makeBearer({ role: 'owner', name: 'test', days: 1 })}`;
  await record.close();
  return async (route: string) => (await fetch(`http://127.0.0.1:${place.port}${route}`, { headers: { authorization } })).json();
}

test('what the detector has to say is said, also where it is shared', async () => {
  const problems = [
    { severity: 'outage', text: 'The detector stopped.' },
    { severity: 'notice', text: 'The detector runs slowly.' },
  ] as const;
  const place = await open('Weir', { ...detector, problems: () => problems });
  expect(await place('/api/health')).toMatchObject({ problems });
  expect(await place('/health')).toMatchObject({ ok: false, problems: 1 });
  expect(await place('/health/live')).toEqual({ ok: true });
  await places.shift()!.close();
});

test('each has its own site and cameras, both are looked at, and one that ends leaves the detector to the other', async () => {
  const [mere, kiln] = [await open('Mere'), await open('Kiln')];
  const siteOf = async (ask: typeof mere) => ((await ask('/api/site')) as { settings: { name: string } }).settings.name;
  expect([await siteOf(mere), await siteOf(kiln)]).toEqual(['Mere', 'Kiln']);
  const looked = async (ask: typeof mere) =>
    ((await ask('/api/cameras/gate')) as { health: { framesAnalysed: number } }).health.framesAnalysed;
  await until(async () => (await looked(mere)) > 0 || undefined);
  await until(async () => (await looked(kiln)) > 0 || undefined);
  await places.shift()!.close();
  const before = await looked(kiln);
  await until(async () => (await looked(kiln)) > before || undefined);
  expect(detector.problems()).toEqual([]);
});
