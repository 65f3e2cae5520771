// Who may change an owner, by whichever way: a form, the site file, a version that is put back. The last owner stays.

import { authorOf } from '../../db/access';
import { password, peopledYard, testStations, type TestStations } from '../../testing/stations';

let stations: TestStations;
let installer: string;
const word = 'four words that rhyme';
beforeEach(async () => {
  stations = await testStations({
    site: peopledYard.replace(
      '- { id: sam, name: Sam, role: member }',
      '- { id: sam, name: Sam, role: member }\n  - { id: ives, name: Ives, role: installer }',
    ),
  });
  await stations.access.addAccount({ name: 'Ives', person: 'ives', role: 'installer', password: word });
  installer = `nibber-session=${await stations.access.signIn('Ives', word, null)}`;
});
afterEach(() => stations.end());

const asInstaller = (method: string, route: string, body?: unknown) =>
  stations.ask(method, route, body, { cookie: installer, ...(method === 'GET' ? {} : { 'if-match': `"${stations.site.version}"` }) });
const personOf = (id: string) => stations.site.file.people!.find((p) => p.id === id);
const fileWith = (from: string, to: string) => stations.site.text.replace(from, to);

test.each([
  ['makes herself owner', 'name: Ives, role: installer', 'name: Ives, role: owner'],
  ['takes the owner’s role', 'id: wren, name: Wren, role: owner', 'id: wren, name: Wren, role: member'],
  ['ends the owner’s time', 'id: wren, name: Wren, role: owner', 'id: wren, name: Wren, role: owner, until: "2020-01-01"'],
  ['sends the owner’s mail elsewhere', 'id: wren, name: Wren, role: owner', 'id: wren, name: Wren, role: owner, mail: x@y.example'],
  ['calls herself by the owner’s entry', 'id: wren, name: Wren, role: owner', 'id: wren, name: Mallory, role: owner'],
  ['takes the owner out', '  - { id: wren, name: Wren, role: owner }\n', ''],
  ['makes a new owner', '  - { id: sam', '  - { id: ada, name: Ada, role: owner }\n  - { id: sam'],
])('by the site file, no installer %s', async (_what, from, to) => {
  const before = stations.site.text;
  const { status, body } = await asInstaller('PUT', '/api/site/file', { text: fileWith(from, to) });
  expect([status, body.error.code]).toEqual([403, 'not-allowed']);
  expect(stations.site.text).toBe(before);
});

test('by putting a version back, none becomes owner either', async () => {
  const owner = { by: { name: 'Wren', role: 'owner' }, what: 'x' } as const;
  await stations.site.edit([[['people', 'ives', 'role'], 'owner']], owner);
  await stations.site.edit([[['people', 'ives', 'role'], 'installer']], owner);
  const { status } = await asInstaller('POST', `/api/site/versions/${stations.site.version}/revert`);
  expect([status, personOf('ives')!.role]).toEqual([403, 'installer']);
});

test('what is no owner’s is the installer’s to change, the owner’s alerts too', async () => {
  expect((await asInstaller('PUT', '/api/people/sam', { role: 'member', access: null, until: '2030-01-01' })).status).toBe(200);
  expect((await asInstaller('PUT', '/api/people/wren/quiet-hours', { schedule: 'closed' })).status).toBe(200);
});

test.each([
  ['role', { role: 'member', access: null, until: null }],
  ['time', { role: 'owner', access: null, until: '2099-01-01' }],
])('the only owner keeps the %s, also against themselves', async (_what, body) => {
  expect((await stations.ask('PUT', '/api/people/wren', body)).status).toBe(409);
  expect((await stations.ask('DELETE', '/api/people/wren')).status).toBe(409);
  // One whose time ends is none who stays, and one without an account none who can sign in.
  await stations.ask('PUT', '/api/people/sam', { role: 'owner', access: null, until: null });
  expect((await stations.ask('DELETE', '/api/people/wren')).status).toBe(409);
  expect((await stations.ask('GET', '/api/session')).body.visitor.role).toBe('owner');
});

test('an account goes with its person: whoever gets the same id later does not come in by the old password', async () => {
  await stations.access.addAccount({ name: 'Sam', person: 'sam', role: 'member', password: word });
  const session = { cookie: `nibber-session=${await stations.access.signIn('Sam', word, null)}` };
  await asInstaller('PUT', '/api/site/file', { text: fileWith('  - { id: sam, name: Sam, role: member }\n', '') });
  await asInstaller('PUT', '/api/site/file', {
    text: fileWith('  - { id: ives', '  - { id: sam, name: Sam, role: member }\n  - { id: ives'),
  });
  expect(personOf('sam')).toBeDefined();
  expect(await stations.access.signIn('Sam', word, null)).toBeUndefined();
  expect((await stations.ask('GET', '/api/site', undefined, session)).status).toBe(401);
});

test('an invitation ends when the one who made it may no longer invite', async () => {
  const { body } = await asInstaller('POST', '/api/invitations', { name: 'Gil', role: 'installer', days: 3 });
  const token = (body.link as string).split('#')[1]!;
  const come = () => stations.ask('POST', '/api/invited', { token }, {});
  expect((await come()).status).toBe(200);
  await stations.ask('PUT', '/api/people/ives', { role: 'member', access: null, until: null });
  expect((await come()).status).toBe(404);
  expect((await stations.ask('POST', '/api/invited/account', { token, name: 'Gil', password: word }, {})).status).toBe(404);
  expect((await stations.ask('GET', '/api/invitations')).body).toEqual([]);
});

test('an invitation of a token ends with it', async () => {
  const made = await stations.ask('POST', '/api/tokens', { name: 'set up', role: 'installer', days: 3 });
  const bearer = { authorization: `Bearer ${made.body.token}` };
  const { body } = await stations.ask('POST', '/api/invitations', { name: 'Gil', role: 'member', days: 3 }, bearer);
  const token = (body.link as string).split('#')[1]!;
  expect((await stations.ask('POST', '/api/invited', { token }, {})).status).toBe(200);
  const visitor = (await stations.access.visitor(made.body.token))!;
  expect(await stations.access.roleNow(authorOf(visitor))).toBe('installer');
  await stations.access.end(visitor.session);
  expect((await stations.ask('POST', '/api/invited', { token }, {})).status).toBe(404);
});

test('names that look alike are one name, and signs that are not seen are in none', async () => {
  const rename = (name: string) => asInstaller('PUT', '/api/site/file', { text: fileWith('name: Sam', `name: "${name}"`) });
  // Cyrillic е; a zero-width space; full-width letters (UTS #39, UAX #15).
  for (const name of ['Wrеn', 'Wr\u200Ben', 'Ｗｒｅｎ', 'WREN']) expect([400, 409]).toContain((await rename(name)).status);
  expect((await rename('Сэм')).status).toBe(200);
});

test.each([
  ['short', 'elevenchars'],
  ['known from leaks', 'passwordpassword'],
  ['known from leaks, made longer by figures', 'iloveyou12345'],
])('a password that is %s is not taken', async (_what, next) => {
  expect((await stations.ask('PUT', '/api/password', { present: password, next })).status).toBe(400);
  expect(await stations.access.signIn('Wren', password, null)).toBeDefined();
});
