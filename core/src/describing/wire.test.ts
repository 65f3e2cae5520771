import { contentIn, refusalIn, wantsCompletionTokens, withoutThoughts } from '.';

test.each([
  ['<think>A dog? No, a fox.</think>A fox at the gate.', 'A fox at the gate.'],
  ['<think>\nfirst\n</think>\n\n{"colour":"red"}', '{"colour":"red"}'],
  ['it began before this\n</think>A fox.', 'A fox.'],
  ['<think>cut off in the middle of a thou', ''],
  ['A fox. <thinking>done</thinking>', 'A fox.'],
  ['I think <b>so</b>.', 'I think <b>so</b>.'],
])('%j without its thoughts', (content, left) => expect(withoutThoughts(content)).toBe(left));

const answer = (content: unknown) => ({ choices: [{ message: { content } }] });
test.each([
  [answer('A fox.'), 'A fox.'],
  [
    answer([
      { type: 'text', text: 'A fox' },
      { type: 'text', text: ' at the gate.' },
    ]),
    'A fox at the gate.',
  ],
  [answer([{ type: 'image_url', image_url: {} }]), undefined],
  [answer(null), undefined],
  [{ choices: 'none' }, undefined],
  [[], undefined],
  [null, undefined],
])('%j holds %j', (given, content) => expect(contentIn(given)).toBe(content));

test.each([
  ['{"error":{"message":"The model m is not here"}}', 'The model m is not here'],
  ['{"error":"no such model"}', 'no such model'],
  ['{"detail":"Not\\n found"}', 'Not found'],
  ['busy', 'busy'],
  ['<html>502</html>', undefined],
  ['{}', undefined],
  ['', undefined],
])('a refusal of %j says %j', (text, said) => expect(refusalIn(text)).toBe(said));

test('a service that wants the newer limit is known by naming it', () => {
  expect(wantsCompletionTokens("Unsupported parameter: 'max_tokens'. Use 'max_completion_tokens' instead.")).toBe(true);
  expect(wantsCompletionTokens(undefined)).toBe(false);
});
