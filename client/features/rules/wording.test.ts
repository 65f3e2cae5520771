import type { Rule } from '@nibber/core/site';
import { rule } from '../../testing/draw';
import { messageWords, missingOf, sentenceOf } from './wording';

const zone = (id: string, name: string) => ({ id, name, purpose: 'watch' as const, polygon: [] });
const site = {
  modes: [{ id: 'closed', name: 'Closed', armed: true }],
  hours: [{ id: 'not-opening', name: 'Outside opening hours', on: true, next: null, words: '' }],
  people: [{ id: 'tess', name: 'Tess', role: 'member' as const }],
};
const cameras = [{ id: 'yard', name: 'Yard', lines: [], zones: [zone('lane', 'Lane'), zone('yard', 'Yard')] }];
const aloud = (r: Rule) =>
  sentenceOf(r, site, cameras)
    .map((p) => (typeof p === 'string' ? p : p.words))
    .join('');

test('a rule reads aloud as a sentence', () => {
  expect(aloud(rule)).toBe(
    'When a person goes from Lane to Yard while Closed, outside opening hours, tell the owner with a picture and a description, at most every 5 min.',
  );
});

test('without its conditions the sentence says so', () => {
  const bare: Rule = {
    id: 'a',
    name: 'A',
    cameras: ['yard'],
    classes: ['person', 'dog'],
    does: { kind: 'stays', zone: 'yard', seconds: 20 },
    tell: [{ to: 'tess', by: 'push' }],
  };
  expect(aloud(bare)).toBe(
    'When a person or dog stays in Yard for 20 s while any mode, at any time, tell Tess with a picture, every time.',
  );
});

test('what can be changed is a part of its own', () => {
  const parts = sentenceOf({ ...rule, confidence: 0.4 }, site, cameras).flatMap((p) => (typeof p === 'string' ? [] : [p.part]));
  expect(parts).toEqual(['classes', 'confidence', 'from', 'to', 'modes', 'hours', 'message', 'rest']);
});

test('what is incomplete says what is missing', () => {
  expect(missingOf(rule)).toBeUndefined();
  expect(missingOf({ ...rule, tell: [] })).toMatch(/tells nobody/);
  expect(missingOf({ ...rule, modes: [] })).toMatch(/no mode/);
  expect(messageWords({ ...rule, message: { picture: false, description: false } })).toBe('words alone');
});
