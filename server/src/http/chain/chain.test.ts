import { peopledYard, testStations, type TestStations } from '../../testing/stations';

const withPorch = peopledYard.replace(
  'rules:',
  `  - id: porch
    name: Porch
    area: yard
    source: { kind: paired }
    builtInDetection: { classes: [pet], maxScore: 0.7 }
rules:
  - { id: caller, name: A caller, cameras: [porch], classes: [person], confidence: 0.9, behaviour: { kind: appears }, notify: [{ to: owner, channel: push }] }`,
);

let stations: TestStations;
beforeAll(async () => {
  stations = await testStations({ site: withPorch });
});
afterAll(() => stations.end());
const chain = async () => (await stations.ask('GET', '/api/cameras/porch/chain')).body;
const kinds = async () => ((await chain()).findings as { kind: string; canFix: boolean }[]).map((f) => [f.kind, f.canFix]);

test('findings of a camera’s chain come with their remedy; what can be mended is, once, and noted', async () => {
  expect(await kinds()).toEqual([
    ['class-not-reported', false],
    ['confidence-never-reached', true],
  ]);
  const fix = (kind: string) => stations.ask('POST', '/api/cameras/porch/chain/fix', { kind, rule: 'caller' });
  expect((await fix('confidence-never-reached')).status).toBe(200);
  expect(stations.site.file.rules!.find((r) => r.id === 'caller')!.confidence).toBe(0.7);
  expect(await kinds()).toEqual([['class-not-reported', false]]);
  expect((await fix('confidence-never-reached')).status).toBe(404);
  expect((await fix('class-not-reported')).body.error.hint).toMatch(/Turn on person in the camera/);
  const log = (await stations.ask('GET', '/api/logbook')).body as { what: string }[];
  expect(log.some((l) => /fixed the settings of Porch/.test(l.what))).toBe(true);
});

test('what its events told is said beside what was ticked, and ticking mends the rest', async () => {
  const { url } = (await stations.ask('GET', '/api/cameras/porch/pairing')).body;
  for (const score of [0.6, 0.8])
    await fetch(stations.url + new URL(url).pathname, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({
        id: `${score}`,
        at: new Date().toISOString(),
        kind: 'seen',
        objects: [
          { class: 'person', score },
          { class: 'dog', score },
        ],
      }),
    });
  expect((await chain()).seen).toEqual({ events: 2, classes: ['dog', 'person'], minScore: 0.6, maxScore: 0.8 });
  await stations.ask('PUT', '/api/cameras/porch/settings', { builtInDetection: { classes: ['pet', 'person'], maxScore: 0.8 } });
  expect(await kinds()).toEqual([]);
});
