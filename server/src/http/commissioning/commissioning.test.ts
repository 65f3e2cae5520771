import { createServer } from 'node:http';
import { greyJpeg, peopledYard, sighting, testStations, until } from '../../testing/stations';

type Step = { step: string; state: string; words: string };

test('what is open on a camera goes as it is done, and comes back when something it rests on changes', async () => {
  const stations = await testStations();
  const steps = async () => {
    const { steps: all } = (await stations.ask('GET', '/api/cameras/gate/commissioning')).body as { steps: Step[] };
    return Object.fromEntries(all.map((s) => [s.step, s.state]));
  };
  expect(await steps()).toEqual({
    picture: 'open',
    clock: 'none',
    chain: 'done',
    aim: 'open',
    zones: 'done',
    sensitivity: 'open',
    rule: 'done',
    'walk test': 'open',
  });
  await stations.ask('PUT', '/api/cameras/gate/settings', {
    aim: { heightMetres: 3, tiltDegrees: 20, lens: { horizontalDegrees: 90 }, pictureWidth: 1920, pictureHeight: 1080 },
    tuning: { threshold: 30 },
  });
  let at = stations.clock.now();
  const walk = async (expect_: 'fires' | 'quiet', ...feet: number[]) => {
    await stations.walkTests.start([{ kind: 'rule', rule: 'comes-in', expect: expect_ }], 'Wren');
    const jpeg = await greyJpeg();
    feet.forEach((f, i) => stations.walkTests.watched(sighting(jpeg, at + i * 200, f)));
    at += 60_000;
    await stations.walkTests.end();
  };
  await walk('fires', 0.5, 0.5, 0.53, 0.62, 0.66);
  expect((await steps())['walk test']).toBe('open');
  await walk('quiet', 0.5, 0.5, 0.5);
  expect(await steps()).toMatchObject({ aim: 'done', sensitivity: 'done', 'walk test': 'done' });
  await stations.ask('PUT', '/api/cameras/gate/settings', { tuning: { threshold: 20 } });
  expect((await steps())['walk test']).toBe('open');
  const all = (await stations.ask('GET', '/api/commissioning')).body.cameras as { camera: string; isFinished: boolean }[];
  expect(all.map((c) => [c.camera, c.isFinished])).toEqual([
    ['gate', false],
    ['side', false],
  ]);
  await stations.end();
});

test('the clock of a camera is read from its answers, and said where it is wrong', async () => {
  let aheadMs = 90_000;
  const camera = createServer(async (_request, response) => {
    response.setHeader('date', new Date(Date.now() + aheadMs).toUTCString());
    response.setHeader('content-type', 'image/jpeg');
    response.end(await greyJpeg());
  });
  await new Promise<void>((ready) => camera.listen(0, '127.0.0.1', ready));
  const { port } = camera.address() as { port: number };
  const stations = await testStations({
    site: peopledYard.replace('http://127.0.0.1:9001/low.mjpg', `http://127.0.0.1:${port}/still.jpg`),
  });
  const look = async () => {
    await stations.devices.clocks.look(stations.site.file.cameras);
    const { steps } = (await stations.ask('GET', '/api/cameras/gate/commissioning')).body as { steps: Step[] };
    return steps.find((s) => s.step === 'clock')!;
  };
  expect(await look()).toMatchObject({ state: 'wrong', words: expect.stringMatching(/(89|90|91) s fast/) });
  aheadMs = 0;
  expect(await look()).toMatchObject({ state: 'done' });
  // One that does not answer any more keeps what was known.
  camera.close();
  camera.closeAllConnections();
  expect(await look()).toMatchObject({ state: 'done' });
  await stations.end();
});

test('the clock of a camera that sends by itself is told by its events', async () => {
  const stations = await testStations();
  const { camera } = (await stations.ask('POST', '/api/paired-cameras', { name: 'Porch', area: 'yard' })).body;
  const { url } = (await stations.ask('GET', `/api/cameras/${camera}/pairing`)).body;
  await fetch(stations.url + new URL(url).pathname, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({
      id: '1',
      at: new Date(Date.now() + 600_000).toISOString(),
      kind: 'seen',
      objects: [{ class: 'person', score: 0.8 }],
    }),
  });
  const clock = await until(() => stations.devices.clocks.of(camera));
  expect('aheadMs' in clock && Math.round(clock.aheadMs / 60_000)).toBe(10);
  await stations.end();
});
