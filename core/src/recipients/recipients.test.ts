import { recipientsOf, type PersonState } from '.';
import { evening, siteWith } from '../testing';
import type { SiteFile } from '../site';

const usual: PersonState = { snoozes: [], unreachable: () => undefined, lastTold: () => undefined };
const event = { at: evening, rule: 'comes-in', camera: 'gate', area: 'yard' };
const told = (state: Partial<PersonState> = {}, change: (f: SiteFile) => void = () => {}) => {
  const { file } = siteWith((f) => {
    f.people = [
      { id: 'ann', name: 'Ann', role: 'owner' },
      { id: 'ben', name: 'Ben', role: 'member', quietHours: 'closed' },
    ];
    f.rules![0]!.tell = [
      { to: 'owner', by: 'push' },
      { to: 'ben', by: 'push' },
      { to: 'ann', by: 'push' },
    ];
    change(f);
  });
  return recipientsOf(file, event, () => ({ ...usual, ...state })).map((t) => [t.person.id, t.stoppedAt, t.why]);
};
const urgent = (f: SiteFile) => (f.rules![0]!.urgent = true);

test('each person is told once, and quiet hours keep one from it', () => {
  expect(told()).toEqual([
    ['ann', null, 'Ann is told by push'],
    ['ben', 'quiet hours', 'Monday 22:00 is in Ben’s quiet hours, Closing time'],
  ]);
});

test('what is urgent passes quiet hours and snoozing', () => {
  expect(told({ snoozes: [{ until: evening + 1 }] }, urgent).map(([, stopped]) => stopped)).toEqual([null, null]);
});

test.each([
  ['everything', {}, 'snooze'],
  ['this rule', { rule: 'comes-in' }, 'snooze'],
  ['another rule', { rule: 'other' }, null],
  ['this area', { area: 'yard' }, 'snooze'],
  ['this camera and another rule', { camera: 'gate', rule: 'other' }, null],
])('snoozing %s', (_name, of, stopped) => {
  expect(told({ snoozes: [{ until: evening + 3_600_000, ...of }] })[0]![1]).toBe(stopped);
  expect(told({ snoozes: [{ until: evening, ...of }] })[0]![1]).toBeNull();
});

test('a snooze says until when', () => {
  expect(told({ snoozes: [{ until: evening + 3_600_000 }] })[0]![2]).toBe('Ann snoozed it until Monday 23:00');
});

test('a channel must reach, and rests', () => {
  expect(told({ unreachable: () => 'No phone is signed up' })[0]).toEqual(['ann', 'channel', 'No phone is signed up']);
  const rests = (f: SiteFile) => (f.channels = { push: { restSeconds: 120 } });
  expect(told({ lastTold: () => evening - 119_000 }, rests)[0]).toEqual(['ann', 'channel', 'Ann was told 2 min before; push rests 2 min']);
  expect(told({ lastTold: () => evening - 120_000 }, rests)[0]![1]).toBeNull();
});
