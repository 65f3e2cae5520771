import { act, fireEvent, screen, waitFor } from '@testing-library/react-native';
import type { Query } from '@nibber/core/asking';
import { answering, draw, site } from '../../testing/draw';
import { Ask, leftWords } from './Ask';

jest.mock('expo-router', () => ({ useRouter: () => ({ navigate: jest.fn(), setParams: jest.fn() }), useLocalSearchParams: () => ({}) }));

const query: Query = {
  wanted: 'whether',
  kinds: ['dog'],
  cameras: ['yard'],
  areas: [],
  rules: [],
  sensors: [],
  span: { from: 1, to: null, words: 'since Sunday' },
  words: ['red'],
};
const answer = {
  query,
  answer: 'No: no dog was seen.',
  count: 0,
  since: null,
  cameras: ['Yard'],
  items: [],
  readings: [],
  by: null,
  sentence: null,
  why: null,
};
const given = {
  'POST /api/ask': { body: answer },
  'GET /api/site': { body: site },
  'GET /api/cameras': { body: [] },
  'GET /api/rules': { body: [] },
};

test('a question is answered, each part that was understood can be taken away, and the next follows on', async () => {
  const sent = answering(given);
  await draw(<Ask />).drawn;
  await act(async () => fireEvent.changeText(screen.getByTestId('ask-question'), '  was the dog there?  '));
  await fireEvent.press(screen.getByTestId('ask'));
  expect(await screen.findByText('No: no dog was seen.')).toBeTruthy();
  const asked = () => sent.filter((s) => s.path === '/api/ask').map((s) => s.body);
  expect(asked()).toEqual([{ question: 'was the dog there?' }]);
  expect(screen.getByText('since Sunday')).toBeTruthy();
  await fireEvent.press(screen.getByLabelText('Without since Sunday'));
  await waitFor(() => expect(asked()).toHaveLength(2));
  await fireEvent.press(await screen.findByLabelText('Without “red”'));
  await waitFor(() => expect(asked()).toHaveLength(3));
  await act(async () => fireEvent.changeText(screen.getByTestId('ask-question'), 'and a cat?'));
  await fireEvent.press(screen.getByTestId('ask'));
  await waitFor(() => expect(asked()).toHaveLength(4));
  expect(asked()).toMatchObject([
    {},
    { query: { ...query, span: null } },
    { query: { words: [], kinds: ['dog'] } },
    { question: 'and a cat?', before: query },
  ]);
});

test('nothing is asked of an empty question', async () => {
  const sent = answering(given);
  await draw(<Ask />).drawn;
  await act(async () => fireEvent.changeText(screen.getByTestId('ask-question'), '   '));
  await fireEvent.press(screen.getByTestId('ask'));
  expect(sent.some((s) => s.path === '/api/ask')).toBe(false);
});

test('what of a question left the machine is said', () => {
  const none = { by: null, sentence: null, why: null, items: [] };
  expect(leftWords(none)).toBe('Nothing was sent to an AI service.');
  expect(leftWords({ ...none, by: 'Near' })).toBe('The text of the question went to Near. No picture was sent.');
  expect(leftWords({ ...none, by: 'Near', sentence: 'It was.', items: [1, 2] as never })).toBe(
    'The text of the question and the 2 events below, as text, went to Near. No picture was sent.',
  );
  expect(leftWords({ ...none, by: 'Near', why: 'It answered 500.' })).toBe(
    'The text of the question went to Near, which could not help: It answered 500. Nibber interpreted the question itself.',
  );
});

test('what was read is shown with its pictures', async () => {
  const read = {
    id: 'r1',
    reading: 'canoes',
    name: 'Canoes',
    at: Date.parse('2026-06-03T19:00:00Z'),
    says: '11 canoes',
    picture: '/pictures/a.jpg',
  };
  const notified = {
    ...answer,
    answer: 'Canoes: 11 canoes, read today at 20:00.',
    count: 2,
    readings: [read],
    query: { ...query, kinds: [], words: [], readings: ['canoes'] },
  };
  const sent = answering({ ...given, 'POST /api/ask': { body: notified } });
  await draw(<Ask />).drawn;
  await act(async () => fireEvent.changeText(screen.getByTestId('ask-question'), 'how many canoes?'));
  await fireEvent.press(screen.getByTestId('ask'));
  expect(await screen.findByText('Canoes: 11 canoes')).toBeTruthy();
  expect(screen.getByText('The newest 1 of 2')).toBeTruthy();
  await fireEvent.press(await screen.findByLabelText('Without canoes'));
  await waitFor(() => expect(sent.filter((s) => s.path === '/api/ask')).toHaveLength(2));
  expect(sent.filter((s) => s.path === '/api/ask')[1]!.body).toMatchObject({ query: { readings: [] } });
});
