import { searchPrompt, searchQuestion, queryIn, answerSchema, readAnswer, answerQuestion } from '@nibber/core/describing';
import { searchFor, tellOf } from './searching';

const place = {
  zone: 'Europe/London',
  cameras: [
    { id: 'gate', name: 'Lane gate' },
    { id: 'jetty', name: 'Jetty' },
  ],
  areas: [],
  rules: [],
  sensors: [],
};
const now = Date.parse('2026-06-03T19:40:00Z');
const asked = (question: string) => {
  const prompt = searchPrompt(place);
  const { properties } = answerSchema(prompt) as { properties: Parameters<typeof searchFor>[1] };
  return queryIn(readAnswer(prompt, JSON.stringify(searchFor(searchQuestion(question, place, now, undefined), properties))).fields, place);
};

test.each([
  ['when was the dog last at the jetty?', { wanted: 'last', kinds: ['dog'], cameras: ['jetty'], span: null }],
  [
    'How many vehicles came through the gate yesterday?',
    { wanted: 'count', kinds: ['vehicle'], cameras: ['gate'], span: { from: Date.parse('2026-06-01T23:00:00Z') } },
  ],
  ['was anybody there today?', { wanted: 'whether', kinds: ['person'], cameras: [] }],
])('%s is a search', (question, query) => expect(asked(question)).toMatchObject(query));

test('rows are told again; what is no question to a record is none', () => {
  const lines = [{ at: now, camera: 'Jetty', what: 'dog', description: null }];
  expect(tellOf(answerQuestion('when?', 'x', lines, place.zone))).toBe(
    'One row: the first of them is a dog at Jetty, Wednesday 2026-06-03 20:40.',
  );
  expect([searchFor('A van.', {}), tellOf('A van.')]).toEqual([undefined, undefined]);
});
