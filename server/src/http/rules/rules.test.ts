import { testStations, type TestStations } from '../../testing/stations';

let stations: TestStations;
beforeAll(async () => {
  stations = await testStations();
});
afterAll(() => stations.end());

const stays = {
  id: 'stays',
  name: 'Somebody stays',
  cameras: ['gate'],
  classes: ['person'],
  behaviour: { kind: 'stays', zone: 'yard', seconds: 20 },
  notify: [{ to: 'owner', channel: 'push' }],
};
const put = (rule: object & { id: string }, headers?: Record<string, string>) =>
  stations.ask('PUT', `/api/rules/${rule.id}`, rule, headers);
const ids = async () => (await stations.ask('GET', '/api/rules')).body.map((r: { id: string }) => r.id);
const logged = async () => (await stations.ask('GET', '/api/logbook')).body.map((e: { what: string }) => e.what);

test('a rule is made, switched off, removed, and the removal taken back', async () => {
  expect((await put(stays)).status).toBe(200);
  expect(await ids()).toEqual(['comes-in', 'stays']);
  await put({ ...stays, on: false } as never);
  const removed = await stations.ask('DELETE', '/api/rules/stays');
  expect(removed.body).toEqual({ id: 'stays', version: stations.site.version });
  expect(await ids()).toEqual(['comes-in']);
  expect((await stations.ask('DELETE', '/api/rules/stays')).status).toBe(404);
  await stations.ask('POST', `/api/site/versions/${removed.body.version}/revert`);
  expect(await ids()).toEqual(['comes-in', 'stays']);
  expect((await logged()).slice(0, 4)).toEqual([
    'reverted: removed the rule Somebody stays',
    'removed the rule Somebody stays',
    'switched the rule Somebody stays off',
    'added the rule Somebody stays',
  ]);
});

test.each([
  ['another zone', { behaviour: { kind: 'stays', zone: 'pond' } }, /pond/],
  ['nobody to be found', { notify: [{ to: 'nobody-here', channel: 'push' }] }, /nobody-here/],
  ['an unknown placeholder', { message: { text: '{who} is here' } }, /\{who\} is not a placeholder/],
  ['a text that is too long', { message: { text: 'x'.repeat(201) } }, /200/],
  ['another id', { id: 'other' }, /id of a rule cannot change/],
])('one with %s is refused, and nothing is changed', async (_what, change, why) => {
  const before = stations.site.version;
  const answer = await stations.ask('PUT', '/api/rules/more', { ...stays, id: 'more', ...change });
  expect([400, 422]).toContain(answer.status);
  expect(answer.body.error.message).toMatch(why);
  expect(stations.site.version).toBe(before);
});

test('of two who edit one rule the second is told what the first changed', async () => {
  const from = { cookie: stations.cookie, 'if-match': `"${stations.site.version}"` };
  expect((await put({ ...stays, cooldownSeconds: 60 } as never, from)).status).toBe(200);
  const second = await put({ ...stays, name: 'Somebody waits' } as never, from);
  expect(second.status).toBe(409);
  expect(second.body.error.message).toMatch(/Wren changed this meanwhile: .*cooldown seconds/);
});
