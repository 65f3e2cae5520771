import { fireEvent, screen, waitFor } from '@testing-library/react-native';
import { answering, draw, site } from '../../testing/draw';
import { People } from '../site/pages/People';
import { MyAlerts } from '../me/MyAlerts';
import { NotifyPart } from '../rules/parts/Notify';
import { alertWords } from '../event/Sent';
import { accessWords } from './words';

const someone = (id: string, name: string, role: string, more: object = {}) => ({
  person: { id, name, role, ...more },
  sessions: 1,
  lastSeenAt: null,
  phones: [],
  hasAccount: true,
});
const session = { visitor: { name: 'Rowan', role: 'owner', person: 'rowan' }, isNew: false, siteName: 'Withy Landing' };

test('people are listed with what they see; an invitation says what it is for, and shows its code once it is made', async () => {
  const sent = answering({
    'GET /api/session': { body: session },
    'GET /api/people': {
      body: {
        people: [
          someone('rowan', 'Rowan', 'owner'),
          someone('gil', 'Gil', 'guest', { until: '2026-12-24', access: { cameras: ['yard'] } }),
        ],
        version: 4,
      },
    },
    'GET /api/invitations': { body: [] },
    'GET /api/cameras': { body: [] },
    'POST /api/invitations': { body: { id: 'i1', link: 'https://place.example/join#abc', expiresAt: 1_780_000_000_000 } },
  });
  await draw(<People site={site} />).drawn;
  await screen.findByText('Gil, guest');
  expect(screen.getByText(/Access to yard\s+Until 2026-12-24/)).toBeTruthy();
  await fireEvent.press(screen.getByTestId('invite'));
  await fireEvent.changeText(screen.getByTestId('invite-name'), 'Juno');
  await fireEvent.press(screen.getByTestId('invite-guest'));
  // A guest sees something, until a day: it cannot be made before that is said.
  expect(screen.getByTestId('invite-make')).toBeDisabled();
  await fireEvent.press(screen.getByTestId('invite-member'));
  await fireEvent.press(screen.getByTestId('invite-make'));
  await waitFor(() => expect(screen.getByTestId('invite-link')).toBeTruthy());
  expect(sent.find((s) => s.body && 'days' in (s.body as object))!.body).toEqual({ name: 'Juno', role: 'member', days: 3 });
});

test('what keeps alerts from their stands first, and what they take is theirs to set', async () => {
  const me = {
    person: { id: 'tess', name: 'Tess', role: 'member', alertPreferences: { 'comes-in': 'summary' } },
    quietHours: null,
    rules: [{ id: 'comes-in', name: 'Someone comes in', by: 'push', urgent: false }],
    snoozes: [{ id: 's1', rule: null, camera: 'yard', area: null, until: null, words: 'Yard, until the mode changes' }],
    channels: [
      { name: 'push', reaches: false, why: 'No registered phone' },
      { name: 'mail', reaches: true, why: null },
      { name: 'text', reaches: false, why: 'No gateway for text messages is set up' },
    ],
    defaultSummary: '07:30',
    now: 1_780_000_000_000,
  };
  const sent = answering({
    'GET /api/session': { body: session },
    'GET /api/me': { body: me },
    'PUT /api/me': { body: me },
    'DELETE /api/me/snoozes/s1': { body: { id: 's1' } },
  });
  await draw(<MyAlerts site={site} />).drawn;
  await screen.findByText('Yard, until the mode changes');
  expect(screen.getByText('1. Notification, not yet: no registered phone')).toBeTruthy();
  expect(screen.getByText('In the morning summary')).toBeTruthy();
  await fireEvent.press(screen.getByTestId('up-mail'));
  await waitFor(() => expect(sent.map((s) => s.body)).toContainEqual({ channels: ['mail', 'push', 'text'] }));
  await fireEvent.press(screen.getByTestId('lock-something'));
  await waitFor(() => expect(sent.map((s) => s.body)).toContainEqual({ lockScreen: 'something' }));
});

test('a rule tells people by one way or several, and programs by their own', async () => {
  const receivers = [{ id: 'board', name: 'House board', by: 'webhook' as const }];
  type Props = Parameters<typeof NotifyPart>[0];
  const notify: Props['notify'] = [{ to: 'owner', channel: 'push' }];
  const changed: unknown[] = [];
  await draw(<NotifyPart notify={notify} site={{ ...site, receivers }} change={(next) => changed.push(next)} />).drawn;
  await fireEvent.press(screen.getByTestId('notify-by-mail'));
  await fireEvent.press(screen.getByTestId('notify-board'));
  // The last way is not taken away.
  await fireEvent.press(screen.getByTestId('notify-by-push'));
  expect(changed).toEqual([
    [
      { to: 'owner', channel: 'push' },
      { to: 'owner', channel: 'mail' },
    ],
    [
      { to: 'owner', channel: 'push' },
      { to: 'board', channel: 'webhook' },
    ],
  ]);
});

test.each([
  ['sent', 'Sent to Tess by push notification, Monday 1 June, 22:00:01.'],
  ['suppressed', 'Not sent to Tess: because.'],
  ['rerouted', 'because'],
  ['combined', 'Sent to Tess in a combined alert.'],
  ['undeliverable', 'Could not be delivered to Tess. because.'],
] as const)('an alert that was %s is said as one would', (state, words) => {
  const alert = {
    id: 'a',
    person: 'Tess',
    channel: 'push' as const,
    state,
    why: 'because',
    sentAt: Date.parse('2026-06-01T21:00:01Z'),
    viewedAt: null,
  };
  expect(alertWords(alert, 'Europe/London')).toBe(words);
});

test('what someone sees is said by name', () => {
  const cameras = [{ id: 'porch', name: 'Porch' }];
  expect([undefined, {}, { areas: ['landing'], cameras: ['porch'] }].map((s) => accessWords(s, site, cameras))).toEqual([
    'Everything',
    'Nothing yet',
    'Landing and Porch',
  ]);
});
