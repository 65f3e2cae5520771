import { siteWith } from '../testing';
import type { Rule, SiteFile } from '../site';
import type { Found, GateName } from './gates';
import { stepOf, whyOf } from './words';

const at = Date.parse('2026-06-01T21:03:00Z');

function said(gate: GateName, found: Found, change: Change) {
  const site = siteWith((f) => change(f.rules![0]!, f));
  const rule = site.cameras.get('gate')!.rules[0]!;
  const { found: f, wanted } = stepOf(gate, true, rule, found, { site, at });
  return [f, wanted, whyOf(gate, rule, found, { site, at })];
}

type Change = (rule: Rule, file: SiteFile) => void;
const asItIs: Change = () => {};

const cases: [GateName, Found, [string, string, string], Change?][] = [
  ['source', 'off', ['switched off', 'switched on', 'The rule was switched off']],
  ['source', 'Side', ['Side', 'Gate', 'Side is not a camera of this rule']],
  ['class', 'person', ['person', 'person', 'It is a person']],
  ['class', 'other', ['other', 'person', 'It is something else, not a person']],
  [
    'class',
    'car',
    ['car', 'person, dog or truck', 'It is a car, not a person, a dog or a truck'],
    (r) => (r.classes = ['person', 'dog', 'truck']),
  ],
  ['class', 'car', ['car', 'vehicle', 'It is a car'], (r) => (r.classes = ['vehicle'])],
  ['confidence', 0.456, ['0.46', 'at least 0.50', 'The detector was 0.46 sure; the rule asks for 0.50']],
  ['confidence', 0.456, ['0.46', 'any', 'The detector was 0.46 sure; the rule asks for 0.00'], (r) => delete r.confidence],
  ['size', 0.2, ['20 %', 'any size', 'It is 20 % of the picture high; the rule asks for at most 100 %']],
  [
    'size',
    0.8,
    ['80 %', '10 % to 50 %', 'It is 80 % of the picture high; the rule asks for at most 50 %'],
    (r) => (r.size = { least: 0.1, most: 0.5 }),
  ],
  [
    'size',
    0.05,
    ['5 %', 'at least 10 %', 'It is 5 % of the picture high; the rule asks for at least 10 %'],
    (r) => (r.size = { least: 0.1 }),
  ],
  ['masks', undefined, ['in the open', 'not in an ignored part', 'It is in no ignored part']],
  ['masks', 'Hedge', ['in Hedge', 'not in an ignored part', 'Its feet are in Hedge, which is ignored']],
  ['masks', 'Hedge', ['in Hedge', 'not in an ignored part', 'Its middle is in Hedge, which is ignored'], (r) => (r.anchor = 'centre')],
  ['place', undefined, ['elsewhere', 'its feet in Lane or Yard', 'It was never in Lane or Yard with its feet']],
  ['place', 'Lane', ['in Lane', 'its feet in Lane or Yard', 'It was in Lane']],
  [
    'place',
    undefined,
    ['elsewhere', '40 % of it in Yard', 'It was never in Yard with 40 % of it'],
    (r) => Object.assign(r, { anchor: { overlap: 0.4 }, does: { kind: 'appears', zone: 'yard' } }),
  ],
  ['behaviour', 'arrived', ['Lane, then Yard', 'Lane, then Yard', 'It went from Lane to Yard']],
  ['behaviour', 'from from', ['Lane only', 'Lane, then Yard', 'It was in Lane and did not go to Yard']],
  ['behaviour', 'to from', ['Yard first', 'Lane, then Yard', 'It was seen in Yard first, not in Lane']],
  ['behaviour', ' ', ['in neither for long enough', 'Lane, then Yard', 'It was neither in Lane nor in Yard for long enough']],
  [
    'behaviour',
    '1 0',
    ['1 picture, 0 s', '3 pictures and 20 s', 'It was in Yard for 1 picture, 0 s; the rule asks for 3 pictures and 20 s'],
    (r) => (r.does = { kind: 'stays', zone: 'yard', frames: 3, seconds: 20 }),
  ],
  [
    'behaviour',
    '4 1.5',
    ['4 pictures, 1.5 s', '2.5 min', 'It was in Yard for 4 pictures, 1.5 s; the rule asks for 2.5 min'],
    (r) => (r.does = { kind: 'stays', zone: 'yard', seconds: 150 }),
  ],
  ['mode', 'open', ['Open', 'Shut', 'The mode was Open; the rule is on while Shut']],
  ['mode', 'open', ['Open', 'any mode', 'The mode was Open; the rule is on while any mode'], (r) => delete r.modes],
  ['hours', at, ['Monday 22:03', 'closing time', 'Monday 22:03 is not in closing time']],
  ['hours', at, ['Monday 22:03', 'any time', 'Monday 22:03 is as good as any time'], (r) => delete r.hours],
  ['repeat', Infinity, ['the first', '5 min after the last', 'It is the first of this rule here']],
  ['repeat', 61_000, ['61 s after the last', '5 min after the last', 'The last one was 61 s before; the rule rests 5 min']],
  ['repeat', 0, ['0 s after the last', 'no rest', 'The last one was 0 s before; the rule rests 0 s'], (r) => delete r.restSeconds],
];

test.each(cases.map(([gate, found, words, change]) => [gate, found, words, change ?? asItIs] as const))(
  '%s, having found %p, says %j',
  (gate, found, words, change) => {
    expect(said(gate, found, change)).toEqual(words);
  },
);
