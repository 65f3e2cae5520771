import { clockDays, makePlan } from '.';
import { dateText } from '../time';

const at = (iso: string) => Date.parse(iso);
const notified = (zone: string, weekly: object, from: string) =>
  clockDays(makePlan(zone, { weekly }), at(from)).map((c) => [dateText(c.day), c.step, c.defaultMinutes, c.onMinutes]);

// IANA zone data, 2026 and 2027: Europe/London changes at 01:00Z on the last Sundays of March and October, by an hour.
test('hours that the clocks leave out are not on, and those that they repeat are on twice', () => {
  expect(notified('Europe/London', { sun: ['01:00-03:00'] }, '2026-11-01T00:00Z')).toEqual([
    ['2027-03-28', 60, 120, 60],
    ['2027-10-31', -60, 120, 180],
  ]);
  expect(notified('Europe/London', { sun: ['09:30-18:00'] }, '2026-11-01T00:00Z')).toEqual([
    ['2027-03-28', 60, 510, 510],
    ['2027-10-31', -60, 510, 510],
  ]);
});

// IANA zone data: Lord Howe changes by half an hour at 02:00 of its wall; Kathmandu does not change.
test('clocks change by as much as they do there', () => {
  expect(notified('Australia/Lord_Howe', { sun: ['00:00-24:00'] }, '2026-03-01T00:00Z')).toEqual([
    ['2026-04-05', -30, 1440, 1470],
    ['2026-10-04', 30, 1440, 1410],
  ]);
  expect(notified('Asia/Kathmandu', { sun: ['00:00-24:00'] }, '2026-03-01T00:00Z')).toEqual([]);
});

test('a night that begins on the day before counts from midnight on', () => {
  expect(notified('Europe/London', { sat: ['22:00-06:00'] }, '2026-11-01T00:00Z').map((c) => c.slice(2))).toEqual([
    [360, 300],
    [360, 420],
  ]);
});
