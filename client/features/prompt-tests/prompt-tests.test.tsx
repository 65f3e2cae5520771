import { promptWords } from './PromptTests';
import { isSame, letter, outcomesOf } from './outcomes';

const result = (promptVersion: string, service: string, seconds: number, holds: boolean[], line: string | null = 'A van.') => ({
  promptVersion,
  service,
  event: 'e',
  at: 0,
  line,
  fields: {},
  problems: [],
  why: null,
  seconds,
  cost: seconds / 10,
  pictures: [],
  before: null,
  holds,
});
const examples = [{ event: 'e', at: 0, cameraName: null, picture: null, checks: [] }];

test('the wording whose checks hold stands first; of two that do as well the quicker; others are left out', () => {
  const results = [
    result('a', 'near', 2, [true, false]),
    result('b', 'near', 3, [true, true]),
    result('b', 'far', 1, [true, true]),
    result('old', 'near', 1, [true, true]),
  ];
  const all = outcomesOf({ examples, results }, ['a', 'b']);
  expect(all.map((o) => `${o.promptVersion} ${o.service}`)).toEqual(['b far', 'b near', 'a near']);
  expect(all[2]).toMatchObject({ held: { holds: 1, of: 2 }, answered: 1, of: 1, medianSeconds: 2, cost: 0.2 });
});

test('without checks it counts what was answered', () => {
  const all = outcomesOf({ examples, results: [result('a', 'near', 1, [], null), result('b', 'near', 2, [])] }, ['a', 'b']);
  expect(all.map((o) => [o.promptVersion, o.held, o.answered])).toEqual([
    ['b', null, 1],
    ['a', null, 0],
  ]);
});

test('wordings have letters, and are the same where what is asked is', () => {
  expect([letter(0), letter(2), letter(27)]).toEqual(['A', 'C', 'B']);
  expect(isSame({ words: 'x' }, { words: 'x' })).toBe(true);
  expect(
    promptWords({
      sentence: false,
      fields: [
        { name: 'colour', kind: 'text' },
        { name: 'plate', kind: 'plate' },
      ],
      language: 'French',
    }),
  ).toBe('colour, plate, in French');
  expect(promptWords({ words: 'Be brief.' })).toBe('a sentence, “Be brief.”');
});
