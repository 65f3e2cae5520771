import { fireEvent, screen, waitFor } from '@testing-library/react-native';
import { answering, draw } from '../../testing/draw';
import { MailSheet } from './MailSheet';
import { ReceiverSheet } from './ReceiverSheet';
import { TextSheet } from './TextSheet';

const me = {
  person: { id: 'rowan', name: 'Rowan', role: 'owner', mail: 'rowan@withy.example', phone: '+447700900123' },
  quietHours: null,
  rules: [],
  snoozes: [],
  channels: [],
  defaultSummary: '07:30',
  now: 0,
};

test('a mail server is tried by what is filled in, with what it answered, and nothing is saved by that', async () => {
  const sent = answering({
    'GET /api/me': { body: me },
    'POST /api/channels/mail/try': { body: { accepted: false, said: 'The mail server did not take it: 535' } },
  });
  await draw(<MailSheet settings={undefined} hasSecret={false} version={3} close={() => {}} />).drawn;
  await screen.findByTestId('mail-host');
  expect(screen.getByTestId('mail-save')).toBeDisabled();
  expect(screen.getByTestId('try-channel')).toBeDisabled();
  await fireEvent.changeText(screen.getByTestId('mail-host'), ' mail.withy.example ');
  await fireEvent.changeText(screen.getByTestId('mail-user'), 'nibber');
  await fireEvent.changeText(screen.getByTestId('mail-password'), 'word');
  await fireEvent.changeText(screen.getByTestId('mail-from'), 'nibber@withy.example');
  await waitFor(() => expect(screen.getByTestId('try-channel')).toBeEnabled());
  await fireEvent.press(screen.getByTestId('try-channel'));
  await screen.findByText('The mail server did not take it: 535');
  const mail = { host: 'mail.withy.example', security: 'starttls', user: 'nibber', from: 'nibber@withy.example' };
  expect(sent.filter((s) => s.body).map((s) => s.body)).toEqual([{ mail, to: 'rowan@withy.example', secret: 'word' }]);
});

test('a gateway says what it lacks at the field that lacks it; headers are read line by line', async () => {
  const sent = answering({ 'GET /api/me': { body: me }, 'PUT /api/channels/text': { body: { version: 4 } } });
  await draw(<TextSheet settings={undefined} hasSecret={false} version={3} close={() => {}} />).drawn;
  await screen.findByTestId('text-url');
  await fireEvent.changeText(screen.getByTestId('text-url'), 'https://sms.example/send');
  await fireEvent.changeText(screen.getByTestId('text-body'), '{ "to": "{to}" }');
  await fireEvent(screen.getByTestId('text-body'), 'blur');
  await screen.findByText('{text} is missing.');
  await fireEvent.changeText(screen.getByTestId('text-body'), '{ "to": "{to}", "text": "{text}" }');
  await waitFor(() => expect(screen.getByTestId('text-save')).toBeEnabled());
  await fireEvent.press(screen.getByTestId('text-save'));
  const text = {
    url: 'https://sms.example/send',
    method: 'POST',
    headers: { 'Content-Type': 'application/json', Authorization: 'Bearer {secret}' },
    body: '{ "to": "{to}", "text": "{text}" }',
  };
  await waitFor(() => expect(sent.map((s) => s.body)).toContainEqual({ text }));
});

test('a program that is added by webhook shows its secret once; a broker asks for another address', async () => {
  answering({ 'POST /api/receivers': { body: { id: 'board', secret: 'a-secret-of-its-own', version: 4 } } });
  let isClosed = false;
  await draw(<ReceiverSheet of={undefined} version={3} close={() => (isClosed = true)} />).drawn;
  await fireEvent.changeText(screen.getByTestId('receiver-name'), 'Board');
  await fireEvent.changeText(screen.getByTestId('receiver-url'), 'https://board.example/in');
  await fireEvent.press(screen.getByTestId('by-mqtt'));
  await waitFor(() => expect(screen.getByTestId('receiver-save')).toBeDisabled());
  await fireEvent.press(screen.getByTestId('by-webhook'));
  await waitFor(() => expect(screen.getByTestId('receiver-save')).toBeEnabled());
  await fireEvent.press(screen.getByTestId('receiver-save'));
  await screen.findByText('a-secret-of-its-own');
  expect(isClosed).toBe(false);
  await fireEvent.press(screen.getByTestId('secret-done'));
  expect(isClosed).toBe(true);
});
