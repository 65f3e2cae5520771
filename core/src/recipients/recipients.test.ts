import { recipientsOf, type RecipientState } from '.';
import { evening, siteWith } from '../testing';
import type { SiteFile } from '../site';

const usual: RecipientState = { snoozes: [], unreachable: () => undefined, lastNotified: () => undefined };
const event = { at: evening, rule: 'comes-in', camera: 'gate', area: 'yard' };
const notified = (state: Partial<RecipientState> = {}, change: (f: SiteFile) => void = () => {}) => {
  const { file } = siteWith((f) => {
    f.people = [
      { id: 'ann', name: 'Ann', role: 'owner' },
      { id: 'ben', name: 'Ben', role: 'member', quietHours: 'closed' },
    ];
    f.rules![0]!.notify = [
      { to: 'owner', channel: 'push' },
      { to: 'ben', channel: 'push' },
      { to: 'ann', channel: 'push' },
    ];
    change(f);
  });
  return recipientsOf(file, event, () => ({ ...usual, ...state })).map((t) => [t.to, t.stoppedAt, t.why]);
};
const urgent = (f: SiteFile) => (f.rules![0]!.urgent = true);

test('each person is told once, and quiet hours keep one from it', () => {
  expect(notified()).toEqual([
    ['ann', null, 'Ann is notified by push notification'],
    ['ben', 'quiet hours', 'Monday 22:00 is in Ben’s quiet hours, Closing time'],
  ]);
});

test('what is urgent passes quiet hours and snoozing', () => {
  expect(notified({ snoozes: [{ until: evening + 1 }] }, urgent).map(([, stopped]) => stopped)).toEqual([null, null]);
});

test.each([
  ['everything', {}, 'snooze'],
  ['this rule', { rule: 'comes-in' }, 'snooze'],
  ['another rule', { rule: 'other' }, null],
  ['this area', { area: 'yard' }, 'snooze'],
  ['this camera and another rule', { camera: 'gate', rule: 'other' }, null],
])('snoozing %s', (_name, of, stopped) => {
  expect(notified({ snoozes: [{ until: evening + 3_600_000, ...of }] })[0]![1]).toBe(stopped);
  expect(notified({ snoozes: [{ until: evening, ...of }] })[0]![1]).toBeNull();
});

test('a snooze says until when', () => {
  expect(notified({ snoozes: [{ until: evening + 3_600_000 }] })[0]![2]).toBe('Ann snoozed it until Monday 23:00');
});

test('a channel must reach, and rests', () => {
  expect(notified({ unreachable: () => 'No registered phone' })[0]).toEqual(['ann', 'channel', 'No registered phone']);
  const rests = (f: SiteFile) => (f.channels = { push: { cooldownSeconds: 120 } });
  expect(notified({ lastNotified: () => evening - 119_000 }, rests)[0]).toEqual([
    'ann',
    'channel',
    'Ann was notified 2 min earlier; alerts by push notification are at least 2 min apart',
  ]);
  expect(notified({ lastNotified: () => evening - 120_000 }, rests)[0]![1]).toBeNull();
});

const benOnly = (f: SiteFile) => {
  f.rules![0]!.notify = [{ to: 'ben', channel: 'push' }];
  f.people = [{ id: 'ben', name: 'Ben', role: 'member' }];
};
const noPhone = (channel: string) => (channel === 'push' ? 'No phone of Ben is signed up' : undefined);

test('a channel that does not reach someone hands over to the next of theirs, and says so', () => {
  expect(notified({ unreachable: noPhone }, benOnly)).toEqual([
    ['ben', null, 'Ben is notified by e-mail, as no phone of Ben is signed up'],
  ]);
  const order = (f: SiteFile) => {
    benOnly(f);
    f.people![0]!.channels = ['push', 'text', 'mail'];
  };
  expect(notified({ unreachable: noPhone }, order)[0]![2]).toMatch(/^Ben is notified by text message/);
  expect(notified({ unreachable: () => 'Nothing is set up' }, order)).toEqual([['ben', 'channel', 'Nothing is set up']]);
  // One that reaches them and rests has told them already.
  const rests = (f: SiteFile) => {
    order(f);
    f.channels = { push: { cooldownSeconds: 120 } };
  };
  expect(notified({ lastNotified: () => evening - 1000 }, rests)).toEqual([
    ['ben', 'channel', 'Ben was notified 1 s earlier; alerts by push notification are at least 2 min apart'],
  ]);
});

test.each([
  ['mail', { alertPreferences: { 'comes-in': 'mail' } }, null, 'Ben is notified by e-mail', false],
  ['the summary', { alertPreferences: { 'comes-in': 'summary' } }, 'summary', 'Ben gets it in the summary at 07:30', true],
  [
    'the summary at another time',
    { alertPreferences: { 'comes-in': 'summary' }, summary: { at: '08:15' } },
    'summary',
    'Ben gets it in the summary at 08:15',
    true,
  ],
  ['nothing of it', { alertPreferences: { 'comes-in': 'nothing' } }, 'summary', 'Ben has turned off Someone comes in', false],
  [
    'quiet hours that are summed up',
    { quietHours: 'closed', summary: { at: '08:00', quietHours: true } },
    'quiet hours',
    'Monday 22:00 is in Ben’s quiet hours, Closing time',
    true,
  ],
  [
    'quiet hours that are not',
    { quietHours: 'closed', summary: { at: '08:00' } },
    'quiet hours',
    'Monday 22:00 is in Ben’s quiet hours, Closing time',
    false,
  ],
] as const)('someone takes a rule by %s', (_name, more, stoppedAt, why, inSummary) => {
  const set = (f: SiteFile) => {
    benOnly(f);
    Object.assign(f.people![0]!, more);
  };
  const { file } = siteWith(set);
  const [one, ...rest] = recipientsOf(file, event, () => usual);
  expect([one!.stoppedAt, one!.why, one!.inSummary, rest]).toEqual([stoppedAt, why, inSummary, []]);
  const { file: pressing } = siteWith((f) => {
    set(f);
    urgent(f);
  });
  expect(recipientsOf(pressing, event, () => usual)[0]!.stoppedAt).toBeNull();
});

test.each<[string, object, boolean]>([
  ['the area', { access: { areas: ['yard'] } }, true],
  ['the camera', { access: { cameras: ['gate'] } }, true],
  ['another camera', { access: { cameras: ['side'] } }, false],
  ['nothing', { access: {} }, false],
  ['all of it, until yesterday', { until: '2026-05-31' }, false],
  ['all of it, until today', { until: '2026-06-01' }, true],
])('whoever sees %s is told: %s', (_name, more, isNotified) => {
  const set = (f: SiteFile) => {
    benOnly(f);
    Object.assign(f.people![0]!, more);
    urgent(f);
  };
  const [one] = notified({}, set);
  expect(one![1]).toBe(isNotified ? null : 'sight');
});

test('a snooze until the mode changes holds whatever the time is', () => {
  expect(notified({ snoozes: [{ until: null, area: 'yard' }] })[0]).toEqual(['ann', 'snooze', 'Ann snoozed it until the mode changes']);
});

test('another program is told by its own channel, once, and has no quiet hours', () => {
  const set = (f: SiteFile) => {
    f.receivers = [{ id: 'board', name: 'House board', by: 'webhook', url: 'https://board.example/in' }];
    f.rules![0]!.notify = [
      { to: 'board', channel: 'webhook' },
      { to: 'board', channel: 'webhook' },
    ];
  };
  expect(notified({}, set)).toEqual([['board', null, 'House board is notified by webhook']]);
  expect(notified({ snoozes: [{ until: evening + 1 }] }, set)[0]![1]).toBeNull();
});
