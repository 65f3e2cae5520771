import { testStations, type TestStations } from '../../testing/stations';
import { readCalendar } from './calendar';

let stations: TestStations;
beforeAll(async () => {
  stations = await testStations();
});
afterAll(() => stations.end());

const opening = { id: 'opening', name: 'Opening hours', weekly: { mon: ['09:30-18:00'], sat: ['22:00-02:00'] } };
const put = (plan: { id: string }, headers?: Record<string, string>) => stations.ask('PUT', `/api/schedules/${plan.id}`, plan, headers);
const scheduleNamed = async (id: string) =>
  (await stations.ask('GET', '/api/schedules')).body.schedules.find((h: { plan: { id: string } }) => h.plan.id === id);

test('a plan is made, read back as it was painted, changed, and removed', async () => {
  expect((await put(opening)).status).toBe(200);
  const made = await scheduleNamed('opening');
  expect(made).toMatchObject({ plan: opening, uses: [], minutesAWeek: 12.5 * 60 });
  expect(made.clockDays).toHaveLength(2);
  await put({ ...opening, weekly: { mon: ['10:00-18:00'] } } as never);
  expect((await scheduleNamed('opening')).words).toMatch(/^Monday 10:00-18:00/);
  expect((await stations.ask('DELETE', '/api/schedules/opening')).status).toBe(200);
  expect(await scheduleNamed('opening')).toBeUndefined();
  expect((await stations.ask('DELETE', '/api/schedules/opening')).status).toBe(404);
});

test('what is used is said, and is not removed', async () => {
  const rule = stations.site.file.rules!.find((r) => r.id === 'comes-in')!;
  await stations.ask('PUT', '/api/rules/comes-in', { ...rule, schedule: 'closed' });
  expect((await scheduleNamed('closed')).uses).toEqual([{ kind: 'rule', id: 'comes-in', name: 'Someone comes in' }]);
  const refused = await stations.ask('DELETE', '/api/schedules/closed');
  expect(refused.status).toBe(409);
  expect(refused.body.error.message).toBe('Closing time is used by the rule Someone comes in.');
  expect(await scheduleNamed('closed')).toBeDefined();
});

test.each([
  ['a span that is none', { ...opening, weekly: { mon: ['25:00-26:00'] } }, /25:00-26:00/],
  ['an end on the sun of nowhere', { ...opening, weekly: { mon: ['sunset-08:00'] } }, /sun/],
  ['a day that does not exist', { ...opening, exceptions: [{ date: '2026-02-30', spans: [] }] }, /2026-02-30/],
  ['more spans than a day may have', { ...opening, weekly: { mon: Array.from({ length: 49 }, () => '09:00-10:00') } }, /48/],
  ['another id', { ...opening, id: 'Opening' }, /id: is not allowed/],
])('%s is refused, and nothing is changed', async (_what, plan, why) => {
  const before = stations.site.version;
  const answer = await stations.ask('PUT', '/api/schedules/opening', plan);
  expect([400, 422]).toContain(answer.status);
  expect(answer.body.error.message).toMatch(why);
  expect(stations.site.version).toBe(before);
});

test('of two who change the same plan the second is told what the first changed', async () => {
  await put(opening);
  const from = { cookie: stations.cookie, 'if-match': `"${stations.site.version}"` };
  expect((await put({ ...opening, weekly: { mon: ['08:00-12:00'] } } as never, from)).status).toBe(200);
  const second = await put({ ...opening, weekly: { mon: ['09:00-13:00'] } } as never, from);
  expect(second.status).toBe(409);
  expect(second.body.error.message).toMatch(/Wren changed this meanwhile.*08:00-12:00/);
});

const calendar = (...entries: string[][]) =>
  [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//example//EN',
    ...entries.flatMap((e) => ['BEGIN:VEVENT', ...e, 'END:VEVENT']),
    'END:VCALENDAR',
  ].join('\r\n');
const soon = (days: number) => new Date(stations.clock.now() + days * 86_400_000).toISOString().slice(0, 10);
const regatta = (days: number) => [
  `UID:${days}@example.org`,
  'SUMMARY:Regatta',
  `DTSTART:${soon(days).replaceAll('-', '')}T080000`,
  'DURATION:PT12H',
];
const read = (text: string, more: object = {}) =>
  stations.ask('POST', '/api/calendars', { text, calendar: 'Regattas', meaning: 'open', ...more });

test('a calendar is read as exceptions, and read again brings them up to date; nothing is saved by it', async () => {
  const before = stations.site.version;
  const first = (await read(calendar(regatta(3), regatta(10)))).body;
  expect(first.added).toEqual([soon(3), soon(10)]);
  expect(first.exceptions[0]).toEqual({ date: soon(3), name: 'Regatta', spans: ['08:00-20:00'], calendar: 'Regattas' });
  const again = (await read(calendar(regatta(3), regatta(17)), { exceptions: first.exceptions })).body;
  expect(again).toMatchObject({ added: [soon(17)], removed: [soon(10)], changed: [], kept: [] });
  expect(stations.site.version).toBe(before);
});

test('what is closed is taken out of the usual day', async () => {
  const every = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'].map((d) => [d, ['06:00-23:00']]));
  const { body } = await read(calendar(regatta(3)), { meaning: 'closed', weekly: every });
  expect(body.exceptions[0].spans).toEqual(['06:00-08:00', '20:00-23:00']);
});

test.each([
  ['no calendar', 'hello', /not a calendar/],
  ['another form', '{"a": 1}', /not a calendar/],
])('%s is said to be so', async (_what, text, why) => {
  const answer = await read(text);
  expect([answer.status, answer.body.error.message]).toEqual([400, expect.stringMatching(why)]);
});

test('an entry that cannot be read is named, and the others are read', async () => {
  const { status, body } = await read(calendar(['UID:1', 'SUMMARY:Nothing'], ['UID:2', 'SUMMARY:Regatta', 'DTSTART;VALUE=DATE:20260815']));
  expect([status, body.unread]).toEqual([200, [expect.stringMatching(/^“Nothing” \(line \d+\): it has no start/)]]);
});

test('a calendar that takes for ever is given up', async () => {
  const endless = Array.from({ length: 500 }, (_, i) => [
    `UID:${i}`,
    'DTSTART:19000101T000000Z',
    'RRULE:FREQ=DAILY;BYHOUR=0,1,2,3,4,5,6,7,8,9',
  ]);
  const given = {
    text: calendar(...endless),
    place: { zone: 'Europe/Lisbon' },
    weekly: {},
    meaning: 'open' as const,
    from: '2026-01-01',
    to: '2026-12-31',
  };
  await expect(readCalendar(given, 1000)).rejects.toThrow('takes too long');
});
