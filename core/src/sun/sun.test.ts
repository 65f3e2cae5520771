import { Body, Observer, SearchRiseSet } from 'astronomy-engine';
import { sunOf } from '.';
import { dayOf } from '../time';

const minutes = (iso: string) => Date.parse(iso) / 60_000;

test.each([
  // Published rising and setting times of almanacs, from memory, hence to two minutes.
  ['Greenwich, June solstice', '2026-06-21', 51.48, 0, '2026-06-21T03:43:00Z', '2026-06-21T20:21:00Z'],
  ['Greenwich, December solstice', '2026-12-21', 51.48, 0, '2026-12-21T08:04:00Z', '2026-12-21T15:53:00Z'],
  ['the equator at an equinox', '2026-03-20', 0, 0, '2026-03-20T06:04:00Z', '2026-03-20T18:11:00Z'],
])('%s', (_name, date, latitude, longitude, rise, set) => {
  const sun = sunOf(dayOf(date), latitude, longitude);
  if (sun.kind !== 'rises') throw new Error(sun.kind);
  expect(Math.abs(sun.sunrise / 60_000 - minutes(rise))).toBeLessThan(2);
  expect(Math.abs(sun.sunset / 60_000 - minutes(set))).toBeLessThan(2);
});

test('within half a minute of the general-purpose library astronomy-engine, all year, at places all round the earth', () => {
  for (const [latitude, longitude] of [
    [52.6, 1.5],
    [-33.9, 151.2],
    [40.7, -74],
    [1.3, 103.8],
    [-41.3, 174.8],
    [61.2, -149.9],
  ] as const) {
    const observer = new Observer(latitude, longitude, 0);
    for (let day = dayOf('2026-01-01'); day < dayOf('2027-01-01'); day += 9) {
      const sun = sunOf(day, latitude, longitude);
      if (sun.kind !== 'rises') throw new Error(`${latitude} ${day}`);
      const midnightThere = new Date(day * 86_400_000 - longitude * 240_000);
      const reference = (direction: 1 | -1) => SearchRiseSet(Body.Sun, observer, direction, midnightThere, 1)!.date.getTime();
      expect(Math.abs(sun.sunrise - reference(1))).toBeLessThan(30_000);
      expect(Math.abs(sun.sunset - reference(-1))).toBeLessThan(30_000);
    }
  }
});

test('where it does not rise, or does not set, that is said', () => {
  // Tromsø, 69.65° N: polar night around December, midnight sun around June.
  expect(sunOf(dayOf('2026-12-21'), 69.65, 18.96)).toEqual({ kind: 'always-down' });
  expect(sunOf(dayOf('2026-06-21'), 69.65, 18.96)).toEqual({ kind: 'always-up' });
  expect(sunOf(dayOf('2026-06-21'), -75, 0)).toEqual({ kind: 'always-down' });
  expect(sunOf(dayOf('2026-03-21'), 69.65, 18.96).kind).toBe('rises');
});
