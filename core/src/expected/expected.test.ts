import { answerHolds, checkOfLine, checksOfLines, lineOfCheck } from '.';

test.each([
  ['contains white', { kind: 'contains', words: 'white' }],
  ['Never  a dog', { kind: 'never', words: 'a dog' }],
  ['plate = XK21?', { kind: 'equals', field: 'plate', value: 'XK21?' }],
  ['people 1 to 3', { kind: 'within', field: 'people', min: 1, max: 3 }],
  ['people 0,5..1', { kind: 'within', field: 'people', min: 0.5, max: 1 }],
  ['people 3 to 1', undefined],
  ['white', undefined],
  ['', undefined],
])('a check as it is written: %j', (line, check) => {
  expect(checkOfLine(line)).toEqual(check);
  if (check) expect(checkOfLine(lineOfCheck(checkOfLine(line)!))).toEqual(check);
});

test('the first line that is no check is named; the others count', () => {
  expect(checksOfLines('contains red\n\nwhat\nnever blue')).toMatchObject({
    checks: [{ words: 'red' }, { words: 'blue' }],
    wrong: expect.stringMatching(/^what: /),
  });
});

test.each([
  ['contains WHITE', true],
  ['contains red', false],
  ['never red', true],
  ['never van', false],
  ['plate = XK21ABC', true],
  ['plate = zz', false],
  ['Colour = white', true],
  ['ladder = yes', true],
  ['people 1 to 3', true],
  ['people 3 to 5', false],
  ['kind = van', false],
])('%s: %s', (line, holds) => {
  const fields = { colour: 'white', plate: '?K21ABC', ladder: true, people: 2 };
  expect(answerHolds(checkOfLine(line)!, 'A white van.', fields)).toBe(holds);
});

test('of an answer that never came nothing holds but what it never says', () => {
  expect(answerHolds(checkOfLine('contains a')!, null, {})).toBe(false);
  expect(answerHolds(checkOfLine('never a')!, null, {})).toBe(true);
});
