// Questions to the record over HTTP: by whom, and what is answered from it.

import { testDescriber } from '../../testing/describers';
import { peopledYard, testStations, until, walkIn, type TestStations } from '../../testing/stations';

let stations: TestStations;
beforeAll(async () => {
  stations = await testStations({
    site: peopledYard.replace(
      '- { id: sam, name: Sam, role: member }',
      '- { id: sam, name: Sam, role: member, access: { cameras: [side] } }',
    ),
  });
  await stations.ask('PUT', '/api/areas/yard/mode', { mode: 'shut' });
  await walkIn(stations);
  await until(async () =>
    (
      await stations.record.found.search(
        { kinds: ['person'], cameras: [], areas: [], rules: ['comes-in'], sensors: [], words: [], from: null, to: null },
        'newest',
        1,
      )
    ).count
      ? true
      : undefined,
  );
});
afterAll(() => stations.end());

const ask = async (question: string, more: object = {}, headers?: Record<string, string>) =>
  stations.ask('POST', '/api/ask', { question, ...more }, headers);

test('a question is answered with the moments it rests on, and says what was understood', async () => {
  const { status, body } = await ask('when was somebody last at the gate?');
  expect(status).toBe(200);
  expect(body.query).toMatchObject({ wanted: 'last', kinds: ['person'], cameras: ['gate'] });
  expect(body.answer).toMatch(/^The last person was detected at Gate /);
  expect(body.items[0]).toMatchObject({ kind: 'event', camera: 'gate', class: 'person' });
});

test('what was corrected is asked again as it is given; another question follows on', async () => {
  const { body } = await ask('how many dogs were at the gate?');
  expect(body.count).toBe(0);
  const again = await stations.ask('POST', '/api/ask', { query: { ...body.query, kinds: ['person'] } });
  expect(again.body.count).toBeGreaterThan(0);
  const follows = await ask('and people?', { before: body.query });
  expect(follows.body).toMatchObject({ count: again.body.count, query: { wanted: 'count', cameras: ['gate'] } });
});

test('nothing found says since when it was looking', async () => {
  const { body } = await ask('was there a bus at the gate?');
  expect(body).toMatchObject({ count: 0, items: [] });
  expect(body.answer).toBe('No: no bus was detected at Gate. Nibber has never detected a bus, so this is not conclusive.');
  const early = await ask('was anybody at the gate yesterday?');
  expect(early.body.answer).toMatch(/^No: no person was detected at Gate yesterday\. Data goes back to today at \d\d:\d\d\.$/);
});

test('a description is found by its words, once it is there', async () => {
  expect((await ask('somebody with a ladder')).body.answer).toMatch(/ detected there, of which none was described\.$/);
  const [event] = (await stations.ask('GET', '/api/events?show=notified')).body.items;
  await stations.record.write((transaction) =>
    stations.record.events.change(event.id, { description: 'A person with a ladder, in a red coat.' }, transaction),
  );
  const { body } = await ask('somebody with a ladder');
  expect(body.items.map((i: { id: string }) => i.id)).toEqual([event.id]);
});

test('whoever sees a part is answered from that part, and cannot ask for more by correcting', async () => {
  await stations.access.addAccount({ name: 'Sam', person: 'sam', role: 'member', password: 'another long one' });
  const cookie = `nibber-session=${await stations.access.signIn('Sam', 'another long one', null)}`;
  const { body } = await ask('was anybody at the gate?', {}, { cookie });
  // A camera that they do not see is not one that they can name.
  expect(body).toMatchObject({ count: 0, items: [], since: null, cameras: ['Side'], query: { cameras: [] } });
  const query = { ...body.query, cameras: ['gate'], words: [] };
  expect((await stations.ask('POST', '/api/ask', { query }, { cookie })).body).toMatchObject({ count: 0, items: [], since: null });
});

test.each([[{}], [{ question: '' }], [{ question: 'x'.repeat(400) }], [{ query: { wanted: 'all' } }], [{ question: 7 }]])(
  '%j is refused',
  async (body) => expect((await stations.ask('POST', '/api/ask', body)).status).toBe(400),
);

describe('with a service that is named for it', () => {
  const search = JSON.stringify({ wanted: 'last', kind: 'person', camera: 'Gate', area: null, from: null, to: null, words: null });
  // It may be asked to describe before it is asked anything here.
  let says = (_words: string): string => search;
  let service: Awaited<ReturnType<typeof testDescriber>>;
  const sentOf = () => service.asked.map((a) => (a.messages[0]!.content as { text?: string }[]).map((c) => c.text ?? 'a picture').join(''));
  beforeAll(async () => {
    service = await testDescriber(({ messages }) => ({ content: says((messages[0]!.content as { text: string }[])[0]!.text) }));
    await stations.end();
    stations = await testStations({ site: peopledYard, ownServices: [service.origin] });
    await stations.ask('PUT', '/api/areas/yard/mode', { mode: 'shut' });
    await walkIn(stations);
    await until(async () => ((await stations.ask('GET', '/api/events?show=notified')).body.items.length > 0 ? true : undefined));
    await stations.ask('POST', '/api/ai-services', { service: { name: 'Near', url: service.url, model: 'm' } });
  });
  afterAll(() => service.close());

  test('nothing is asked of it before it is named; then it reads the question, and is given what was found, as words', async () => {
    const asked = () => sentOf().filter((t) => t.includes('asks the record') || t.includes('asked the record'));
    expect((await ask('has the postman been?')).body).toMatchObject({ by: null, sentence: null, why: null });
    expect(asked()).toEqual([]);
    await stations.ask('PUT', '/api/ai-services/order', { use: 'asking', services: ['near'] });
    says = (words) => (words.includes('Rows:') ? 'Somebody was at the gate today.' : search);
    const { body } = await ask('has the postman been?');
    expect(body).toMatchObject({
      by: 'Near',
      sentence: 'Somebody was at the gate today.',
      why: null,
      query: { wanted: 'last', kinds: ['person'], cameras: ['gate'] },
    });
    expect(body.count).toBe(1);
    const [first, second] = asked();
    expect(first).toContain('"has the postman been?"');
    expect(second).toMatch(/Rows:\n\w+ [\d-]+ [\d:]+ \| Gate \| person/);
    expect(asked().join()).not.toContain('a picture');
    // No picture left, so it is not in that list.
    expect((await stations.ask('GET', '/api/ai-services/sent')).body.items.filter((i: { use: string }) => i.use === 'asking')).toEqual([]);
  });

  test.each([
    ['says what cannot be used', () => 'I would rather not.'],
    ['names nothing that is here', () => '{"kind": "dragon", "camera": "Vault"}'],
    ['gives orders', () => '{"sought": {"cameras": ["side"]}, "kinds": "x", "wanted": "DROP TABLE events"}'],
  ])('where it %s the question is understood here, and it is said', async (_what, answer) => {
    says = answer;
    const { status, body } = await ask('when was somebody last at the gate?');
    expect(status).toBe(200);
    expect(body).toMatchObject({ by: 'Near', sentence: null, count: 1, query: { wanted: 'last', kinds: ['person'], cameras: ['gate'] } });
    expect(body.why).toMatch(/\w/);
  });

  test('what was corrected goes to no one', async () => {
    const before = service.asked.length;
    const { body } = await stations.ask('POST', '/api/ask', {
      query: { wanted: 'count', kinds: ['person'], cameras: [], areas: [], rules: [], sensors: [], span: null, words: [] },
    });
    expect(body).toMatchObject({ by: null, sentence: null });
    expect(service.asked.length).toBe(before);
  });
});

test('what was read is answered with its pictures, of the cameras that may be seen', async () => {
  const { record, clock } = stations;
  const reading = { name: 'Parcels', camera: 'gate', unit: 'parcels', by: { question: 'How many parcels lie there?', kind: 'number' } };
  expect((await stations.ask('POST', '/api/readings', { reading })).status).toBe(200);
  const row = {
    id: 'r1',
    reading: 'parcels',
    camera: 'gate',
    at: clock.now() - 60_000,
    due: null,
    takenAt: null,
    value: 2,
    why: null,
    seconds: null,
    service: null,
    cost: null,
    currency: null,
    hasPicture: false,
    corrected: null,
    correctedBy: null,
  };
  await record.write(async (transaction) => {
    await record.readings.add({ ...row, id: 'r0', at: row.at - 60_000, value: 5 }, transaction);
    await record.readings.add(row, transaction);
  });
  const { body } = await ask('how many parcels were there today?');
  expect(body).toMatchObject({ count: 2, items: [], by: null, query: { readings: ['parcels'] } });
  expect(body.answer).toMatch(/^Parcels: 2 parcels, read today at \d\d:\d\d\. 2 readings today, from 2 to 5 parcels\.$/);
  expect(body.readings.map((r: { says: string }) => r.says)).toEqual(['2 parcels', '5 parcels']);
});
