import { aheadByDate, aheadByEvents, isClockRight, offWords } from '.';

test('two seconds either way are right', () => {
  expect([2000, -2000, 2001, -2001].map(isClockRight)).toEqual([true, true, false, false]);
});

test('how far a clock is off is said as people say it', () => {
  expect([2600, -90_000, 300_000, -8 * 3_600_000].map(offWords)).toEqual(['3 s fast', '90 s slow', '5 min fast', '8 h slow']);
});

test('the Date header of an answer tells of the clock to half a second', () => {
  // The example of RFC 9110, section 6.6.1.
  const at = Date.UTC(1994, 10, 15, 8, 12, 31);
  expect(aheadByDate('Tue, 15 Nov 1994 08:12:31 GMT', at + 400, at + 600)).toBe(0);
  expect(aheadByDate('Tue, 15 Nov 1994 08:12:31 GMT', at - 9600, at - 9400)).toBe(10_000);
  expect(aheadByDate('yesterday', at, at)).toBeUndefined();
  expect(aheadByDate(null, at, at)).toBeUndefined();
});

test('an event from the future tells of a fast clock; a slow way alone does not tell of a slow one', () => {
  expect(aheadByEvents([])).toBeUndefined();
  expect(
    aheadByEvents([
      { at: 1000, arrivedAt: 9000 },
      { at: 2000, arrivedAt: 4000 },
    ]),
  ).toBe(0);
  expect(
    aheadByEvents([
      { at: 1000, arrivedAt: 9000 },
      { at: 9000, arrivedAt: 4000 },
    ]),
  ).toBe(5000);
  expect(aheadByEvents([{ at: 0, arrivedAt: 3_600_000 }])).toBe(-3_600_000);
});
