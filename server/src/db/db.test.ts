import { chmodSync, existsSync, mkdtempSync, readFileSync, statSync, symlinkSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { QueryTypes } from 'sequelize';
import { peopledYard } from '../testing/stations';
import { machineClock } from '../base/clock';
import { openRecord, type Record } from '.';
import { openFiles } from './files';
import { closeFolder } from './folder';
import { openSiteBook } from './site';

let folder: string;
let record: Record;
beforeEach(async () => {
  folder = mkdtempSync(path.join(tmpdir(), 'nibber-record-'));
  record = await openRecord(folder);
});
afterEach(() => record.close());

const pragma = async (name: string) => {
  const [row] = await record.sequelize.query(`PRAGMA ${name}`, { type: QueryTypes.SELECT });
  return Object.values(row as object)[0];
};

test('the database is WAL, syncs fully and keeps references', async () => {
  expect([await pragma('journal_mode'), await pragma('synchronous'), await pragma('foreign_keys')]).toEqual(['wal', 2, 1]);
});

test('opening again keeps what is there', async () => {
  await record.settings.set('a', 'b');
  await record.close();
  record = await openRecord(folder);
  expect(await record.settings.get('a')).toBe('b');
});

test('a name in the folder behind which nothing is any more does not keep it from being closed', () => {
  symlinkSync(path.join(folder, 'gone'), path.join(folder, 'nibber.sqlite-left'));
  chmodSync(folder, 0o755);
  closeFolder(folder);
  closeFolder(folder);
  expect(statSync(folder).mode & 0o777).toBe(0o700);
});

test('a write that fails in its middle leaves nothing, and does not stop the next', async () => {
  const failing = record.write(async (transaction) => {
    await record.tables.settings.create({ key: 'half', value: 'done' }, { transaction });
    throw new Error('no');
  });
  const after = record.settings.set('next', 'fine');
  await expect(failing).rejects.toThrow('no');
  await after;
  expect([await record.settings.get('half'), await record.settings.get('next')]).toEqual([undefined, 'fine']);
});

test('pictures are named by content, written once, private, and what was half written is swept', async () => {
  const [half, fresh] = ['x.part', 'y.part'].map((name) => path.join(folder, 'pictures', name)) as [string, string];
  for (const file of [half, fresh]) writeFileSync(file, 'half');
  utimesSync(half, 1, 1);
  const pictures = await openFiles(folder);
  expect([existsSync(half), existsSync(fresh)]).toEqual([false, true]);
  const [one, again, other] = [
    await pictures.keep(Buffer.from('abc'), 'jpg'),
    await pictures.keep(Buffer.from('abc'), 'jpg'),
    await pictures.keep(Buffer.from('abd'), 'jpg'),
  ];
  // FIPS 180-4: SHA-256 of "abc" begins ba7816bf 8f01cfea 414140de 5dae2223 b00361a3.
  expect(one).toBe('ba7816bf8f01cfea414140de5dae2223b00361a3.jpg');
  expect([again === one, other === one]).toEqual([true, false]);
  const file = pictures.file(one)!;
  expect(readFileSync(file, 'utf8')).toBe('abc');
  expect(statSync(file).mode & 0o077).toBe(0);
});

test.each([
  '../nibber.sqlite',
  'ba7816bf8f01cfea414140de5dae2223b00361a3.exe',
  '/etc/passwd',
  '',
  'BA7816BF8F01CFEA414140DE5DAE2223B00361A3.jpg',
])('%p is no name of a picture', async (name) => {
  expect((await openFiles(folder)).file(name)).toBeUndefined();
});

test('every version of the site is kept, a bad one changes nothing, and modes survive', async () => {
  const book = await openSiteBook(record, machineClock());
  const changes: string[] = [];
  book.onChange((c) => changes.push(c.kind));
  await book.replace(peopledYard, { by: { name: 'Wren', role: 'owner' }, what: 'set it up' });
  await book.edit([[['rules', 'comes-in', 'cooldownSeconds'], 10]], { by: { name: 'Wren', role: 'owner' }, what: 'made it quicker' });
  await expect(
    book.edit([[['rules', 'comes-in', 'cameras'], ['attic']]], { by: { name: 'Wren', role: 'owner' }, what: 'broke it' }),
  ).rejects.toThrow('attic is not a camera');
  expect(book.file.rules![0]).toMatchObject({ cooldownSeconds: 10, cameras: ['gate'] });
  await book.setMode('yard', 'shut', { name: 'Wren' });
  await expect(book.setMode('yard', 'party', { name: 'Wren' })).rejects.toThrow('Mode party not found');
  await expect(book.setMode('attic', 'shut', { name: 'Wren' })).rejects.toThrow('Area attic not found');
  expect(changes).toEqual(['site', 'site', 'mode']);
  const versions = await record.tables.siteVersions.findAll({ order: ['id'] });
  expect(versions.map((v) => [v.by, v.what])).toEqual([
    ['Wren', 'set it up'],
    ['Wren', 'made it quicker'],
  ]);
  const again = await openSiteBook(record, machineClock());
  expect([again.text, again.modes]).toEqual([book.text, book.modes]);
  expect(again.modes[0]).toMatchObject({ area: 'yard', mode: 'shut', by: 'Wren' });
});
