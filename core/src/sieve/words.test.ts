import { siteWith } from '../testing';
import type { Rule, SiteFile } from '../site';
import { startNow, type GateName, type Now } from './gate';
import { gates } from './gates';
import { framesWords, trailOf, wordsOf } from './words';

const at = Date.parse('2026-06-01T21:03:00Z');

function said(gate: GateName, found: Partial<Now>, change: Change) {
  const site = siteWith((f) => change(f.rules![0]!, f));
  const rule = site.cameras.get('gate')!.rules[0]!;
  const { found: f, wanted, why } = wordsOf(gate, rule, { ...startNow(), ...found }, site);
  return [f, wanted, why];
}

type Change = (rule: Rule, file: SiteFile) => void;
const asItIs: Change = () => {};
const crosses: Change = (r) => (r.behaviour = { kind: 'crosses', line: 'gateway', direction: 'forward' });

const cases: [GateName, Partial<Now>, [string, string, string], Change?][] = [
  ['source', { source: 'Gate' }, ['switched off', 'switched on', 'The rule was switched off'], (r) => (r.on = false)],
  ['source', { source: 'Side' }, ['Side', 'Gate', 'Side is not a camera of this rule']],
  ['class', { class: 'person' }, ['person', 'person', 'It is a person']],
  ['class', { class: 'other' }, ['other', 'person', 'It is something else, not a person']],
  [
    'class',
    { class: 'vehicle', type: 'car' },
    ['car', 'person, dog or truck', 'It is a car, not a person, a dog or a truck'],
    (r) => (r.classes = ['person', 'dog', 'truck']),
  ],
  ['class', { class: 'vehicle', type: 'car' }, ['car', 'vehicle', 'It is a car'], (r) => (r.classes = ['vehicle'])],
  ['confidence', { score: 0.456 }, ['0.46', 'at least 0.50', 'Confidence was 0.46; the rule needs 0.50']],
  ['confidence', { score: 0.456 }, ['0.46', 'any', 'Confidence was 0.46; the rule needs 0.00'], (r) => delete r.confidence],
  ['size', { height: 0.2 }, ['20 %', 'any size', 'It is 20 % of the picture high; the rule requires at most 100 %']],
  [
    'size',
    { height: 0.8 },
    ['80 %', '10 % to 50 %', 'It is 80 % of the picture high; the rule requires at most 50 %'],
    (r) => (r.size = { min: 0.1, max: 0.5 }),
  ],
  [
    'size',
    { height: 0.05 },
    ['5 %', 'at least 10 %', 'It is 5 % of the picture high; the rule requires at least 10 %'],
    (r) => (r.size = { min: 0.1 }),
  ],
  ['masks', {}, ['not in an ignored area', 'not in an ignored area', 'It is not in an ignored area']],
  ['masks', { part: 'Hedge' }, ['in Hedge', 'not in an ignored area', 'Its feet are in Hedge, which is ignored']],
  [
    'masks',
    { part: 'Hedge' },
    ['in Hedge', 'not in an ignored area', 'Its middle is in Hedge, which is ignored'],
    (r) => (r.anchor = 'centre'),
  ],
  ['place', {}, ['elsewhere', 'its feet in Lane or Yard', 'It was never in Lane or Yard (measured at its feet)']],
  ['place', { isInside: true, whereabouts: 'Lane' }, ['in Lane', 'its feet in Lane or Yard', 'It was in Lane']],
  [
    'place',
    {},
    ['elsewhere', '40 % of it in Yard', 'It was never in Yard (measured at 40 % of it)'],
    (r) => Object.assign(r, { anchor: { overlap: 0.4 }, behaviour: { kind: 'appears', zone: 'yard' } }),
  ],
  ['behaviour', { behaves: true }, ['Lane, then Yard', 'Lane, then Yard', 'It went from Lane to Yard']],
  ['behaviour', { first: 'from', last: 'from' }, ['Lane only', 'Lane, then Yard', 'It was in Lane and did not go to Yard']],
  ['behaviour', { first: 'to', last: 'from' }, ['Yard first', 'Lane, then Yard', 'It was detected in Yard first, not in Lane']],
  ['behaviour', {}, ['in neither for long enough', 'Lane, then Yard', 'It was neither in Lane nor in Yard for long enough']],
  [
    'behaviour',
    { frames: 1 },
    ['1 frame, 0 s', '3 frames and 20 s', 'It was in Yard for 1 frame, 0 s; the rule requires 3 frames and 20 s'],
    (r) => (r.behaviour = { kind: 'stays', zone: 'yard', frames: 3, seconds: 20 }),
  ],
  [
    'behaviour',
    { frames: 4, seconds: 1.5 },
    ['4 frames, 1.5 s', '2.5 min', 'It was in Yard for 4 frames, 1.5 s; the rule requires 2.5 min'],
    (r) => (r.behaviour = { kind: 'stays', zone: 'yard', seconds: 150 }),
  ],
  ['mode', { mode: 'open' }, ['Open', 'Shut', 'The mode was Open; the rule is active while Shut']],
  ['mode', { mode: 'open' }, ['Open', 'any mode', 'The mode was Open; the rule is active while any mode'], (r) => delete r.modes],
  ['hours', { at }, ['Monday 22:03', 'closing time', 'Monday 22:03 is not in closing time']],
  ['hours', { at }, ['Monday 22:03', 'any time', 'Monday 22:03 is allowed: the rule has no schedule'], (r) => delete r.schedule],
  ['repeat', {}, ['the first', '5 min after the last', 'It is the first of this rule here']],
  [
    'repeat',
    { since: 61_000 },
    ['61 s after the last', '5 min after the last', 'The last alert was 61 s earlier; the rule waits 5 min between alerts'],
  ],
  [
    'repeat',
    { since: 0 },
    ['0 s after the last', 'no minimum interval', 'The last alert was 0 s earlier; the rule waits 0 s between alerts'],
    (r) => delete r.cooldownSeconds,
  ],
  ['repeat', { isNotified: true }, ['already alerted', 'once each time', 'Already alerted, and it has not ended since']],
  [
    'behaviour',
    { behaves: true, crossed: 'forward' },
    ['forward across Gateway', 'forward across Gateway', 'It crossed Gateway forward'],
    crosses,
  ],
  [
    'behaviour',
    { crossed: 'back' },
    ['back across Gateway', 'forward across Gateway', 'It crossed Gateway back; the rule requires forward'],
    crosses,
  ],
  ['behaviour', {}, ['not across', 'forward across Gateway', 'It did not cross Gateway'], crosses],
  [
    'behaviour',
    { number: 5 },
    ['5', 'over 6 for 10 s', 'There were 5 in Yard; the rule requires over 6'],
    (r) => (r.behaviour = { kind: 'count', zone: 'yard', over: 6, seconds: 10 }),
  ],
  [
    'behaviour',
    { number: 7, frames: 3, seconds: 4 },
    ['7 for 3 frames and 4 s', 'over 6 for 10 s', 'There were 7 in Yard for 4 s; the rule requires over 6 for 10 s'],
    (r) => (r.behaviour = { kind: 'count', zone: 'yard', over: 6, seconds: 10 }),
  ],
  [
    'behaviour',
    { number: 2 },
    ['2', 'no one for 5 min', 'There were 2 in Yard; the rule requires no one'],
    (r) => (r.behaviour = { kind: 'empty', zone: 'yard', seconds: 300 }),
  ],
  [
    'behaviour',
    { distance: 12.34 },
    ['12.3 m', 'within 5 m', 'It was 12.3 m away; the rule requires within 5 m'],
    (r) => (r.behaviour = { kind: 'approaches', metres: 5 }),
  ],
  [
    'behaviour',
    {},
    ['distance not known', 'within 5 m', 'Its distance is unknown: the camera has no aim, or it was not on the ground'],
    (r) => (r.behaviour = { kind: 'approaches', metres: 5 }),
  ],
  ['behaviour', {}, ['no plate', 'a known plate', 'Its plate was never read'], (r) => (r.behaviour = { kind: 'returns' })],
  [
    'behaviour',
    { identity: 'AB 12', owner: 'Van' },
    ['AB 12, Van', 'an unknown plate', 'Its plate was AB 12, Van; the rule requires an unknown plate'],
    (r) => (r.behaviour = { kind: 'returns', known: false }),
  ],
  [
    'behaviour',
    { state: 'closed' },
    ['closed', 'open', 'It said closed; the rule requires open'],
    (r) => (r.behaviour = { kind: 'reports', states: ['open'] }),
  ],
  [
    'looks',
    { class: 'vehicle', type: 'truck', looks: { colour: 'white' } },
    ['white truck', 'not white truck', 'It was white truck, which the rule excludes'],
    (r) => (r.looks = { exclude: { types: ['truck'], colours: ['white'] } }),
  ],
  [
    'looks',
    {},
    [
      'not known',
      'red or orange upper clothing, plate AB??',
      'Its appearance was not known; the rule requires red or orange upper clothing, plate AB??',
    ],
    (r) => (r.looks = { require: { upper: ['red', 'orange'], plate: 'AB??' } }),
  ],
  [
    'presence',
    { home: 'someone' },
    ['someone on site', 'no one is on site', 'Someone was on site; the rule is active while no one is on site'],
    (r) => (r.presence = 'no one'),
  ],
  [
    'size',
    { height: 0.2, metres: 0.4 },
    ['0.4 m', 'at least 1 m', 'It is 0.4 m tall; the rule requires at least 1 m'],
    (r) => (r.size = { metres: { min: 1 } }),
  ],
  [
    'size',
    { height: 0.2 },
    ['height not known', '1 m to 2.5 m', 'Its height is unknown: the camera has no aim, or its feet are not on the ground'],
    (r) => (r.size = { metres: { min: 1, max: 2.5 } }),
  ],
];

test.each(cases.map(([gate, found, words, change]) => [gate, found, words, change ?? asItIs] as const))(
  '%s, having found %p, says %j',
  (gate, found, words, change) => {
    expect(said(gate, found, change)).toEqual(words);
  },
);

test('frames and seconds stand side by side, for the real rate', () => {
  // 10 pictures at 1.5 a second are 6.7 s, worked by hand.
  expect(framesWords(10, 1.5)).toBe('10 frames, 6.7 s at 1.5 frames per second');
});

test('a step of a rule that counts says the number as a number, so that a message can have it', () => {
  const site = siteWith((f) => (f.rules![0]!.behaviour = { kind: 'count', zone: 'yard', over: 6, seconds: 10 }));
  const rule = site.cameras.get('gate')!.rules[0]!;
  const steps = (number: number) => trailOf(site, rule, gates.length, { ...startNow(), number }, true).steps;
  expect(steps(7).find((s) => s.gate === 'behaviour')).toMatchObject({ count: 7 });
  expect(steps(7).filter((s) => s.gate !== 'behaviour' && 'count' in s)).toEqual([]);
});
