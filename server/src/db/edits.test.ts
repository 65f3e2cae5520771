// Two who change the site at the same time: both hold, or one is told what the other did.

import { testStations, type TestStations } from '../testing/stations';

let stations: TestStations;
beforeEach(async () => {
  stations = await testStations();
});
afterEach(() => stations.end());

const polygon = (x: number) => [
  [x, 0.1],
  [0.9, 0.1],
  [0.9, 0.3],
  [x, 0.3],
];
const as = (version: number) => ({ cookie: stations.cookie, 'if-match': `"${version}"` });
const drawings = async () => {
  const { zones, lines, version } = (await stations.ask('GET', '/api/cameras/gate')).body;
  return { zones, lines, version } as { zones: { id: string }[]; lines: object[]; version: number };
};

test('of twenty pairs of edits at the same time none is lost in silence: a privacy mask stays', async () => {
  let refused = 0;
  for (let i = 0; i < 20; i++) {
    const { zones, lines, version } = await drawings();
    const mask = { id: `mask-${i}`, name: `Mask ${i}`, purpose: 'privacy', polygon: polygon(0.1 + i / 100) };
    const other = { id: `part-${i}`, name: `Part ${i}`, purpose: 'ignore', polygon: polygon(0.2) };
    const [rule] = (await stations.ask('GET', '/api/rules')).body;
    const put = (zone: object) => stations.ask('PUT', '/api/cameras/gate/drawings', { zones: [...zones, zone], lines }, as(version));
    const [one, two, three] = await Promise.all([
      put(mask),
      put(other),
      stations.ask('PUT', '/api/rules/comes-in', { ...rule, cooldownSeconds: 100 + i }, as(version)),
    ]);
    expect([one.status, two.status].sort()).toEqual([200, 409]);
    // A rule is another place: it holds beside either.
    expect([three.status, stations.site.file.rules![0]!.cooldownSeconds]).toEqual([200, 100 + i]);
    const loser = one.status === 409 ? one : two;
    expect(loser.body.error.message).toMatch(/^Wren changed this meanwhile: .*(Mask|Part) \d+ added/);
    const kept = (await drawings()).zones.map((z) => z.id);
    expect(kept).toContain(one.status === 200 ? mask.id : other.id);
    refused++;
  }
  expect(refused).toBe(20);
});

test('edits of different places made from an older version hold side by side, whatever has moved in the lists', async () => {
  const { version } = await drawings();
  await stations.site.edit([[['cameras', 'first'], { id: 'first', name: 'First', area: 'yard', source: { kind: 'paired' } }]], {
    by: { name: 'Sam', role: 'owner' },
    what: 'made one',
  });
  expect((await stations.ask('PUT', '/api/cameras/side/settings', { name: 'Side door' }, as(version))).status).toBe(200);
  expect((await stations.ask('PUT', '/api/cameras/gate/settings', { name: 'Front gate' }, as(version))).status).toBe(200);
  expect(stations.site.file.cameras.map((c) => [c.id, c.name])).toEqual([
    ['gate', 'Front gate'],
    ['side', 'Side door'],
    ['first', 'First'],
  ]);
  const late = await stations.ask('PUT', '/api/cameras/gate/settings', { name: 'Old gate' }, as(version));
  expect([late.status, late.body.error.message]).toEqual([409, 'Wren changed this meanwhile: Camera Gate: name Gate → Front gate.']);
});

test('a page must say what it edited; a script edits what stands there', async () => {
  const { zones, lines } = await drawings();
  const bare = await stations.ask('PUT', '/api/cameras/gate/drawings', { zones, lines }, { cookie: stations.cookie });
  expect([bare.status, bare.body.error.hint]).toEqual([400, expect.stringContaining('If-Match')]);
  const script = { authorization: `Bearer ${await stations.access.makeBearer({ role: 'owner', name: 'a script', days: 1 })}` };
  expect((await stations.ask('PUT', '/api/cameras/gate/drawings', { zones, lines }, script)).status).toBe(200);
});

test('put back puts back what it took and nothing else', async () => {
  await stations.site.edit([[['rules'], []]], { by: { name: 'Wren', role: 'owner' }, what: 'no rules' });
  await stations.site.edit(
    [
      [
        ['people', 'sam', 'cameraGroups'],
        [
          { name: 'Both', cameras: ['gate', 'side'] },
          { name: 'One', cameras: ['side'] },
        ],
      ],
    ],
    { by: { name: 'Wren', role: 'owner' }, what: 'x' },
  );
  const groups = () => stations.site.file.people!.find((p) => p.id === 'sam')!.cameraGroups!.map((g) => g.cameras);
  const { version } = (await stations.ask('DELETE', '/api/cameras/side')).body;
  expect(groups()).toEqual([['gate']]);
  await stations.ask('PUT', '/api/cameras/gate/settings', { name: 'Front gate' });
  const back = await stations.ask('POST', `/api/site/versions/${version}/revert`);
  expect(back.status).toBe(200);
  expect(stations.site.file.cameras.map((c) => c.name)).toEqual(['Front gate', 'Side']);
  expect(groups()).toEqual([['gate', 'side'], ['side']]);
  const again = await stations.ask('POST', `/api/site/versions/${version}/revert`);
  expect([again.status, again.body.error.message]).toEqual([409, expect.stringMatching(/changed again since/)]);
  expect((await stations.ask('POST', '/api/site/versions/999/revert')).status).toBe(404);
  // A name that was changed twice is not taken back past the second change.
  const first = stations.site.version;
  await stations.ask('PUT', '/api/cameras/gate/settings', { name: 'North gate' });
  const named = stations.site.version;
  expect(named).toBe(first + 1);
  await stations.ask('PUT', '/api/cameras/gate/settings', { name: 'South gate' });
  expect((await stations.ask('POST', `/api/site/versions/${named}/revert`)).status).toBe(409);
});
