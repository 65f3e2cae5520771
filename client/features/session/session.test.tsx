import { fireEvent, screen, waitFor } from '@testing-library/react-native';
import { answering, draw } from '../../testing/draw';
import { SignIn } from './SignIn';

const fill = async (name: string, password: string) => {
  await fireEvent.changeText(screen.getByTestId('sign-in-name'), name);
  await fireEvent.changeText(screen.getByTestId('sign-in-password'), password);
};
const ready = () => waitFor(() => expect(screen.getByTestId('sign-in')).toBeEnabled());

test('the button waits for a name and a password', async () => {
  await draw(<SignIn isNew={false} />).drawn;
  expect(screen.getByTestId('sign-in')).toBeDisabled();
  await fill('Rowan', 'x');
  await ready();
});

test('a field that was left empty says so', async () => {
  await draw(<SignIn isNew={false} />).drawn;
  await fireEvent(screen.getByTestId('sign-in-name'), 'blur');
  await waitFor(() => expect(screen.getByText('Required.')).toBeTruthy());
});

test('a refusal is said, the name without the blanks around it', async () => {
  const sent = answering({
    'POST /api/session': {
      status: 401,
      body: { error: { code: 'not-signed-in', message: 'The name or the password is wrong.', hint: 'Try again.', problems: [] } },
    },
  });
  await draw(<SignIn isNew={false} />).drawn;
  await fill(' Rowan ', 'wrong');
  await ready();
  await fireEvent.press(screen.getByTestId('sign-in'));
  await waitFor(() => expect(screen.getByText('The name or the password is wrong. Try again.')).toBeTruthy());
  expect(sent[0]!.body).toEqual({ name: 'Rowan', password: 'wrong' });
});

test('the first visit says that it makes the owner’s account, and asks for a long password and the code', async () => {
  await draw(<SignIn isNew />).drawn;
  expect(screen.getByText(/First visit: create the owner’s account/)).toBeTruthy();
  expect(screen.getByText('At least 12 characters.')).toBeTruthy();
  await fill('Rowan', 'short');
  await fireEvent.changeText(screen.getByTestId('sign-in-code'), ' ABCDE-FGHJK ');
  expect(screen.getByTestId('sign-in')).toBeDisabled();
  await fill('Rowan', 'long enough to take');
  await ready();
  const sent = answering({ 'POST /api/owner': { body: {} } });
  await fireEvent.press(screen.getByTestId('sign-in'));
  await waitFor(() => expect(sent[0]?.body).toEqual({ name: 'Rowan', password: 'long enough to take', code: 'ABCDE-FGHJK' }));
});
