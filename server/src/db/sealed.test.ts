import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { openRecord, type Record } from './index';
import { openCameraTokens } from './cameras';
import { openSealed } from './sealed';

let folder: string;
let record: Record;
beforeEach(async () => {
  folder = mkdtempSync(path.join(tmpdir(), 'nibber-sealed-'));
  record = await openRecord(folder);
});
afterEach(async () => {
  await record.close();
  rmSync(folder, { recursive: true, force: true });
});
const keyFile = () => path.join(folder, 'secrets.key');

test('a secret comes back with the key, and neither it nor the key stands in the database', async () => {
  const sealed = openSealed(record, keyFile());
  const secret = { name: 'admin', password: 'reed-mace-7' };
  await record.write((t) => sealed.put('sign-in gate', secret, t));
  expect(await openSealed(record, keyFile()).get('sign-in gate')).toEqual(secret);
  expect(await sealed.get('sign-in attic')).toBeUndefined();
  await record.sequelize.query('PRAGMA wal_checkpoint(TRUNCATE)');
  const database = readFileSync(path.join(folder, 'nibber.sqlite'), 'latin1');
  expect(database).not.toContain('reed-mace-7');
  expect(database).not.toContain(readFileSync(keyFile(), 'utf8'));
  expect(statSync(keyFile()).mode & 0o077).toBe(0);
});

test('another key, a changed box or a box under another name opens nothing, and says what to do', async () => {
  const sealed = openSealed(record, keyFile());
  await record.write((t) => sealed.put('one', 'secret', t));
  const row = (await record.tables.sealed.findByPk('one'))!;
  await record.tables.sealed.create({ name: 'two', box: row.box });
  await expect(sealed.get('two')).rejects.toMatchObject({ code: 'unavailable', hint: expect.stringContaining('key file') });
  const other = path.join(folder, 'other.key');
  await expect(openSealed(record, other).get('one')).rejects.toThrow('cannot be decrypted');
  await row.update({ box: `${row.box.startsWith('A') ? 'B' : 'A'}${row.box.slice(1)}` });
  await expect(sealed.get('one')).rejects.toThrow('cannot be decrypted');
  writeFileSync(other, 'short');
  expect(() => openSealed(record, other)).toThrow('no key of 32 bytes');
});

test('a camera’s token can be shown again, is kept as a hash to be looked up, and dies when it is replaced', async () => {
  const tokens = openCameraTokens(record, openSealed(record, keyFile()));
  const first = await tokens.make('porch', 1);
  expect([await tokens.of('porch'), await tokens.cameraOf(first)]).toEqual([first, 'porch']);
  const second = await tokens.make('porch', 2);
  expect([await tokens.cameraOf(first), await tokens.cameraOf(second)]).toEqual([undefined, 'porch']);
  expect(JSON.stringify(await record.tables.cameraTokens.findAll({ raw: true }))).not.toContain(second);
});
