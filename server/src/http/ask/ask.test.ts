// Questions to the record over HTTP: by whom, and what is answered from it.

import { peopledYard, testStations, until, walkIn, type TestStations } from '../../testing/stations';

let stations: TestStations;
beforeAll(async () => {
  stations = await testStations({ site: peopledYard.replace('- { id: sam, name: Sam, role: member }', '- { id: sam, name: Sam, role: member, sees: { cameras: [side] } }') }); // prettier-ignore
  await stations.ask('PUT', '/api/areas/yard/mode', { mode: 'shut' });
  await walkIn(stations);
  await until(async () => ((await stations.record.found.search({ kinds: ['person'], cameras: [], areas: [], rules: ['comes-in'], sensors: [], words: [], from: null, to: null }, 'newest', 1)).count ? true : undefined)); // prettier-ignore
});
afterAll(() => stations.end());

const ask = async (question: string, more: object = {}, headers?: Record<string, string>) => stations.ask('POST', '/api/ask', { question, ...more }, headers); // prettier-ignore

test('a question is answered with the moments it rests on, and says what was understood', async () => {
  const { status, body } = await ask('when was somebody last at the gate?');
  expect(status).toBe(200);
  expect(body.sought).toMatchObject({ wanted: 'last', kinds: ['person'], cameras: ['gate'] });
  expect(body.answer).toMatch(/^The last person was seen at Gate /);
  expect(body.items[0]).toMatchObject({ kind: 'event', camera: 'gate', class: 'person' });
});

test('what was corrected is asked again as it is given; another question follows on', async () => {
  const { body } = await ask('how many dogs were at the gate?');
  expect(body.count).toBe(0);
  const again = await stations.ask('POST', '/api/ask', { sought: { ...body.sought, kinds: ['person'] } });
  expect(again.body.count).toBeGreaterThan(0);
  const follows = await ask('and people?', { before: body.sought });
  expect(follows.body).toMatchObject({ count: again.body.count, sought: { wanted: 'count', cameras: ['gate'] } });
});

test('nothing found says since when it was looking', async () => {
  const { body } = await ask('was there a bus at the gate?');
  expect(body).toMatchObject({ count: 0, items: [] });
  expect(body.answer).toBe('No: no bus was seen at Gate. Nothing here has ever recognised a bus, so that says little.');
  const early = await ask('was anybody at the gate yesterday?');
  expect(early.body.answer).toMatch(/^No: no person was seen at Gate yesterday\. It has been looking since today at \d\d:\d\d\.$/);
});

test('a description is found by its words, once it is there', async () => {
  expect((await ask('somebody with a ladder')).body.answer).toMatch(/ seen there, of which none was described\.$/);
  const [event] = (await stations.ask('GET', '/api/events?show=told')).body.items;
  await stations.record.write((transaction) => stations.record.events.change(event.id, { description: 'A person with a ladder, in a red coat.' }, transaction)); // prettier-ignore
  const { body } = await ask('somebody with a ladder');
  expect(body.items.map((i: { id: string }) => i.id)).toEqual([event.id]);
});

test('whoever sees a part is answered from that part, and cannot ask for more by correcting', async () => {
  await stations.access.addAccount({ name: 'Sam', person: 'sam', role: 'member', password: 'another long one' });
  const cookie = `nibber-session=${await stations.access.signIn('Sam', 'another long one', null)}`;
  const { body } = await ask('was anybody at the gate?', {}, { cookie });
  // A camera that she does not see is not one that she can name.
  expect(body).toMatchObject({ count: 0, items: [], since: null, cameras: ['Side'], sought: { cameras: [] } });
  const sought = { ...body.sought, cameras: ['gate'], words: [] };
  expect((await stations.ask('POST', '/api/ask', { sought }, { cookie })).body).toMatchObject({ count: 0, items: [], since: null });
});

test.each([[{}], [{ question: '' }], [{ question: 'x'.repeat(400) }], [{ sought: { wanted: 'all' } }], [{ question: 7 }]])(
  '%j is refused',
  async (body) => expect((await stations.ask('POST', '/api/ask', body)).status).toBe(400),
);
