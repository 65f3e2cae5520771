import { fireEvent, screen, waitFor } from '@testing-library/react-native';
import { answering, draw, rule, site, yard } from '../../testing/draw';
import { RuleEditor } from './RuleEditor';

async function open(role: string, answers: Parameters<typeof answering>[0] = {}, id = 'comes-in') {
  const sent = answering({
    'GET /api/session': { body: { visitor: { name: 'Tess', role }, isNew: false, siteName: null } },
    'GET /api/rules': { body: [rule] },
    'GET /api/site': { body: site },
    'GET /api/cameras': { body: [yard] },
    'PUT /api/rules/comes-in': { body: rule },
    ...answers,
  });
  const { store } = draw(<RuleEditor id={id} part={undefined} />);
  await waitFor(() => expect(sent.length).toBeGreaterThanOrEqual(4));
  return { sent, store };
}

test('whoever may not set up reads the rule and changes nothing', async () => {
  await open('member');
  await screen.findByText('Somebody comes in');
  await waitFor(() => expect(screen.queryByTestId('rule-name')).toBeNull());
  expect(screen.queryByTestId('edit-comes-in')).toBeNull();
});

test('a part is changed in the draft alone, undone, and what is lacking keeps it from being saved', async () => {
  const { sent } = await open('owner');
  await fireEvent.press(await screen.findByTestId('part-rest'));
  await fireEvent.press(screen.getByTestId('choice-At most every 10 min'));
  expect(screen.getByTestId('part-rest').props.children).toBe('10 min');
  expect(sent.some((s) => s.method === 'PUT')).toBe(false);
  await fireEvent.press(screen.getByTestId('rule-undo'));
  expect(screen.getByTestId('part-rest').props.children).toBe('5 min');
  await fireEvent.press(screen.getByTestId('part-tell'));
  await fireEvent.press(screen.getByTestId('tell-owner'));
  expect(screen.getByText('It tells nobody.')).toBeTruthy();
  await fireEvent.press(screen.getByTestId('save-rule'));
  expect(sent.some((s) => s.method === 'PUT')).toBe(false);
});

test('a save that is refused says why, and the draft stays', async () => {
  const error = { code: 'conflict', message: 'Ives changed this meanwhile.', remedy: 'Look at what stands now.', faults: [] };
  await open('owner', { 'PUT /api/rules/comes-in': { status: 409, body: { error } } });
  await fireEvent.changeText(await screen.findByTestId('rule-name'), 'Somebody enters');
  await fireEvent.press(screen.getByTestId('save-rule'));
  await screen.findByText('Ives changed this meanwhile. Look at what stands now.');
  expect(screen.getByTestId('rule-name').props.value).toBe('Somebody enters');
});

test('a rule that is not there says so', async () => {
  await open('owner', {}, 'lunch');
  await screen.findByText('There is no such rule.');
});
