import { fireEvent, screen, waitFor } from '@testing-library/react-native';
import { answering, draw } from '../../testing/draw';
import type { ServiceState } from '../../state/api/types';
import { ClassPromptsSheet } from './ClassPromptsSheet';
import { OrderSheet } from './OrderSheet';
import { serviceProblems, serviceOf, ServiceSheet } from './ServiceSheet';
import { promptWords, recentWords, moneyWords, todayWords } from './words';

const empty = {
  name: 'Near',
  url: 'https://near.example/v1/',
  model: 'm',
  key: '',
  headers: '',
  seconds: '',
  atOnce: '',
  priceIn: '',
  priceOut: '',
  currency: '',
  answers: '',
  money: '',
};
const spent = { answers: 3, failed: 1, cost: 0.42 };
const state = (id: string, more: object = {}): ServiceState =>
  ({
    service: { id, name: id.toUpperCase(), url: 'https://x.example', model: 'm', ...more },
    isNamedAtStart: false,
    hasKey: false,
    resting: null,
    recentFrames: { sent: 0, failed: 0, medianSeconds: null, worstSeconds: null },
    today: spent,
    days: [],
    last: [],
  }) as ServiceState;

test('what was filled in is a service; what is empty is left out', () => {
  expect(serviceOf(empty)).toEqual({ name: 'Near', url: 'https://near.example/v1', model: 'm' });
  expect(serviceOf({ ...empty, seconds: '12,5', headers: 'X-A: b', priceIn: '0.2', currency: 'eur', answers: '40' })).toEqual({
    name: 'Near',
    url: 'https://near.example/v1',
    model: 'm',
    seconds: 12.5,
    headers: { 'X-A': 'b' },
    price: { in: 0.2, out: 0, currency: 'EUR' },
    aDay: { answers: 40 },
  });
});

test.each([
  [{}, []],
  [{ name: ' ', url: 'near', seconds: '0' }, ['name', 'url', 'seconds']],
  [{ atOnce: '2.5', answers: 'many' }, ['atOnce', 'answers']],
  [{ priceIn: '1' }, ['currency']],
  [{ money: '2' }, ['money']],
])('what is wrong with %j is said at its field', (change, wrong) => {
  expect(Object.keys(serviceProblems({ ...empty, ...change })).sort()).toEqual([...wrong].sort());
});

test('figures in words', () => {
  expect(moneyWords(0.0123, 'EUR')).toBe('€0.0123');
  expect(moneyWords(1.5, null)).toBe('1.50');
  expect(recentWords({ sent: 4, failed: 1, medianSeconds: 2.13, worstSeconds: 12 })).toBe(
    'Used 4 times in the last 24 hours, 1 failed; typical answer 2.1 s, slowest 12 s.',
  );
  expect(todayWords(state('a', { price: { in: 1, out: 1, currency: 'EUR' }, aDay: { answers: 9, money: 2 } }))).toBe(
    'Today 3 answers, €0.42, of 9 answers and €2.00.',
  );
});

test('a service is tried by what is filled in, each part said; what does not hold is shown as such', async () => {
  const parts = [
    { part: 'reach', holds: true, said: 'Reachable.' },
    { part: 'sign-in', holds: false, said: 'It answered 401: the key is not taken.' },
    { part: 'model', holds: null, said: '' },
  ];
  const sent = answering({ 'POST /api/ai-services/try': { body: { parts, seconds: 0.4, cost: null } } });
  await draw(<ServiceSheet of={undefined} hasKey={false} version={3} close={() => {}} />).drawn;
  for (const [id, text] of [
    ['name', 'Near'],
    ['url', 'https://near.example/v1'],
    ['model', 'm'],
    ['key', 'k'],
  ] as const)
    await fireEvent.changeText(screen.getByTestId(`service-${id}`), text);
  await waitFor(() => expect(screen.getByTestId('service-try')).toBeEnabled());
  await fireEvent.press(screen.getByTestId('service-try'));
  await screen.findByText('Login: It answered 401: the key is not taken.');
  expect(screen.queryByText(/^Model: /)).toBeNull();
  expect(sent.map((s) => s.body)).toEqual([{ service: { name: 'Near', url: 'https://near.example/v1', model: 'm' }, key: 'k' }]);
});

test('services are put in order, or left out, for a use', async () => {
  const sent = answering({ 'PUT /api/ai-services/order': { body: { version: 4 } } });
  await draw(
    <OrderSheet use="questions" services={[state('a'), state('b'), state('c')]} order={['a', 'b', 'c']} version={3} close={() => {}} />,
  ).drawn;
  await fireEvent.press(screen.getByTestId('order-b-up'));
  await fireEvent.press(screen.getByTestId('order-c'));
  await fireEvent.press(screen.getByTestId('order-save'));
  await waitFor(() => expect(sent.map((s) => s.body)).toEqual([{ use: 'questions', services: ['b', 'a'] }]));
});

test('what is asked of every vehicle is said once, and given up again', async () => {
  const sent = answering({ 'PUT /api/ai-services/prompts': { body: { version: 4 } } });
  const prompt = { sentence: false, fields: [{ name: 'colour', kind: 'text' as const }] };
  await draw(<ClassPromptsSheet of="vehicle" prompt={prompt} version={3} close={() => {}} />).drawn;
  await fireEvent.changeText(screen.getByTestId('prompt-fields'), 'colour\nplate');
  await fireEvent.press(screen.getByTestId('class-prompt-save'));
  await waitFor(() => expect(screen.getByTestId('class-prompt-save')).toBeEnabled());
  await fireEvent.changeText(screen.getByTestId('prompt-fields'), '');
  await fireEvent.press(screen.getByTestId('class-prompt-save'));
  await waitFor(() => expect(sent).toHaveLength(2));
  expect(sent.map((s) => s.body)).toEqual([
    { class: 'vehicle', prompt: { sentence: false, fields: [...prompt.fields, { name: 'plate', kind: 'plate' }] } },
    { class: 'vehicle', prompt: null },
  ]);
  expect(promptWords(prompt)).toBe('colour');
  expect(promptWords({ fields: prompt.fields })).toBe('a sentence; colour');
  expect(promptWords({})).toBe('a sentence');
});
