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
  await screen.findByText('Someone comes in');
  await waitFor(() => expect(screen.queryByTestId('rule-name')).toBeNull());
  expect(screen.queryByTestId('edit-comes-in')).toBeNull();
});

test('a part is changed in the draft alone, undone, and what is lacking keeps it from being saved', async () => {
  const { sent } = await open('owner');
  await fireEvent.press(await screen.findByTestId('part-cooldown'));
  await fireEvent.press(screen.getByTestId('choice-600'));
  expect(screen.getByTestId('part-cooldown').props.children).toBe('10 min');
  expect(sent.some((s) => s.method === 'PUT')).toBe(false);
  await fireEvent.press(screen.getByTestId('rule-undo'));
  expect(screen.getByTestId('part-cooldown').props.children).toBe('5 min');
  await fireEvent.press(screen.getByTestId('part-notify'));
  await fireEvent.press(screen.getByTestId('notify-owner'));
  expect(screen.getByText('Choose who is notified.')).toBeTruthy();
  await fireEvent.press(screen.getByTestId('save-rule'));
  expect(sent.some((s) => s.method === 'PUT')).toBe(false);
});

test('a save that is refused says why, and the draft stays', async () => {
  const error = { code: 'conflict', message: 'Ives changed this meanwhile.', hint: 'Look at what stands now.', problems: [] };
  await open('owner', { 'PUT /api/rules/comes-in': { status: 409, body: { error } } });
  await fireEvent.changeText(await screen.findByTestId('rule-name'), 'Somebody enters');
  await fireEvent.press(screen.getByTestId('save-rule'));
  await screen.findByText('Ives changed this meanwhile. Look at what stands now.');
  expect(screen.getByTestId('rule-name').props.value).toBe('Somebody enters');
});

test('a rule that is not there says so', async () => {
  await open('owner', {}, 'lunch');
  await screen.findByText('Rule not found.');
});

const weekOf = (before: number, after: number) => ({
  kind: 'done',
  days: Array.from({ length: 7 }, (_, i) => ({ date: `2026-06-0${i + 1}`, before, after })),
  gained: [],
  lost: [
    {
      at: Date.parse('2026-06-03T12:00:00Z'),
      cameraName: 'Yard',
      why: 'It was 0.50 sure; the rule asks for 0.80',
      event: 'm1',
      picture: null,
      box: null,
    },
  ],
  gainedInAll: 0,
  lostInAll: 1,
  never: [] as string[],
  since: Date.parse('2026-06-02T12:00:00Z'),
  sureness: [],
});

test('beside the sentence stands what it would have done, and what would not come any more', async () => {
  await open('owner', { 'POST /api/rules/comes-in/rehearsal': { body: weekOf(2, 1) } });
  expect((await screen.findByTestId('week-words')).props.children).toBe('It would have fired 7 times instead of 14.');
  expect(screen.getByText('Recorded since Tuesday 2 June, 13:00.')).toBeTruthy();
  expect(screen.getByText('Removed by this change: 1')).toBeTruthy();
  expect(screen.getByText('It was 0.50 sure; the rule asks for 0.80')).toBeTruthy();
});

test('a rule that can never fire is not saved switched on', async () => {
  const why = 'Yard does not report a dog. Switch it on in the camera.';
  const { sent } = await open('owner', { 'POST /api/rules/comes-in/rehearsal': { body: { ...weekOf(0, 0), never: [why] } } });
  await screen.findByText(`It can never fire. ${why}`);
  await fireEvent.changeText(screen.getByTestId('rule-name'), 'Somebody enters');
  await fireEvent.press(screen.getByTestId('save-rule'));
  expect(sent.some((s) => s.method === 'PUT')).toBe(false);
  await fireEvent.press(screen.getByTestId('rule-off'));
  await fireEvent.press(screen.getByTestId('save-rule'));
  await waitFor(() => expect(sent.find((s) => s.method === 'PUT')?.body).toMatchObject({ on: false }));
});

test('what cannot be worked out says so', async () => {
  const error = { code: 'bad-input', message: 'The rule cannot be tried.', hint: '', problems: [] };
  await open('owner', { 'POST /api/rules/comes-in/rehearsal': { status: 400, body: { error } } });
  await screen.findByText('The rule cannot be tried.');
});
