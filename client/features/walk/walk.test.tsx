import { act, fireEvent, screen } from '@testing-library/react-native';
import { lightsOf } from '@nibber/core/walk-test';
import { answering, draw, rule, yard } from '../../testing/draw';
import type { StoredWalkItem, ItemNow } from '../../state/api/types';
import { Choose } from './Choose';
import { Shown } from './Shown';
import { Walking } from './Walking';
import { shownWords, validityWords } from './words';

const now = (change: Partial<ItemNow> & { expect?: 'fires' | 'quiet' } = {}): ItemNow =>
  ({
    kind: 'rule',
    rule: 'comes-in',
    expect: 'fires',
    name: 'Someone comes in',
    cameras: ['yard'],
    result: { state: 'waiting', walked: false, why: null },
    lights: lightsOf(undefined),
    there: 0,
    steps: 0,
    ...change,
  }) as ItemNow;
const kept = (change: Partial<StoredWalkItem> & { expect?: 'fires' | 'quiet' } = {}): StoredWalkItem =>
  ({
    kind: 'rule',
    rule: 'comes-in',
    expect: 'fires',
    name: 'Someone comes in',
    cameras: ['yard'],
    verdict: 'open',
    isStillValid: true,
    result: { state: 'waiting', walked: false, why: null },
    notified: [],
    ...change,
  }) as StoredWalkItem;
const answered = { state: 'answered', at: 0, event: null, picture: null } as const;
const walked = { state: 'waiting', walked: true, why: 'It is a dog, not a person' } as const;

test('where an item stands is said in few words, the quiet half as well', () => {
  expect(validityWords(now())).toBe('Walk past it');
  expect(validityWords(now({ there: 1 }))).toBe('Someone is there');
  expect(validityWords(now({ result: answered }))).toBe('Fired');
  expect(validityWords(now({ expect: 'quiet', there: 1 }))).toBe('Quiet, with someone there');
  expect(validityWords(now({ expect: 'quiet', result: walked }))).toBe('It stayed quiet');
  expect(validityWords(now({ expect: 'quiet', result: answered }))).toBe('Fired unexpectedly');
});

test('what was shown is said with its reason', () => {
  expect(shownWords(kept({ verdict: 'proved', result: answered }))).toBe('It fired.');
  expect(shownWords(kept({ verdict: 'failed', result: walked }))).toBe('It did not fire. It is a dog, not a person.');
  expect(shownWords(kept({ expect: 'quiet', verdict: 'proved', result: walked }))).toBe('It stayed quiet. It is a dog, not a person.');
  expect(shownWords(kept({ expect: 'quiet', verdict: 'failed', result: answered }))).toBe('It fired but should have stayed quiet.');
  expect(shownWords(kept())).toBe('Not tested.');
});

test('what is still to be shown of a rule is offered, and what is chosen is started', async () => {
  const before = [{ id: 'w', startedAt: 0, endedAt: 1, by: 'Ives', items: [kept({ verdict: 'proved', result: answered })] }];
  const sent = answering({ 'GET /api/walk-tests': { body: before }, 'POST /api/walk-test': { body: { now: null } } });
  await draw(<Choose rules={[rule]} kept={before} cameras={[yard]} camera="yard" />).drawn;
  await fireEvent.press(screen.getByTestId('walk-zone-yard'));
  await act(async () => fireEvent.press(screen.getByTestId('start-walk')));
  expect(sent.find((s) => s.method === 'POST')?.body).toEqual({
    items: [
      { kind: 'rule', rule: 'comes-in', expect: 'quiet' },
      { kind: 'zone', camera: 'yard', zone: 'yard' },
    ],
  });
});

test('gates are lit as far as the walk has come, with what the next one asks for; mode, hours and presence are not among them', async () => {
  answering({});
  const steps = [
    { gate: 'source', passes: true, found: 'Yard', wanted: 'Yard' },
    { gate: 'class', passes: false, found: 'dog', wanted: 'person' },
  ] as const;
  const item = now({ there: 1, lights: lightsOf({ rule: 'comes-in', stoppedAt: 'class', why: '', at: 0, steps }) });
  await draw(<Walking now={{ id: 'w', startedAt: 0, by: 'Ives', items: [item] }} cameras={[]} ended={() => {}} />).drawn;
  expect(screen.getByTestId('light-source-passed')).toBeTruthy();
  expect(screen.getByTestId('light-class-refused')).toBeTruthy();
  expect(screen.getByText('expects person')).toBeTruthy();
  expect(screen.getByTestId('light-place-ahead')).toBeTruthy();
  expect(screen.queryByTestId(/^light-(mode|hours|presence)/)).toBeNull();
});

test('what was shown says when it no longer stands', async () => {
  answering({});
  const items = [kept({ verdict: 'proved', result: answered, isStillValid: false })];
  await draw(<Shown kept={{ id: 'w', startedAt: 0, endedAt: 1, by: 'Ives', items }} zone="Europe/London" />).drawn;
  expect(screen.getByText('1 of 1 as expected')).toBeTruthy();
  expect(screen.getByText('Settings have changed since. Test it again.')).toBeTruthy();
});
