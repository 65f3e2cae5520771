// When readings are due and whom they remind. Clock changes of the United Kingdom: last Sundays of March and October at 01:00 UTC (Summer Time
// Order 2002); of Lord Howe Island: half an hour, first Sundays of April and October (tz database).

import {
  promptOfReading,
  asleep,
  dueBetween,
  holds,
  instantOf,
  isOnTarget,
  nextDue,
  questionOfReading,
  remind,
  valueIn,
  valueWords,
  wantsReading,
  type ReminderState,
  type Times,
} from '.';
import { makePlan } from '../schedules';
import type { Reading, Reminder } from '../site';
import { sunOf } from '../sun';
import { dayOf, isoInstant } from '../time';

const london = { zone: 'Europe/London', latitude: 51.5, longitude: -0.12 };
const at = (text: string) => Date.parse(text);
const between = (times: Times, from: string, to: string, place: Parameters<typeof dueBetween>[1] = london) =>
  dueBetween(times, place, at(from), at(to)).map((i) => isoInstant(i).slice(0, 16));

test('by the clock: each day, on some days, in order, and each once', () => {
  expect(between({ at: ['20:00', '08:30'] }, '2026-06-03T00:00Z', '2026-06-04T07:30Z')).toEqual([
    '2026-06-03T07:30',
    '2026-06-03T19:00',
    '2026-06-04T07:30',
  ]);
  // 2026-06-03 is a Wednesday.
  expect(between({ at: ['08:30'], days: ['thu', 'sat'] }, '2026-06-03T00:00Z', '2026-06-08T00:00Z')).toEqual([
    '2026-06-04T07:30',
    '2026-06-06T07:30',
  ]);
  expect(between({ at: ['08:30'] }, '2026-06-03T07:30Z', '2026-06-03T20:00Z')).toEqual([]);
  expect(between({}, '2026-06-03T00:00Z', '2026-06-09T00:00Z')).toEqual([]);
});

test.each([
  ['a time that the clocks skip is the first after it', 'Europe/London', '2026-03-29', '01:30', '2026-03-29T01:00'],
  ['before the skip', 'Europe/London', '2026-03-29', '00:59', '2026-03-29T00:59'],
  ['after the skip', 'Europe/London', '2026-03-29', '02:00', '2026-03-29T01:00'],
  ['of a time that comes twice the first counts', 'Europe/London', '2026-10-25', '01:30', '2026-10-25T00:30'],
  ['once the clocks have gone back', 'Europe/London', '2026-10-25', '02:00', '2026-10-25T02:00'],
  ['half an hour is skipped', 'Australia/Lord_Howe', '2026-10-04', '02:15', '2026-10-03T15:30'],
  ['a day further on', 'Europe/London', '2026-06-03', '23:59', '2026-06-03T22:59'],
])('%s', (_name, zone, day, end, expected) => {
  expect(isoInstant(instantOf({ zone }, dayOf(day), end)!).slice(0, 16)).toBe(expected);
});

test('by the sun: as the part for the sun has it, to the minute of the clock, and so many minutes before or after', () => {
  const sun = sunOf(dayOf('2026-06-03'), london.latitude, london.longitude);
  if (sun.kind !== 'rises') throw new Error('the sun rises there');
  const [sunset, later] = [instantOf(london, dayOf('2026-06-03'), 'sunset')!, instantOf(london, dayOf('2026-06-03'), 'sunset + 30 min')!];
  expect(Math.abs(sunset - sun.sunset)).toBeLessThan(60_000);
  expect(later - sunset).toBe(30 * 60_000);
});

test('every so many minutes of the day, over a clock change as well', () => {
  expect(between({ everyMinutes: 360 }, '2026-06-02T22:30Z', '2026-06-03T23:30Z')).toEqual([
    '2026-06-02T23:00',
    '2026-06-03T05:00',
    '2026-06-03T11:00',
    '2026-06-03T17:00',
    '2026-06-03T23:00',
  ]);
  // The day has 23 hours: the last step is shorter, and the next day begins at its midnight.
  expect(between({ everyMinutes: 360 }, '2026-03-29T12:00Z', '2026-03-30T01:00Z')).toEqual(['2026-03-29T18:00', '2026-03-29T23:00']);
  expect(between({ everyMinutes: 1 }, '2026-06-03T00:00Z', '2026-06-04T00:00Z')).toHaveLength(1440);
});

test('after a mode is set, while some hours are on, and the next there is', () => {
  const mode = { mode: 'closed', since: at('2026-06-03T17:00Z') };
  const times: Times = { afterMode: { modes: ['closed'], minutes: 10 } };
  expect(between(times, '2026-06-03T17:00Z', '2026-06-03T18:00Z', { ...london, mode })).toEqual(['2026-06-03T17:10']);
  expect(between(times, '2026-06-03T17:00Z', '2026-06-03T18:00Z', { ...london, mode: { ...mode, mode: 'open' } })).toEqual([]);
  const isOn = (i: number) => new Date(i).getUTCHours() < 12;
  expect(between({ at: ['08:30', '20:00'] }, '2026-06-03T00:00Z', '2026-06-03T23:00Z', { ...london, isOn })).toEqual(['2026-06-03T07:30']);
  expect(isoInstant(nextDue({ at: ['08:30'], days: ['mon'] }, london, at('2026-06-03T00:00Z'))!)).toBe('2026-06-08T07:30:00.000Z');
  expect(nextDue({ at: ['08:30'] }, { ...london, isOn: () => false }, at('2026-06-03T00:00Z'))).toBeUndefined();
});

const canoes: Reading = {
  id: 'canoes',
  name: 'Canoes',
  camera: 'racks',
  unit: 'canoes',
  min: 0,
  max: 12,
  target: { min: 12 },
  by: { question: 'How many canoes are on the rack?', kind: 'number' },
};

test('what can be is taken; what cannot is said', () => {
  expect(valueIn(canoes, { value: 11 })).toEqual({ value: 11 });
  expect(valueIn(canoes, { value: 40 })).toEqual({ wrong: 'It was said to be 40, which cannot be: it is from 0 to 12' });
  expect(valueIn(canoes, {})).toEqual({ wrong: 'It could not be seen' });
  expect([valueWords(11, 'canoes'), valueWords(true), valueWords('open', 'canoes')]).toEqual(['11 canoes', 'yes', 'open']);
  expect([isOnTarget(canoes, 12), isOnTarget(canoes, 11), isOnTarget({}, 3), isOnTarget(canoes, 'many')]).toEqual([
    true,
    false,
    true,
    true,
  ]);
  expect(promptOfReading(canoes)).toMatchObject({ sentence: false, fields: [{ name: 'value', kind: 'number' }] });
  expect(promptOfReading({ by: { counts: 'person' } })).toBeUndefined();
  expect(questionOfReading(canoes, true, 'a number')).toMatch(
    /How many canoes are on the rack\? The answer is counted in canoes\. The picture was taken by infrared light.*"value": a number/,
  );
});

test.each([
  [{ under: 12 }, 11, true],
  [{ under: 12 }, 12, false],
  [{ over: 3, under: 6 }, 5, true],
  [{ over: 3, under: 6 }, 6, false],
  [{ equal: 'Open' }, 'open', true],
  [{ equal: false }, false, true],
  [{ equal: 'yes' }, true, true],
  [{ under: 12 }, 'eleven', false],
])('%j of %j: %s', (is, value, isActive) => expect(holds(is, value)).toBe(isActive));

const notify = [{ to: 'owner', channel: 'push' as const }];
/** A day of readings at these times; the times at which it tells. */
function notified(
  reminder: Partial<Reminder>,
  readings: readonly (readonly [string, number])[],
  place: Parameters<typeof remind>[1] = london,
): string[] {
  const whole: Reminder = { id: 'out', name: 'Still out', reading: 'canoes', is: { under: 12 }, notify, ...reminder };
  let state: ReminderState = asleep;
  return readings.flatMap(([time, value]) => {
    const next = remind(whole, place, state, { at: at(`2026-06-03T${time}Z`), value });
    state = next.state;
    return next.notifies ? [time] : [];
  });
}

test('from a set time on, again every so many minutes until it is not so, and not after the end', () => {
  const at20 = { at: ['20:00'], againMinutes: 15, until: '22:00' };
  const readings = [
    ['18:30', 11],
    ['19:00', 11],
    ['19:05', 11],
    ['19:15', 11],
    ['19:31', 12],
    ['19:45', 11],
    ['20:59', 11],
    ['21:01', 11],
  ] as const;
  expect(notified(at20, readings)).toEqual(['19:00', '19:15', '19:45', '20:59']);
  expect(notified({ at: ['20:00'] }, readings)).toEqual(['19:00', '19:45']);
  // Wednesday.
  expect(notified({ ...at20, days: ['tue'] }, readings)).toEqual([]);
  // Missed by more than a quarter of an hour it is not made up for.
  expect(notified(at20, [['19:16', 11]])).toEqual([]);
});

test('on days on which it is open', () => {
  const weekly = { mon: [], tue: ['09:00-18:00'], wed: [], thu: [], fri: [], sat: [], sun: [] };
  const place = { ...london, openDays: makePlan(london, { weekly }) };
  expect(notified({ at: ['20:00'] }, [['19:00', 11]], place)).toEqual([]);
  expect(
    notified({ at: ['20:00'] }, [['19:00', 11]], { ...place, openDays: makePlan(london, { weekly: { ...weekly, wed: ['10:00-12:00'] } }) }),
  ).toEqual(['19:00']);
});

test('when it has been so for so long, once, until it was not so', () => {
  const long = { is: { over: 3 }, forMinutes: 30 };
  expect(
    notified(long, [
      ['10:00', 5],
      ['10:20', 5],
      ['10:30', 4],
      ['10:50', 9],
      ['11:00', 2],
      ['11:10', 5],
      ['11:30', 5],
      ['11:40', 5],
    ]),
  ).toEqual(['10:30', '11:40']);
  expect(
    notified({ ...long, on: false }, [
      ['10:00', 5],
      ['10:30', 5],
    ]),
  ).toEqual([]);
});

test('a new reading is wanted when it is time to decide, and not oftener', () => {
  const reminder: Reminder = {
    id: 'out',
    name: 'Out',
    reading: 'canoes',
    is: { under: 12 },
    notify,
    at: ['20:00'],
    againMinutes: 15,
    until: '22:00',
  };
  const wants = (time: string, state: ReminderState) => wantsReading(reminder, london, state, at(`2026-06-03T${time}Z`));
  const from = at('2026-06-03T19:00Z');
  expect([wants('18:59', asleep), wants('19:00', asleep), wants('19:14', asleep), wants('19:16', asleep)]).toEqual([
    false,
    true,
    true,
    false,
  ]);
  const open = { since: from, notifiedAt: from, from };
  expect([wants('19:14', open), wants('19:15', open), wants('21:00', open), wants('21:01', open)]).toEqual([false, true, true, false]);
  // It is home again.
  expect(wants('19:15', { since: null, notifiedAt: null, from })).toBe(false);
  const long: Reminder = { ...reminder, at: undefined, until: undefined, forMinutes: 30 } as never;
  expect(wantsReading(long, london, { since: from, notifiedAt: null, from: null }, from + 29 * 60_000)).toBe(false);
  expect(wantsReading(long, london, { since: from, notifiedAt: null, from: null }, from + 30 * 60_000)).toBe(true);
});
