import { yardText } from '@nibber/core/testing';
import { testStations, type TestStations } from '../../testing/stations';

let stations: TestStations;
beforeAll(async () => {
  stations = await testStations();
});
afterAll(() => stations.end());

const check = async (text: string) => (await stations.ask('POST', '/api/site/check', { text })).body;

test('what a file would change is said before it is applied, and nothing is changed by asking', async () => {
  const before = stations.site.version;
  const text = stations.site.text.replace('name: Gate\n', 'name: Gateway\n').replace('cooldownSeconds: 300', 'cooldownSeconds: 60');
  expect(await check(text)).toEqual({
    problems: [],
    changes: ['Camera Gate: name Gate → Gateway', 'Rule Someone comes in: cooldown seconds 300 → 60'],
  });
  expect(await check(`# a comment alone\n${stations.site.text}`)).toEqual({ problems: [], changes: [] });
  expect(stations.site.version).toBe(before);
});

test.each([
  ['no YAML', 'site: [1, 2', 1],
  ['a zone that nobody knows', yardText.replace('Europe/Lisbon', 'Nowhere'), 2],
  [
    'a rule whose zone is not there',
    yardText.replace('to: yard }', 'to: yad }'),
    yardText.split('\n').findIndex((l) => l.includes('to: yard }')) + 1,
  ],
])('%s is said at its line', async (_what, text, line) => {
  const { problems, changes } = await check(text);
  expect(changes).toEqual([]);
  expect(problems[0].line).toBe(line);
  expect(problems[0].words).toMatch(/allowed: /);
});

test('every version is listed with who made it, read, and gone back to as a version of its own', async () => {
  const first = stations.site.text;
  await stations.ask('PUT', '/api/site/file', { text: first.replace('name: Gate\n', 'name: Gateway\n') });
  const versions = (await stations.ask('GET', '/api/site/versions')).body;
  expect(versions[0]).toMatchObject({ version: stations.site.version, by: 'Wren', what: 'replaced the site file' });
  const earlier = versions.find((v: { version: number }) => v.version < stations.site.version);
  expect((await stations.ask('GET', `/api/site/versions/${earlier.version}`)).body).toEqual({ text: first, version: earlier.version });
  expect((await check(first)).changes).toEqual(['Camera Gateway: name Gateway → Gate']);
  await stations.ask('PUT', '/api/site/file', { text: first });
  expect(stations.site.text).toBe(first);
  expect((await stations.ask('GET', `/api/site/versions?before=${earlier.version}`)).body).toHaveLength(0);
  expect((await stations.ask('GET', '/api/site/versions/999')).status).toBe(404);
});

test('of two who edit the file the second is told what the first changed', async () => {
  const from = { cookie: stations.cookie, 'if-match': `"${stations.site.version}"` };
  const text = stations.site.text;
  await stations.ask('PUT', '/api/site/file', { text: text.replace('name: Side\n', 'name: Beside\n') }, from);
  const second = await stations.ask('PUT', '/api/site/file', { text: text.replace('name: Gate\n', 'name: Gateway\n') }, from);
  expect(second.status).toBe(409);
  expect(second.body.error.message).toMatch(/Wren changed this meanwhile: Camera Side: name Side → Beside/);
});
