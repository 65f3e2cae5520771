import { fireEvent, screen } from '@testing-library/react-native';
import type { Rule } from '@nibber/core/site';
import { draw, rule, site, yard } from '../../testing/draw';
import { PartSheet } from './PartSheet';
import { Sentence } from './Sentence';
import type { PartName } from './wording';

test('each underlined part can be touched', async () => {
  const touched: PartName[] = [];
  await draw(<Sentence rule={rule} site={site} cameras={[yard]} touch={(part) => touched.push(part)} />).drawn;
  for (const part of ['classes', 'from', 'to', 'modes', 'hours', 'message', 'rest'])
    await fireEvent.press(screen.getByTestId(`part-${part}`));
  expect(touched).toEqual(['classes', 'from', 'to', 'modes', 'hours', 'message', 'rest']);
});

test('who may not change it reads it all the same', async () => {
  await draw(<Sentence rule={rule} site={site} cameras={[yard]} touch={undefined} />).drawn;
  expect(screen.getByTestId('part-rest').props.onPress).toBeUndefined();
});

/** Opens the choices for a part, touches one, and gives the rule that comes of it. */
async function chosen(part: PartName, choice: string, from: Rule = rule): Promise<{ rule: Rule | undefined; closed: boolean }> {
  let [next, closed]: [Rule | undefined, boolean] = [undefined, false];
  await draw(<PartSheet part={part} rule={from} site={site} cameras={[yard]} change={(r) => (next = r)} close={() => (closed = true)} />)
    .drawn;
  await fireEvent.press(screen.getByTestId(`choice-${choice}`));
  return { rule: next, closed };
}

test.each<[PartName, string, Partial<Rule>]>([
  ['classes', 'dog', { classes: ['person', 'dog'] }],
  ['confidence', '60 %', { confidence: 0.6 }],
  ['modes', 'Open', { modes: ['closed', 'open'] }],
  ['hours', 'Opening hours', { hours: 'opening' }],
  ['message', 'A picture', { message: { picture: true, description: false } }],
  ['rest', 'At most every 10 min', { restSeconds: 600 }],
])('%s: %s', async (part, choice, change) => {
  expect((await chosen(part, choice)).rule).toEqual({ ...rule, ...change });
});

test('at any time takes the hours out of the rule', async () => {
  const { hours: _, ...without } = rule;
  expect((await chosen('hours', 'At any time')).rule).toEqual(without);
});

test('the last class and the last mode cannot be taken out', async () => {
  expect((await chosen('classes', 'person')).rule).toBeUndefined();
  expect((await chosen('modes', 'Closed')).rule).toBeUndefined();
});

test('choosing the other end’s zone turns the way round', async () => {
  expect((await chosen('from', 'Yard')).rule!.does).toEqual({ kind: 'goes', from: 'yard', to: 'lane' });
});

test('zones of privacy are no place for a rule; one choice closes the sheet, several do not', async () => {
  expect((await chosen('rest', 'Every time')).closed).toBe(true);
  expect(screen.queryByTestId('choice-Next door')).toBeNull();
  expect((await chosen('classes', 'dog')).closed).toBe(false);
});
