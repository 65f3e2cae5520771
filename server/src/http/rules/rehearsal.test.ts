import type { RehearsalLine } from '@nibber/core/rehearsal';
import { testStations, until, walkIn, type TestStations } from '../../testing/stations';

let stations: TestStations;
beforeAll(async () => {
  stations = await testStations();
});
afterAll(() => stations.end());

const rule = () => stations.site.file.rules!.find((r) => r.id === 'comes-in')!;
/** As it is, but wherever: the other camera has no such zones. */
const anywhere = () => ({ ...rule(), behaviour: { kind: 'appears' } });
const week = async (id: string, body: object) => {
  const { status, body: text } = await stations.ask('POST', `/api/rules/${id}/rehearsal`, body);
  const lines =
    status === 200
      ? (text as string)
          .trim()
          .split('\n')
          .map((l) => JSON.parse(l) as RehearsalLine)
      : [];
  const last = lines.at(-1);
  return { status, text, lines, last: last?.kind === 'done' ? last : undefined };
};

test('what a changed rule would have told is worked out over what was recorded, with what is kept of it', async () => {
  const nothing = await week('comes-in', rule());
  expect(nothing.last).toMatchObject({ since: null, gained: [], lost: [], sureness: Array.from({ length: 20 }, () => 0) });
  expect(nothing.last!.days).toHaveLength(7);
  await stations.site.setMode('yard', 'shut', { name: 'Wren' });
  await walkIn(stations);
  stations.tracking.commit(stations.follow.stop(stations.clock.now() + 90_000));
  const event = await until(async () => (await stations.ask('GET', '/api/events?show=notified')).body.items[0]);
  // Its pictures are of the second that began with the walk; asked is what lies before now.
  await until(() => stations.clock.now() > event.at + 1000 || undefined);
  // What was read is kept for a while; other cameras are read again.
  const asIs = await week('comes-in', { ...anywhere(), cameras: ['gate', 'side'] });
  expect(asIs.last).toMatchObject({ gained: [], lost: [], gainedInAll: 0, lostInAll: 0 });
  expect(asIs.last!.days.at(-1)).toMatchObject({ before: 1, after: 1 });
  expect(asIs.last!.sureness[18]).toBe(1);
  const stricter = await week('comes-in', { ...anywhere(), cameras: ['gate', 'side'], confidence: 0.95 });
  expect(stricter.last!.days.at(-1)).toMatchObject({ before: 1, after: 0 });
  expect(stricter.last!.lost).toEqual([
    expect.objectContaining({
      event: event.id,
      at: event.at,
      cameraName: 'Gate',
      why: expect.stringMatching(/Confidence was 0\.90/),
      picture: expect.stringMatching(/^\/pictures\//),
    }),
  ]);
  // A rule that is new has told nothing so far.
  const fresh = await week('new-one', { ...anywhere(), id: 'new-one', cameras: ['gate', 'side'] });
  expect(fresh.last!.days.at(-1)).toMatchObject({ before: 0, after: 1 });
  expect(fresh.last!.gained).toHaveLength(1);
  expect(fresh.last!.gained[0]!.event).not.toBeNull();
});

test('a rule that cannot stand is not tried', async () => {
  const { status, text } = await week('comes-in', { ...rule(), behaviour: { kind: 'appears', zone: 'nowhere' } });
  expect([status, text.error.message]).toEqual([400, expect.stringMatching(/nowhere/)]);
});

test('several ask at once, one goes away, and the others are answered', async () => {
  const gone = new AbortController();
  const leaves = fetch(`${stations.url}/api/rules/comes-in/rehearsal`, {
    method: 'POST',
    signal: gone.signal,
    headers: { origin: stations.url, cookie: stations.cookie, 'content-type': 'application/json' },
    body: JSON.stringify(rule()),
  }).catch(() => 'gone');
  const others = [week('comes-in', { ...anywhere(), cameras: ['gate', 'side'], confidence: 0.95 }), week('comes-in', rule())];
  gone.abort();
  expect(await leaves).toBe('gone');
  const [stricter, same] = await Promise.all(others);
  expect([stricter!.last!.lostInAll, same!.last!.lostInAll]).toEqual([1, 0]);
});
