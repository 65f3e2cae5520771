import { act, fireEvent, screen, waitFor } from '@testing-library/react-native';
import { answering, draw, rule, site, yard } from '../../testing/draw';
import { serverTime } from '../../state/live';
import { Armed } from './Armed';
import { NeedsAttention } from './NeedsAttention';

const inMode = (mode: string) => ({ ...site, areaModes: [{ ...site.areaModes[0]!, mode }] });
const area = site.areas[0]!;

test.each([
  ['a mode in which a rule is on names it', inMode('closed'), [rule], '“Someone comes in” is active.'],
  ['a mode without a rule says that nobody is told', inMode('open'), [rule], 'No rule is active in this mode. No alerts are sent.'],
  [
    'an armed mode without a rule warns',
    inMode('closed'),
    [{ ...rule, modes: ['open'] }],
    'Armed, but no rule is active in this mode. No alerts will be sent.',
  ],
  [
    'a rule that is off does not count',
    inMode('closed'),
    [{ ...rule, on: false }],
    'Armed, but no rule is active in this mode. No alerts will be sent.',
  ],
  [
    'a rule whose hours are not now is said to wait',
    inMode('closed'),
    [{ ...rule, schedule: 'opening' }],
    '“Someone comes in” is active in this mode, but not at this time.',
  ],
  ['two rules are two', inMode('closed'), [rule, { ...rule, id: 'b', name: 'A car' }], '“Someone comes in”, “A car” are active.'],
])('%s', async (_name, here, rules, words) => {
  await draw(<Armed area={area} site={here} rules={rules} cameras={[yard]} />).drawn;
  expect(screen.getByText(words)).toBeTruthy();
});

test('a touch sets the mode; what the server refuses is said', async () => {
  const sent = answering({
    'PUT /api/areas/mode': {
      status: 403,
      body: { error: { code: 'not-allowed', message: 'This is not yours to set.', hint: 'Ask the owner.', problems: [] } },
    },
  });
  await draw(<Armed area={area} site={inMode('closed')} rules={[rule]} cameras={[yard]} />).drawn;
  await fireEvent.press(screen.getByTestId('mode-open'));
  await waitFor(() => expect(screen.getByText('This is not yours to set. Ask the owner.')).toBeTruthy());
  expect(sent.filter((s) => s.method === 'PUT')).toEqual([
    { method: 'PUT', path: '/api/areas/mode', body: { areas: ['landing'], mode: 'open' } },
  ]);
});

const modesAnswer = {
  modes: site.modes,
  warnings: [],
  planned: [{ area: 'landing', mode: 'open', at: Date.now() + 86_400_000 }],
  modeSchedules: [],
  version: 1,
  now: Date.now(),
};

test('before a mode is armed it says what it will do and what is in the way; it can be left, or armed anyway', async () => {
  const inTheWay = ['Yard gives no pictures. No picture for 5 s.'];
  const sent = answering({
    'GET /api/modes': { body: modesAnswer },
    'GET /api/modes/closed/arming': { body: { rules: [{ id: 'comes-in', name: 'Someone comes in' }], inTheWay } },
    'PUT /api/areas/mode': { body: [] },
  });
  await draw(<Armed area={area} site={inMode('open')} rules={[rule]} cameras={[yard]} />).drawn;
  await fireEvent.press(screen.getByTestId('mode-closed'));
  await screen.findByText('Someone comes in');
  expect(screen.getByText(inTheWay[0]!)).toBeTruthy();
  await fireEvent.press(screen.getByTestId('arm-cancel'));
  expect(sent.some((s) => s.method === 'PUT')).toBe(false);
  await fireEvent.press(screen.getByTestId('mode-closed'));
  await screen.findByText('Arm anyway');
  await fireEvent.press(screen.getByTestId('arm'));
  await waitFor(() => expect(sent.find((s) => s.method === 'PUT')?.body).toEqual({ areas: ['landing'], mode: 'closed' }));
});

test('a command says until when it holds', async () => {
  answering({ 'GET /api/modes': { body: modesAnswer } });
  await draw(<Armed area={area} site={inMode('closed')} rules={[rule]} cameras={[yard]} />).drawn;
  await screen.findByText(/^Until .*, then Open\.$/);
});

test('what does not work is said with what it means', async () => {
  answering({ 'GET /api/phones': { body: [] } });
  const silent = { ...yard, health: { ...yard.health!, state: 'silent' as const, problem: 'No picture for 5 s.' } };
  const { store, drawn } = draw(<NeedsAttention cameras={[silent]} rules={[rule]} />);
  await drawn;
  const problems = [
    { severity: 'outage' as const, text: 'The detector stopped.' },
    { severity: 'degraded' as const, text: 'Tess cannot be reached: no phone' },
    { severity: 'notice' as const, text: 'The clock is 3 s ahead.' },
  ];
  act(() => void store.dispatch(serverTime({ now: Date.now(), problems })));
  await waitFor(() => expect(screen.getByText(/No phone is registered, so alerts reach no one/)).toBeTruthy());
  expect(screen.getByText('Yard is silent. No picture for 5 s. It cannot send alerts; Nibber keeps trying to reconnect.')).toBeTruthy();
  expect(screen.getByText('The detector stopped. No alerts can be sent until this is fixed.')).toBeTruthy();
  expect(screen.getByText('Tess cannot be reached: no phone. Some alerts may be late or missing.')).toBeTruthy();
  expect(screen.getByText('The clock is 3 s ahead. Alerts are not affected.')).toBeTruthy();
});

test('where all is well nothing asks for attention', async () => {
  answering({ 'GET /api/phones': { body: [{ id: 'p', label: 'x', person: 'Rowan', createdAt: 0 }] } });
  await draw(<NeedsAttention cameras={[yard]} rules={[rule]} />).drawn;
  expect(screen.queryByRole('alert', { hidden: true })).toBeNull();
});
