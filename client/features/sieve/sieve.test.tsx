import { screen } from '@testing-library/react-native';
import { draw } from '../../testing/draw';
import type { TrailAnswer } from '../../state/api/types';
import { SieveOfADay } from './SieveOfADay';
import { Trail } from './Trail';

const trail: TrailAnswer = {
  rule: 'comes-in',
  ruleName: 'Someone comes in',
  stoppedAt: 'mode',
  why: 'The mode was Open',
  at: 0,
  steps: [
    { gate: 'class', passes: true, found: 'person', wanted: 'person' },
    { gate: 'mode', passes: false, found: 'Open', wanted: 'Closed' },
  ],
};

test('a trail names each gate with the two values, and says where it stopped', async () => {
  await draw(<Trail trail={trail} />).drawn;
  expect(screen.getByLabelText('type: found person, expected person, passed')).toBeTruthy();
  expect(screen.getByLabelText('mode: found Open, expected Closed, stopped here')).toBeTruthy();
});

test('the sieve of a day counts what is left after each gate that stopped something', async () => {
  await draw(<SieveOfADay day={{ since: 0, tracks: 10, stoppedBy: { class: 3, behaviour: 5 }, events: 2, alerts: 1 }} />).drawn;
  const texts = screen.getAllByTestId('gate-row').map((row) => textOf(row as unknown as Drawn));
  expect(texts).toEqual(['tracks detected 10', 'type 7 −3', 'behaviour 2 −5', 'became events 2', 'became alerts 1']);
});

type Drawn = { children: readonly (Drawn | string)[] };
const textOf = (node: Drawn): string =>
  node.children
    .map((c) => (typeof c === 'string' ? c : textOf(c)))
    .filter(Boolean)
    .join(' ');
