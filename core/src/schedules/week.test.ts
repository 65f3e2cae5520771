import fc from 'fast-check';
import { dayOf } from '../time';
import { isOn, makePlan, minutesAWeek, weekdayKeys, type Span } from '.';
import {
  copied,
  dayText,
  minutesOfWeek,
  painted,
  parseDay,
  piecesOf,
  templates,
  textOfWeek,
  weekOfText,
  type Stroke,
  type Week,
} from './week';

const empty: Week = weekdayKeys.map(() => []);
const texts = (week: Week) => week.map(dayText);
const at = (day: number, from: number, to: number, on = true): Stroke => ({ days: [day, day], minutes: [from * 60, to * 60], on });

test('what is painted on a day is a span; painting on joins it, painting out cuts it', () => {
  const morning = painted(empty, at(1, 9, 12));
  expect(texts(morning)[1]).toBe('09:00-12:00');
  expect(texts(painted(morning, at(1, 12, 18)))[1]).toBe('09:00-18:00');
  expect(texts(painted(painted(morning, at(1, 12, 18)), at(1, 11, 13, false)))[1]).toBe('09:00-11:00, 13:00-18:00');
});

test('a stroke over several days paints the same minutes on each, drawn in any direction', () => {
  const week = painted(empty, { days: [4, 0], minutes: [17 * 60, 9 * 60], on: true });
  expect(texts(week)).toEqual([...Array.from({ length: 5 }, () => '09:00-17:00'), '', '']);
});

test('what goes on over midnight is one span of the day on which it begins, on Sunday too; what lasts longer is cut at midnight', () => {
  const night = painted(painted(empty, at(6, 22, 24)), at(0, 0, 6));
  expect(texts(night)).toEqual(['', '', '', '', '', '', '22:00-06:00']);
  const long = painted(painted(painted(empty, at(0, 18, 24)), at(1, 0, 24)), at(2, 0, 8));
  expect(texts(long).slice(0, 3)).toEqual(['18:00-24:00', '00:00-24:00', '00:00-08:00']);
  expect(texts(painted(empty, { days: [0, 6], minutes: [0, 1440], on: true }))).toEqual(weekdayKeys.map(() => '00:00-24:00'));
});

const stroke: fc.Arbitrary<Stroke> = fc.record({
  days: fc.tuple(fc.nat(6), fc.nat(6)),
  minutes: fc.tuple(fc.nat(96), fc.nat(96)).map(([a, b]) => [a * 15, b * 15] as const),
  on: fc.boolean(),
});

// By hand: a table of minutes that is filled in stroke by stroke; and the plan that is made of what is written, asked at each quarter of an hour.
test('whatever is painted is on in just those minutes, also once it was written and read again', () => {
  fc.assert(
    fc.property(fc.array(stroke, { maxLength: 12 }), (strokes) => {
      const table = Array.from({ length: 7 }, () => new Uint8Array(1440));
      for (const { days, minutes, on } of strokes)
        for (let day = Math.min(...days); day <= Math.max(...days); day++)
          table[day]!.fill(on ? 1 : 0, Math.min(...minutes), Math.max(...minutes));
      const week = strokes.reduce(painted, empty);
      expect(Buffer.compare(Buffer.from(minutesOfWeek(week)), Buffer.concat(table))).toBe(0);
      const written = textOfWeek(week);
      expect(textOfWeek(weekOfText(written))).toEqual(written);
      const plan = makePlan('UTC', { weekly: written });
      const monday = Date.UTC(2026, 5, 1);
      for (let quarter = 0; quarter < 7 * 96; quarter++)
        expect(isOn(plan, monday + quarter * 900_000)).toBe(table[Math.floor(quarter / 96)]![(quarter % 96) * 15] === 1);
    }),
    { numRuns: 60 },
  );
});

test('spans that hang on the sun stay when it is painted', () => {
  const week = painted(weekOfText({ mon: ['sunset-23:00'] }), at(0, 9, 10));
  expect(texts(week)[0]).toBe('09:00-10:00, sunset-23:00');
  expect(texts(painted(week, at(0, 0, 24, false)))[0]).toBe('sunset-23:00');
});

test('a day is copied to others in place of theirs', () => {
  const week = copied(weekOfText({ mon: ['09:30-18:00'], sat: ['10:00-12:00'] }), 0, [1, 5]);
  expect(texts(week)).toEqual(['09:30-18:00', '09:30-18:00', '', '', '', '09:30-18:00', '']);
});

test('a day is typed to the minute, and what is wrong is said', () => {
  expect(parseDay(' 09:31-12:00 ,13:00-17:59,')).toEqual({
    spans: [
      { from: 571, to: 720 },
      { from: 780, to: 1079 },
    ] as Span[],
  });
  expect(parseDay('')).toEqual({ spans: [] });
  expect(parseDay('9-5')).toEqual({ wrong: expect.stringContaining('“9-5” is not a time range') });
  expect(parseDay('09:00-12:00, 11:00-13:00')).toEqual({ wrong: 'Two of them overlap.' });
  expect(parseDay('22:00-06:00, 23:00-24:00')).toEqual({ wrong: 'Two of them overlap.' });
});

// Worked by hand: 6 · 9 h, 5 · 8 h, 7 · 8 h, and the whole week.
test.each([
  ['shop', 54],
  ['office', 40],
  ['nights', 56],
  ['always', 168],
])('the template %s is on %d hours a week', (id, schedule) => {
  const { week } = templates.find((t) => t.id === id)!;
  expect(minutesAWeek(makePlan('UTC', { weekly: textOfWeek(week) }))).toBe(schedule * 60);
});

test('a night is drawn on both of its days, on Sunday round to Monday, and the sun where it is', () => {
  const week = weekOfText({ mon: ['09:00-12:00'], sun: ['22:00-06:00'], wed: ['sunset-23:00'] });
  // 2026-06-01 was a Monday. Sunset in Greenwich on 3 June is at about 21:10 British Summer Time (almanac, to the minute; from memory ± 5 min).
  const pieces = piecesOf(week, { zone: 'Europe/London', latitude: 51.48, longitude: 0 }, dayOf('2026-06-01'));
  expect(pieces.slice(0, 3)).toEqual([
    { day: 0, from: 540, to: 720, isFixed: true },
    { day: 6, from: 1320, to: 1440, isFixed: true },
    { day: 0, from: 0, to: 360, isFixed: true },
  ]);
  expect(pieces[3]).toMatchObject({ day: 2, to: 1380, isFixed: false });
  expect(Math.abs(pieces[3]!.from - (21 * 60 + 10))).toBeLessThanOrEqual(5);
});
