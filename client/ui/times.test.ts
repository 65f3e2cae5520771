import { ago, clock, duration } from './times';

const at = Date.parse('2026-06-01T21:03:04Z');
const london = 'Europe/London';

test('times are those of the site', () => {
  expect([clock(at, london), clock(at, 'Asia/Kathmandu')]).toEqual(['22:03', '02:48']);
});

test('fresh times are relative, older ones exact', () => {
  expect([10, 240, 4000].map((s) => ago(at, at + s * 1000, london))).toEqual(['just now', '4 min ago', '22:03']);
  expect(ago(at, at + 20 * 3600_000, london)).toBe('Mon 1 Jun, 22:03');
});

test.each([
  [0, 'no minimum interval'],
  [30, '30 s'],
  [90, '1.5 min'],
  [300, '5 min'],
  [3600, '1 h'],
])('%d seconds are %s', (s, words) => expect(duration(s)).toBe(words));
