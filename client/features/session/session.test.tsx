import { fireEvent, screen, waitFor } from '@testing-library/react-native';
import { answering, draw } from '../../testing/draw';
import { SignIn } from './SignIn';

const fill = async (name: string, password: string) => {
  await fireEvent.changeText(screen.getByTestId('sign-in-name'), name);
  await fireEvent.changeText(screen.getByTestId('sign-in-password'), password);
};

test('the button waits for a name and a password', async () => {
  await draw(<SignIn isNew={false} />).drawn;
  expect(screen.getByTestId('sign-in').props['aria-disabled'] ?? screen.getByTestId('sign-in').props.accessibilityState?.disabled).toBe(
    true,
  );
  await fill('Rowan', 'x');
  expect(screen.getByTestId('sign-in').props['aria-disabled'] ?? screen.getByTestId('sign-in').props.accessibilityState?.disabled).toBe(
    false,
  );
});

test('a refusal is said, the name without the blanks around it', async () => {
  const sent = answering({
    'POST /api/session': {
      status: 401,
      body: { error: { code: 'not-signed-in', message: 'The name or the password is wrong.', remedy: 'Try again.', faults: [] } },
    },
  });
  await draw(<SignIn isNew={false} />).drawn;
  await fill(' Rowan ', 'wrong');
  await fireEvent.press(screen.getByTestId('sign-in'));
  await waitFor(() => expect(screen.getByText('The name or the password is wrong. Try again.')).toBeTruthy());
  expect(sent[0]!.body).toEqual({ name: 'Rowan', password: 'wrong' });
});

test('the first visit says that it makes the owner’s account', async () => {
  await draw(<SignIn isNew />).drawn;
  expect(screen.getByText(/First visit: make the owner’s account/)).toBeTruthy();
  expect(screen.getByText('At least 8 characters.')).toBeTruthy();
  await fill('Rowan', 'long enough');
  const button = screen.getByTestId('sign-in');
  expect(button.props['aria-disabled'] ?? button.props.accessibilityState?.disabled).toBe(true);
  const sent = answering({ 'POST /api/owner': { body: {} } });
  await fireEvent.changeText(screen.getByTestId('sign-in-code'), ' ABCDE-FGHJK ');
  await fireEvent.press(screen.getByTestId('sign-in'));
  await waitFor(() => expect(sent[0]?.body).toEqual({ name: 'Rowan', password: 'long enough', code: 'ABCDE-FGHJK' }));
});
