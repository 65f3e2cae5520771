import { listed } from '.';

// Unicode CLDR, listPattern of en-GB: no comma before the last.
test.each([
  [[], 'or', ''],
  [['person'], 'or', 'person'],
  [['person', 'dog'], 'or', 'person or dog'],
  [['Monday', 'Tuesday', 'Friday'], 'and', 'Monday, Tuesday and Friday'],
] as const)('%j by %s is “%s”', (words, link, sentence) => expect(listed(words, link)).toBe(sentence));

test('of nothing it says what it is told to', () => expect(listed([], 'and', 'nothing')).toBe('nothing'));
