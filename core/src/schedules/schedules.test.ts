import fc from 'fast-check';
import { DateTime } from 'luxon';
import { isOn, makePlan, minutesAWeek, nextChange, parseSpan, planWords, spanText as textOf, type PlanText } from '.';
import { instantsAt, wallTime } from '../time';

const at = (iso: string) => Date.parse(iso);
const nightly = makePlan('Europe/London', { weekly: { mon: ['18:00-08:00'], sat: ['00:00-24:00'] } });

test('a span may end on the next day', () => {
  // Monday 1 June 2026, British Summer Time.
  expect([
    isOn(nightly, at('2026-06-01T16:59:59Z')),
    isOn(nightly, at('2026-06-01T17:00:00Z')),
    isOn(nightly, at('2026-06-02T06:59:59Z')),
    isOn(nightly, at('2026-06-02T07:00:00Z')),
  ]).toEqual([false, true, true, false]);
  expect(minutesAWeek(nightly)).toBe(14 * 60 + 24 * 60);
});

test('an exception takes the place of its weekday, and leaves the evening before alone', () => {
  const plan = makePlan('Europe/London', {
    weekly: { mon: ['18:00-08:00'], tue: ['10:00-12:00'] },
    exceptions: [{ date: '2026-06-02', spans: ['13:00-14:00'] }],
  });
  expect([isOn(plan, at('2026-06-02T05:00:00Z')), isOn(plan, at('2026-06-02T10:00:00Z')), isOn(plan, at('2026-06-02T12:30:00Z'))]).toEqual([
    true,
    false,
    true,
  ]);
});

// IANA zone data, Europe/London 2026: clocks go forward on 29 March at 01:00Z and back on 25 October at 01:00Z.
test('on both odd days a span is as long as the wall clock shows', () => {
  const plan = makePlan('Europe/London', { weekly: { sun: ['01:30-02:30'] } });
  const minutesOn = (from: string, schedule: number) =>
    Array.from({ length: schedule * 60 }, (_, i) => isOn(plan, at(from) + i * 60_000)).filter(Boolean).length;
  expect(minutesOn('2026-03-29T00:00:00Z', 6)).toBe(30); // the wall goes from 00:59 to 02:00
  expect(minutesOn('2026-10-24T23:00:00Z', 6)).toBe(90); // 01:30–01:59 is shown twice
});

const zones = ['Europe/London', 'America/New_York', 'Australia/Lord_Howe', 'Asia/Kathmandu', 'America/St_Johns', 'UTC'] as const;

// Reference: luxon's reading of the IANA zone data, around both changes of 2026 in each zone.
test('wall time agrees with the zone data, and its inverse finds every instant', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...zones),
      fc.integer({ min: at('2026-01-01T00:00Z') / 60_000, max: at('2027-01-01T00:00Z') / 60_000 }),
      (zone, minutes) => {
        const instant = minutes * 60_000;
        const local = DateTime.fromMillis(instant, { zone });
        const wall = wallTime(zone, instant);
        expect([wall.minute, wall.weekday]).toEqual([local.hour * 60 + local.minute, local.weekday - 1]);
        expect(instantsAt(zone, wall.day, wall.minute)).toContain(instant);
      },
    ),
    { numRuns: 1500 },
  );
});

const spanText = fc
  .tuple(fc.integer({ min: 0, max: 1439 }), fc.integer({ min: 0, max: 1440 }))
  .filter(([a, b]) => a !== b)
  .map(([a, b]) => [a, b].map((m) => `${String(Math.floor(m / 60)).padStart(2, '0')}:${String(m % 60).padStart(2, '0')}`).join('-'));

test('the next change is the first minute at which the plan answers otherwise', () => {
  const starts = ['2026-03-28T12:00Z', '2026-10-24T12:00Z', '2026-06-03T12:00Z', '2026-04-04T12:00Z'];
  fc.assert(
    fc.property(
      fc.constantFrom(...zones),
      fc.constantFrom(...starts),
      fc.array(spanText, { maxLength: 2 }),
      fc.array(spanText, { maxLength: 2 }),
      fc.boolean(),
      (zone, start, sat, sun, inverted) => {
        const plan = makePlan(zone, { weekly: { sat, sun } } satisfies PlanText, inverted);
        const from = at(start);
        const found = nextChange(plan, from);
        let walked: number | 'never' = 'never';
        for (let t = from + 60_000; t <= from + 9 * 86_400_000; t += 60_000)
          if (isOn(plan, t) !== isOn(plan, from)) {
            walked = t;
            break;
          }
        expect(found).toBe(walked);
      },
    ),
    { numRuns: 60 },
  );
});

test.each(['24:00-08:00', '08:00-08:00', '8:00-09:00', '08:61-09:00', '10:00–11:00', '08:00-24:01'])('%s is no span', (text) => {
  expect(parseSpan(text)).toBeUndefined();
});

const landing = { zone: 'Europe/London', latitude: 52.6, longitude: 1.5 };

test('ends may hang on the sun, some minutes before or after', () => {
  const dark = makePlan(landing, { weekly: { mon: ['sunset - 30 min-sunrise'] } });
  // 2026-06-22 is a Monday. astronomy-engine gives sunset there at 20:21Z and sunrise on the next day at 03:31Z (to a minute).
  const on = (iso: string) => isOn(dark, at(iso));
  expect([on('2026-06-22T19:48:00Z'), on('2026-06-22T19:55:00Z'), on('2026-06-23T03:28:00Z'), on('2026-06-23T03:35:00Z')]).toEqual([
    false,
    true,
    true,
    false,
  ]);
  expect(nextChange(dark, at('2026-06-22T12:00:00Z'))).toBeLessThan(at('2026-06-22T19:55:00Z'));
});

test.each([
  // Tromsø, 69.65° N: the sun stays up in June and down in December.
  ['night at midsummer', 'sunset-sunrise', '2026-06-21', 0],
  ['day at midsummer', 'sunrise-sunset', '2026-06-21', 1440],
  ['night at midwinter', 'sunset-sunrise', '2026-12-21', 1440],
  ['day at midwinter', 'sunrise-sunset', '2026-12-21', 0],
])('where the sun does not rise: %s', (_name, span, date, minutes) => {
  const everyDay = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'].map((d) => [d, [span]]));
  const plan = makePlan({ zone: 'UTC', latitude: 69.65, longitude: 18.96 }, { weekly: everyDay });
  const on = Array.from({ length: 1440 }, (_, i) => isOn(plan, at(`${date}T00:00:00Z`) + i * 60_000)).filter(Boolean);
  expect(on.length).toBe(minutes);
});

test('a plan can be read', () => {
  const opening = {
    weekly: { mon: ['09:30-18:00'], wed: ['09:30-18:00'], thu: ['09:30-18:00'], sat: ['10:00-12:00', 'sunset + 5 min-23:00'] },
  };
  expect(planWords(makePlan(landing, { ...opening, exceptions: [{ date: '2026-12-24', spans: [] }] }))).toBe(
    'Monday, Wednesday and Thursday 09:30-18:00, Tuesday, Friday and Sunday closed, ' +
      'Saturday 10:00-12:00 and sunset + 5 min-23:00; except 2026-12-24 closed',
  );
  expect(planWords(makePlan('UTC', {}))).toBe('every day closed');
});

test('what is written as text is read as the same span', () => {
  const end = fc.oneof(
    fc.integer({ min: 0, max: 1439 }),
    fc.record({ sun: fc.constantFrom('sunrise' as const, 'sunset' as const), offset: fc.integer({ min: -180, max: 180 }) }),
  );
  fc.assert(
    fc.property(end, end, (from, to) => {
      if (typeof from === 'number' && from === to) return;
      expect(parseSpan(textOf({ from, to }))).toEqual({ from, to });
    }),
  );
});
