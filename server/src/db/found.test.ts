// What the full-text index answers, against plain scans of the rows it is made of.

import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Sequelize } from 'sequelize';
import { openRecord, type EventRow, type Record, type ReadingValueRow, type TrackRow } from '.';
import { migrate } from './migrations';
import type { FoundAsked } from './found';
import { bareEvent } from './events';

let folder: string;
let record: Record;
beforeAll(async () => {
  folder = mkdtempSync(path.join(tmpdir(), 'nibber-found-'));
  record = await openRecord(folder);
});
afterAll(() => record.close());

const from = 1_780_000_000_000;
const cameras = ['gate', 'yard', 'back-yard'];
const kinds = [
  ['person', null],
  ['vehicle', 'car'],
  ['pet', 'dog'],
  ['pet', 'other-animal'],
] as const;
const sentences = [
  null,
  'A white van with a trailer.',
  'A person in a red coat, standing.',
  'Un café fermé',
  'plate XK21 and AB12CD',
  '<b>DROP</b> "quoted" * NOT',
];
const nothing: FoundAsked = { kinds: [], cameras: [], areas: [], rules: [], sensors: [], words: [], from: null, to: null };

/** The same numbers each time (a linear congruence; from memory). */
function drawn(seed: number) {
  let state = seed;
  return (below: number) => {
    state = (state * 1_103_515_245 + 12_345) % 2_147_483_648;
    return Math.floor((state / 2_147_483_648) * below);
  };
}
const track = (id: string, at: number, camera: string, [cls, type]: (typeof kinds)[number], test: string | null = null): TrackRow => ({
  id,
  camera,
  class: cls,
  type,
  firstSeen: at,
  lastSeen: at + 4000,
  path: [],
  pictureBox: null,
  hasEvent: false,
  stoppedAt: null,
  stoppedBy: null,
  why: null,
  test,
});
const event = (id: string, at: number, camera: string | null, of: string | null, more: Partial<EventRow> = {}): EventRow => ({
  ...bareEvent,
  id,
  kind: of ? 'track' : 'sensor',
  rule: 'comes-in',
  ruleName: 'R',
  camera,
  area: 'land',
  track: of,
  at,
  ...more,
});

const tracks: TrackRow[] = [];
const events: EventRow[] = [];
beforeAll(async () => {
  const next = drawn(7);
  for (let i = 0; i < 600; i++) {
    // Several at the same instant, too.
    const at = from + next(200) * 60_000;
    const made = track(`t${i}`, at, cameras[next(3)]!, kinds[next(4)]!, next(12) === 0 ? 'walk' : null);
    tracks.push(made);
    if (next(3) === 0)
      events.push(
        event(`e${i}`, at + 1000, made.camera, made.id, {
          description: sentences[next(6)]!,
          rule: next(2) ? 'comes-in' : 'far-off',
          test: made.test,
        }),
      );
  }
  for (let i = 0; i < 40; i++)
    events.push(event(`s${i}`, from + next(200) * 60_000, null, null, { sensor: 'door', area: next(2) ? 'land' : 'house' }));
  await record.write(async (transaction) => {
    for (const t of tracks) await record.tracks.keep(t, transaction);
    for (const e of events) await record.events.add({ ...e, description: null }, transaction);
    // The sentence comes later.
    for (const { id, description } of events) if (description) await record.events.change(id, { description }, transaction);
  });
});

const fold = (text: string) =>
  text
    .toLowerCase()
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .split(/[^\p{L}\p{N}_]+/u);
/** By reading every row. */
function scanned(asked: FoundAsked) {
  const moments = [
    ...tracks
      .filter((t) => t.test === null)
      .map((t) => ({
        id: t.id,
        at: t.firstSeen,
        camera: t.camera as string | null,
        kinds: [t.class, t.type],
        sensor: null as string | null,
        area: null as string | null,
        of: events.filter((e) => e.track === t.id),
      })),
    ...events
      .filter((e) => e.track === null)
      .map((e) => ({
        id: e.id,
        at: e.at,
        camera: e.camera,
        kinds: [e.class, e.type],
        sensor: e.sensor,
        area: e.area as string | null,
        of: [e],
      })),
  ];
  const some = (asked: readonly string[], has: readonly (string | null)[]) =>
    asked.length === 0 || has.some((h) => h !== null && asked.includes(h));
  return moments
    .filter((m) => {
      const words = fold(m.of.map((e) => e.description ?? '').join(' '));
      const like = (word: string) => new RegExp(`^${word.toLowerCase().replaceAll('?', '.')}$`, 'u');
      const isPlace =
        asked.cameras.length + asked.areas.length === 0 ||
        (m.camera !== null && asked.cameras.includes(m.camera)) ||
        [m.area, ...m.of.map((e) => e.area)].some((a) => a !== null && asked.areas.includes(a));
      return (
        some(asked.kinds, m.kinds) &&
        isPlace &&
        some(asked.sensors, [m.sensor]) &&
        some(
          asked.rules,
          m.of.map((e) => e.rule),
        ) &&
        (!asked.isDescribed || m.of.some((e) => e.description !== null)) &&
        asked.words.every((w) => words.some((has) => like(w).test(has))) &&
        m.at >= (asked.from ?? 0) &&
        m.at < (asked.to ?? Infinity)
      );
    })
    .sort((a, b) => b.at - a.at);
}

test.each<Partial<FoundAsked>>([
  {},
  { kinds: ['person'] },
  { kinds: ['dog'] },
  { kinds: ['other-animal', 'car'] },
  { cameras: ['yard'] },
  { cameras: ['back-yard'] },
  { cameras: ['gate', 'yard'], kinds: ['pet'] },
  { areas: ['house'] },
  { areas: ['land'] },
  { areas: ['land'], cameras: ['yard'], kinds: ['vehicle'] },
  { sensors: ['door'] },
  { rules: ['far-off'] },
  { words: ['white'] },
  { words: ['van', 'trailer'] },
  { words: ['cafe'] },
  { words: ['red'], kinds: ['person'] },
  { words: ['?k21'] },
  { words: ['ab?2??'] },
  { words: ['?k?1'] },
  { words: ['??21'] },
  { words: ['????????????'] },
  { words: ['ab?2?'] },
  { words: ['not'] },
  { words: ['nothing-like-it'] },
  { words: ['k_person'] },
  { isDescribed: true },
  { isDescribed: true, kinds: ['person'] },
  { from: from + 60 * 60_000 },
  { to: from + 60 * 60_000 },
  { from: from + 30 * 60_000, to: from + 31 * 60_000 },
  { kinds: ['person'], cameras: ['gate'], from: from + 20 * 60_000, to: from + 150 * 60_000 },
])('%j is found as a scan finds it', async (part) => {
  const asked = { ...nothing, ...part };
  const wanted = scanned(asked);
  const found = await record.found.search(asked, 'newest', 1000);
  expect(found.events.map((m) => m.id).sort()).toEqual(wanted.map((m) => m.id).sort());
  expect(found.events.map((m) => m.at)).toEqual(wanted.map((m) => m.at));
  expect({ count: found.count, first: found.first, last: found.last }).toEqual({
    count: wanted.length,
    first: wanted.at(-1)?.at ?? null,
    last: wanted[0]?.at ?? null,
  });
  const oldest = await record.found.search(asked, 'oldest', 3);
  expect(oldest.events.map((m) => m.at)).toEqual(
    wanted
      .map((m) => m.at)
      .sort((a, b) => a - b)
      .slice(0, 3),
  );
});

test('something is in what is asked for', () => {
  expect(scanned({ ...nothing, words: ['?k21'] }).length).toBeGreaterThan(3);
  expect(scanned({ ...nothing, words: ['cafe'] }).length).toBeGreaterThan(3);
});

test.each(['"', '*', 'a" OR "m', 'said : x', 'NEAR(', '\u0000', '('])('the word %j is a word and no command', async (word) => {
  await expect(record.found.search({ ...nothing, words: [word] }, 'newest', 5)).resolves.toMatchObject({ count: 0 });
});

test('someone who sees a part finds that part', async () => {
  const all = await record.found.search(nothing, 'newest', 1000, { cameras: ['yard'], areas: [] });
  expect(all.count).toBe(scanned({ ...nothing, cameras: ['yard'] }).length);
  const none = await record.found.search({ ...nothing, cameras: ['gate'] }, 'newest', 1000, { cameras: ['yard'], areas: [] });
  expect(none.count).toBe(0);
  expect(await record.found.since(['gate'], { cameras: ['yard'], areas: [] })).toBeNull();
  expect((await record.found.search(nothing, 'newest', 5, { cameras: [], areas: [] })).count).toBe(0);
});

test('since when a camera has been looking is its first moment', async () => {
  expect(await record.found.since(['yard'])).toBe(scanned({ ...nothing, cameras: ['yard'] }).at(-1)!.at);
  expect(await record.found.since(['never'])).toBeNull();
});

test('a plate with a character that no one could read is found by those who know it, and by those who do not', async () => {
  const own = await openRecord(mkdtempSync(path.join(tmpdir(), 'nibber-found-')));
  await own.write(async (transaction) => {
    await own.tracks.keep(track('t1', from, 'gate', kinds[1]), transaction);
    await own.events.add(event('e1', from, 'gate', 't1'), transaction);
    await own.events.change('e1', { description: 'white · plate ?K21AB', fields: { colour: 'white', plate: '?K21AB' } }, transaction);
  });
  const count = async (word: string) => (await own.found.search({ ...nothing, words: [word] }, 'newest', 1)).count;
  expect(await Promise.all(['XK21AB', '?K21AB', '?K2?AB', '?k21??'].map(count))).toEqual([1, 1, 1, 1]);
  expect(await Promise.all(['XK22AB', 'K21AB0', '?K31AB'].map(count))).toEqual([0, 0, 0]);
  await own.close();
});

test('what is forgotten is found no more, and what was there before the index is found', async () => {
  const own = mkdtempSync(path.join(tmpdir(), 'nibber-found-'));
  const file = path.join(own, 'nibber.sqlite');
  await migrate(file, '0008-people-and-their-phones');
  const old = new Sequelize({ dialect: 'sqlite', storage: file, logging: false });
  const insert = (table: string, row: object) =>
    old.query(
      `INSERT INTO ${table} (${Object.keys(row).join()}) VALUES (${Object.keys(row)
        .map((k) => `:${k}`)
        .join()})`,
      { replacements: Object.fromEntries(Object.entries(row).map(([k, v]) => [k, Array.isArray(v) ? JSON.stringify(v) : (v as string)])) },
    );
  const trackThen = ({ stoppedAt: _at, stoppedBy: _by, why: _why, ...row }: TrackRow) => row;
  await insert('tracks', trackThen(track('t1', from, 'gate', kinds[1])));
  await insert('tracks', trackThen(track('t2', from, 'gate', kinds[0])));
  const asThen = ({
    fields: _fields,
    question: _question,
    chosenBy: pictureBy,
    snapshots: shots,
    clipProblem: clipTrouble,
    descriptionProblem: descriptionTrouble,
    ...row
  }: EventRow) => ({ ...row, pictureBy, shots, clipTrouble, descriptionTrouble });
  await insert('events', asThen(event('e1', from, 'gate', 't1', { description: 'A white van.' })));
  await insert('events', asThen(event('s1', from, null, null, { sensor: 'door' })));
  await old.close();
  const again = await openRecord(own);
  expect((await again.found.search({ ...nothing, words: ['van'] }, 'newest', 5)).events).toEqual([{ id: 't1', at: from, event: 'e1' }]);
  expect((await again.found.search(nothing, 'newest', 5)).count).toBe(3);
  await again.past.forget('gate', { from: 0, to: from + 10_000 });
  expect((await again.found.search({ ...nothing, words: ['van'] }, 'newest', 5)).count).toBe(0);
  expect((await again.found.search(nothing, 'newest', 5)).events.map((m) => m.id)).toEqual(['s1']);
  await again.close();
});

describe('what was read', () => {
  const values = [11, 12, 9, true, 'ajar', null] as const;
  const readingValues = Array.from({ length: 60 }, (_, i): ReadingValueRow => ({
    id: `r${i}`,
    reading: i % 2 ? 'canoes' : 'door-state',
    camera: 'yard',
    at: from + Math.floor(i / 3) * 60_000,
    due: null,
    takenAt: null,
    value: values[i % 6]!,
    why: null,
    seconds: null,
    service: null,
    cost: null,
    currency: null,
    hasPicture: false,
    corrected: i === 7 ? 10 : null,
    correctedBy: null,
  }));
  beforeAll(() =>
    record.write(async (transaction) => {
      // An answer comes later than its picture.
      for (const row of readingValues) await record.readings.add({ ...row, value: null, corrected: null }, transaction);
      for (const { id, value, corrected } of readingValues) await record.readings.change(id, { value, corrected }, transaction);
    }),
  );
  const asked = { readings: ['canoes'], words: [] as string[], from: null as number | null, to: null as number | null };
  const said = (v: ReadingValueRow['value']) => (v === true ? 'yes' : v === false ? 'no' : String(v));
  const scan = ({ readings, words, from: since, to }: typeof asked) =>
    readingValues.filter((t) => {
      const value = t.corrected ?? t.value;
      return (
        value !== null &&
        readings.includes(t.reading) &&
        (since === null || t.at >= since) &&
        (to === null || t.at < to) &&
        words.every((w) => said(value) === w)
      );
    });

  test.each([
    [asked],
    [{ ...asked, readings: ['canoes', 'door-state'] }],
    [{ ...asked, from: from + 5 * 60_000, to: from + 9 * 60_000 }],
    [{ ...asked, readings: ['door-state'], words: ['ajar'] }],
    [{ ...asked, readings: ['canoes', 'door-state'], words: ['yes'] }],
    [{ ...asked, words: ['10'] }],
    [{ ...asked, readings: ['nothing'] }],
  ])('%j is found as a plain scan finds it', async (of) => {
    const rows = scan(of);
    const numbers = rows.map((r) => r.corrected ?? r.value).filter((v): v is number => typeof v === 'number');
    for (const order of ['newest', 'oldest'] as const) {
      const found = await record.found.readings(of, order, 5);
      expect([found.count, found.min, found.max]).toEqual([
        rows.length,
        numbers.length ? Math.min(...numbers) : null,
        numbers.length ? Math.max(...numbers) : null,
      ]);
      const times = (await record.readings.some(found.ids)).map((r) => r.at);
      const expected = rows
        .map((r) => r.at)
        .sort((a, b) => (order === 'newest' ? b - a : a - b))
        .slice(0, 5);
      expect(times).toEqual(expected);
    }
  });

  test('no question about what was seen comes upon them', async () => {
    const all = await record.found.search(nothing, 'oldest', 3);
    expect([all.count, all.events.some((m) => m.id.startsWith('r'))]).toEqual([scanned(nothing).length, false]);
    expect((await record.found.search({ ...nothing, words: ['ajar'] }, 'newest', 3)).count).toBe(0);
    expect(await record.found.since([])).toBe(Math.min(...scanned(nothing).map((m) => m.at)));
  });
});
