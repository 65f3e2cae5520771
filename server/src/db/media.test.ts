import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { openRecord, type Record } from '.';
import { bareEvent } from './events';

let record: Record;
beforeEach(async () => {
  record = await openRecord(mkdtempSync(path.join(tmpdir(), 'nibber-media-')));
});
afterEach(() => record.close());

const holding = (holderId: string, role = 'picture') => ({ holder: 'event' as const, holderId, role, camera: 'gate', takenAt: 1 });
const hold = (bytes: string, holderId: string, role?: string) =>
  record.media.using(async (keep) => {
    const file = await keep(Buffer.from(bytes), 'jpg');
    await record.write((transaction) => record.media.hold(transaction, { ...holding(holderId, role), file }));
    return file.name;
  });
const letGo = (...ids: string[]) => record.write((transaction) => record.media.letGo(transaction, 'event', ids));

test('the same bytes are one file, which goes with the last that holds it', async () => {
  const name = await hold('same', 'one');
  expect(await hold('same', 'two')).toBe(name);
  expect(await record.media.held()).toMatchObject([{ files: 1, bytes: 4 }]);
  await letGo('one');
  expect(record.media.file(name)).toBeDefined();
  await letGo('two');
  expect(record.media.file(name)).toBeUndefined();
});

test('what is held in place of another lets that go', async () => {
  const before = await hold('before', 'one');
  const now = await hold('now', 'one');
  expect((await record.media.of('event', ['one'])).get('one')).toEqual({ picture: { name: now, takenAt: 1 } });
  expect([record.media.file(before), record.media.file(now) !== undefined]).toEqual([undefined, true]);
});

test('a file that is in use stays while others let it go: it is held a moment later', async () => {
  await hold('shared', 'old');
  const name = await record.media.using(async (keep) => {
    const file = await keep(Buffer.from('shared'), 'jpg');
    await letGo('old');
    expect(record.media.file(file.name)).toBeDefined();
    await record.write((transaction) => record.media.hold(transaction, { ...holding('new'), file }));
    return file.name;
  });
  expect(record.media.file(name)).toBeDefined();
});

test('what is let go of in a write that fails is held on', async () => {
  const name = await hold('kept', 'one');
  const failing = record.write(async (transaction) => {
    await record.media.letGo(transaction, 'event', ['one']);
    throw new Error('no');
  });
  await expect(failing).rejects.toThrow('no');
  expect([record.media.file(name) !== undefined, (await record.media.of('event', ['one'])).size]).toEqual([true, 1]);
});

test('events of every kind are kept, listed and found, with a picture or without', async () => {
  const bare = { ...bareEvent, rule: null, ruleName: 'Yard', area: 'yard' };
  const kinds = ['sensor', 'alarm', 'health', 'reading'] as const;
  await record.write(async (transaction) => {
    for (const [i, kind] of kinds.entries()) await record.events.add({ ...bare, id: kind, kind, at: i }, transaction);
  });
  const page = await record.events.page({ before: { at: 100, id: '' }, max: 10 });
  expect(page.map((e) => e.kind)).toEqual([...kinds].reverse());
  expect(await record.events.lastByRule()).toEqual([]);
});
