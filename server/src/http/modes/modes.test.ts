import { testStations, type TestStations } from '../../testing/stations';
import { yardText } from '@nibber/core/testing';

const site = yardText
  .replace('areas:\n', 'areas:\n  - { id: attic, name: Attic }\n')
  .replace(
    'rules:',
    'modeSchedules:\n  - { id: evening, areas: [yard], weekly: { mon: ["18:00 shut"], tue: ["08:00 open"] } }\npeople:\n  - { id: wren, name: Wren, role: owner }\nrules:',
  );
let stations: TestStations;
beforeAll(async () => {
  stations = await testStations({ site });
});
afterAll(() => stations.end());

test('several areas are set as one step, or none of them', async () => {
  const set = (areas: string[], mode: string) => stations.ask('PUT', '/api/areas/mode', { areas, mode });
  expect((await set(['yard', 'attic'], 'shut')).body).toMatchObject([
    { area: 'attic', mode: 'shut' },
    { area: 'yard', mode: 'shut' },
  ]);
  expect((await stations.ask('GET', '/api/logbook')).body[0].what).toBe('set Yard and Attic to Shut');
  expect((await set(['yard', 'cellar'], 'open')).status).toBe(404);
  expect((await set(['yard'], 'party')).status).toBe(400);
  expect(stations.site.modes.map((m) => m.mode)).toEqual(['shut', 'shut']);
});

test('what a mode will do is said before it is set, with what is in the way', async () => {
  expect((await stations.ask('GET', '/api/modes/shut/arming')).body).toEqual({
    rules: [{ id: 'comes-in', name: 'Someone comes in' }],
    inTheWay: [],
  });
  expect((await stations.ask('GET', '/api/modes/shut/arming?areas=attic')).body.inTheWay).toEqual([
    'No rule is active in this mode. No alerts will be sent.',
  ]);
  expect((await stations.ask('GET', '/api/modes/party/arming')).status).toBe(404);
});

test('the next planned switch is said by area: until then a command holds', async () => {
  const { planned, now } = (await stations.ask('GET', '/api/modes')).body;
  expect(planned).toHaveLength(1);
  expect(planned[0]).toMatchObject({ area: 'yard' });
  expect(planned[0].at).toBeGreaterThan(now);
});

test('modes are named, ordered and armed; one that something hangs on stays; an empty one that arms is warned of', async () => {
  const put = (modes: object[]) => stations.ask('PUT', '/api/modes', { modes });
  const [open, shut, night] = [
    { id: 'open', name: 'Open', armed: false },
    { id: 'shut', name: 'Locked', armed: true },
    { id: 'night', name: 'Night', armed: true },
  ];
  expect((await put([shut!, open!, night!])).status).toBe(200);
  const after = (await stations.ask('GET', '/api/modes')).body;
  expect(after.modes.map((m: { name: string }) => m.name)).toEqual(['Locked', 'Open', 'Night']);
  expect(after.warnings.filter((w: { kind: string }) => w.kind === 'armed-but-empty')).toMatchObject([{ about: 'night' }]);
  const refused = await put([open!]);
  expect(refused.status).toBe(422);
  expect(refused.body.error.message).toMatch(/shut is not a mode/);
  expect((await put([])).status).toBe(400);
  expect(stations.site.file.modes).toHaveLength(3);
});
