import { fireEvent, screen, waitFor } from '@testing-library/react-native';
import { answering, draw, rule, site } from '../../testing/draw';
import { Modes } from '../site/pages/Modes';

const warning = {
  kind: 'armed-but-empty',
  about: 'night',
  words: 'Night arms, and no rule is on in it',
  hint: 'Switch a rule on in Night.',
};
const answer = { modes: site.modes, warnings: [warning], planned: [], modeSchedules: [], version: 4, now: 0 };

async function open(role = 'owner') {
  const sent = answering({
    'GET /api/session': { body: { visitor: { name: 'Rowan', role }, isNew: false, siteName: null } },
    'GET /api/modes': { body: answer },
    'GET /api/rules': { body: [rule, { ...rule, id: 'other', name: 'Another', modes: undefined }] },
    'PUT /api/rules/comes-in': { body: rule },
    'PUT /api/rules/other': { body: rule },
    'PUT /api/modes': { body: { modes: site.modes, version: 5 } },
  });
  await draw(<Modes site={site} />).drawn;
  await screen.findByText('Rules by mode');
  return { sent: (path: string) => sent.find((s) => s.method === 'PUT' && s.path === path)?.body };
}

test('a rule is put on in a mode by one touch, and out of it; on in any becomes all but that one', async () => {
  const { sent } = await open();
  await fireEvent.press(await screen.findByTestId('on-comes-in-open'));
  await waitFor(() => expect(sent('/api/rules/comes-in')).toEqual({ ...rule, modes: ['open', 'closed'] }));
  await fireEvent.press(screen.getByTestId('on-other-closed'));
  await waitFor(() => expect(sent('/api/rules/other')).toMatchObject({ modes: ['open'] }));
});

test('an armed mode in which nothing is on warns', async () => {
  await open();
  expect(screen.getByText('Night arms, and no rule is on in it. Switch a rule on in Night.')).toBeTruthy();
});

test('modes are named, armed, ordered and made; two are not called alike', async () => {
  const { sent } = await open();
  await fireEvent.press(await screen.findByTestId('up-closed'));
  await waitFor(() => expect(sent('/api/modes')).toEqual({ modes: [...site.modes].reverse() }));
  await fireEvent.press(screen.getByTestId('new-mode'));
  await fireEvent.changeText(screen.getByTestId('mode-name'), 'closed');
  expect(screen.getByText('This name is already used.')).toBeTruthy();
});

test('a new mode has an id of its own', async () => {
  const { sent } = await open();
  await fireEvent.press(await screen.findByTestId('new-mode'));
  await fireEvent.changeText(screen.getByTestId('mode-name'), 'Night');
  await fireEvent.press(screen.getByTestId('mode-armed'));
  await fireEvent.press(screen.getByTestId('save-mode'));
  await waitFor(() => expect(sent('/api/modes')).toEqual({ modes: [...site.modes, { id: 'night', name: 'Night', armed: false }] }));
});

test('whoever may not set up sees the table alone', async () => {
  await open('member');
  await waitFor(() => expect(screen.queryByTestId('new-mode')).toBeNull());
  expect(screen.queryByTestId('on-comes-in-open')).toBeNull();
});
