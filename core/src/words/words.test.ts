import { bytesText, durationText, idOf, listed, numberText } from '.';

// Unicode CLDR, listPattern of en-GB: no comma before the last.
test.each([
  [[], 'or', ''],
  [['person'], 'or', 'person'],
  [['person', 'dog'], 'or', 'person or dog'],
  [['Monday', 'Tuesday', 'Friday'], 'and', 'Monday, Tuesday and Friday'],
] as const)('%j by %s is “%s”', (words, link, sentence) => expect(listed(words, link)).toBe(sentence));

test('of nothing it says what it is told to', () => expect(listed([], 'and', 'nothing')).toBe('nothing'));

test.each([
  ['Gîte, north', [], 'gite-north'],
  ['Opening hours', ['opening-hours', 'opening-hours-2'], 'opening-hours-3'],
  ['···', [], 'plan'],
  ['A name that is much longer than an id of this site may ever be', [], 'a-name-that-is-much-longer-than-an-i'],
])('%s is known as an id', (name, taken, id) => expect(idOf(name, taken, 'plan')).toBe(id));

test.each([
  [0.934, 2, '0.93'],
  [12.05, 1, '12.1'],
  [1234.5, 2, '1,234.50'],
  [7, 0, '7'],
])('%d with %d places is %s', (value, places, words) => expect(numberText(value, places)).toBe(words));

test.each([
  [0, '0 s'],
  [6.68, '6.7 s'],
  [60, '1 min'],
  [75, '75 s'],
  [90, '1.5 min'],
  [3600, '1 h'],
  [4500, '75 min'],
  [9000, '2.5 h'],
])('%d seconds are %s', (seconds, words) => expect(durationText(seconds)).toBe(words));

test.each([
  [0, '0 bytes'],
  [999, '999 bytes'],
  [1000, '1.0 kB'],
  [1_234_567, '1.2 MB'],
  [34_500_000_000, '35 GB'],
  [2e16, '20,000 TB'],
])('%d bytes are said as %s', (bytes, words) => expect(bytesText(bytes)).toBe(words));
