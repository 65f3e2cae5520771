import type { Rule } from '@nibber/core/site';
import { rule } from '../../testing/draw';
import { withQuestion } from './parts/QuestionPart';
import { differingParts, looksWords, messageWords, optionalParts, sentenceOf, sizeWords } from './wording';

const zone = (id: string, name: string) => ({ id, name, purpose: 'watch' as const, polygon: [] });
const site = {
  modes: [{ id: 'closed', name: 'Closed', armed: true }],
  schedules: [{ id: 'not-opening', name: 'Outside opening hours', on: true, next: null, words: '', outside: null }],
  receivers: [{ id: 'board', name: 'House board', by: 'webhook' as const }],
  people: [{ id: 'tess', name: 'Tess', role: 'member' as const }],
};
const cameras = [{ id: 'yard', name: 'Yard', lines: [], zones: [zone('lane', 'Lane'), zone('yard', 'Yard')] }];
const aloud = (r: Rule) =>
  sentenceOf(r, site, cameras)
    .map((p) => (typeof p === 'string' ? p : p.words))
    .join('');

test('a rule reads aloud as a sentence', () => {
  expect(aloud(rule)).toBe(
    'When a person goes from Lane to Yard while Closed, outside opening hours, notify the owner with a picture and a description, at most every 5 min.',
  );
});

test('without its conditions the sentence says so', () => {
  const bare: Rule = {
    id: 'a',
    name: 'A',
    cameras: ['yard'],
    classes: ['person', 'dog'],
    behaviour: { kind: 'stays', zone: 'yard', seconds: 20 },
    notify: [{ to: 'tess', channel: 'push' }],
  };
  expect(aloud(bare)).toBe('When a person or dog stays in Yard for 20 s in any mode, at any time, notify Tess with a picture, every time.');
});

test('what can be changed is a part of its own', () => {
  const parts = sentenceOf({ ...rule, confidence: 0.4 }, site, cameras).flatMap((p) => (typeof p === 'string' ? [] : [p.part]));
  expect(parts).toEqual(['classes', 'confidence', 'behaviour', 'from', 'to', 'modes', 'schedule', 'notify', 'message', 'cooldown']);
});

test('what is in the message, in words', () => {
  expect(messageWords({ ...rule, message: { picture: false, description: false } })).toBe('text only');
  expect(messageWords({ ...rule, message: { picture: true, text: 'The bus is here' } })).toBe('“The bus is here” and a picture');
});

const everyone = (['owner', 'member', 'installer'] as const).map((to) => ({ to, channel: 'push' as const }));
test.each<[string, Partial<Rule>]>([
  [
    'When a person stays in Yard for 20 s while Closed, outside opening hours, notify everyone with a picture and a description, at most every 5 min, urgent.',
    { behaviour: { kind: 'stays', zone: 'yard', seconds: 20 }, notify: everyone, urgent: true },
  ],
  [
    'When there are more than 6 people in Yard for 10 s in any mode and no one is on site, outside opening hours, notify the members with “{count} people”, at most every 30 min.',
    {
      behaviour: { kind: 'count', zone: 'yard', over: 6, seconds: 10 },
      modes: undefined,
      presence: 'no one',
      notify: [{ to: 'member', channel: 'push' }],
      message: { picture: false, text: '{count} people' },
      cooldownSeconds: 1800,
    },
  ],
  [
    'When a vehicle that is not white truck stays in Yard for 10 frames while Closed, at any time, notify no one with a picture and a description, every time.',
    {
      classes: ['vehicle'],
      looks: { exclude: { types: ['truck'], colours: ['white'] } },
      behaviour: { kind: 'stays', zone: 'yard', frames: 10 },
      schedule: undefined,
      notify: [],
      cooldownSeconds: 0,
    },
  ],
  [
    'When a what? (at least 40 % high, by its middle) goes from which zone? to which zone? while no mode, outside opening hours, notify the owner with a picture and a description, at most every 5 min.',
    { classes: [], size: { min: 0.4 }, anchor: 'centre', behaviour: { kind: 'goes' }, modes: [] },
  ],
])('%s', (sentence, change) => {
  const { modes, schedule, ...rest } = { ...rule, ...change };
  expect(aloud({ ...rest, ...(modes ? { modes } : {}), ...(schedule ? { schedule } : {}) } as Rule)).toBe(sentence);
});

test('looks and sizes in words', () => {
  expect(looksWords({ colours: ['white', 'grey'], types: ['truck'], plate: 'AB?' })).toBe('white or grey truck and of the plate AB?');
  expect(looksWords({ upper: ['red'], lower: ['blue'] })).toBe('red above and blue below');
  expect([sizeWords({ min: 0.1, max: 0.5 }), sizeWords({ metres: { max: 1.2 } }), sizeWords({})]).toEqual([
    '10 % to 50 % high',
    'at most 1.2 m high',
    'of any size',
  ]);
});

test('what differs from its origin is known by its part', () => {
  const other: Rule = { ...rule, behaviour: { kind: 'goes', from: 'yard', to: 'lane' }, cooldownSeconds: 60, urgent: true };
  const differing = differingParts(sentenceOf(other, site, cameras), sentenceOf(rule, site, cameras));
  expect([...differing]).toEqual(['from', 'to', 'cooldown', 'urgent']);
});

test('what a rule may have besides is offered until it has it', () => {
  const offered = (r: Rule) => optionalParts.filter((o) => !o.isIn(r)).map((o) => o.part);
  expect(offered(rule)).toContain('size');
  expect(offered({ ...rule, size: { min: 0.2 }, urgent: true, looks: { exclude: { colours: ['white'] } } })).toEqual([
    'for',
    'confidence',
    'looks',
    'anchor',
    'presence',
    'question',
  ]);
});

test('what is asked before is said; of what says nothing nothing is kept', () => {
  const asked = (question: NonNullable<Rule['question']>) => aloud({ ...rule, question });
  const handle = { words: 'Is it ours?', seconds: 8, onTimeout: 'send' as const };
  expect(asked(handle)).toContain(', if “Is it ours?” is yes, notify ');
  expect(asked({ ...handle, alertIf: 'no', unlessKnown: true })).toContain(', if “Is it ours?” is no and unless it is known, notify ');
  expect(withQuestion(rule, { ...handle, words: '', alertIf: 'no' })).not.toHaveProperty('question');
  expect(withQuestion(rule, { ...handle, alertIf: 'yes' }).question).toEqual(handle);
});

test('by what people are told is said where it is not a notification alone; a program is told by its own way', () => {
  const notified = (notify: Rule['notify']) =>
    sentenceOf({ ...rule, notify }, site, cameras).find((p) => typeof p !== 'string' && p.part === 'notify');
  expect(notified([{ to: 'owner', channel: 'push' }])).toMatchObject({ words: 'the owner' });
  expect(
    notified([
      { to: 'owner', channel: 'push' },
      { to: 'owner', channel: 'mail' },
    ]),
  ).toMatchObject({ words: 'the owner by push notification and e-mail' });
  expect(
    notified([
      { to: 'owner', channel: 'push' },
      { to: 'board', channel: 'webhook' },
    ]),
  ).toMatchObject({ words: 'the owner and House board' });
});
