import { fireEvent, screen, waitFor } from '@testing-library/react-native';
import { answering, draw, site } from '../../testing/draw';
import { SaveCamera } from './SaveCamera';
import { PairByApp } from './PairByApp';
import { TryIt } from './TryIt';
import { clockWords, kindOf, nextTurn, shownWords } from './words';

jest.mock('expo-router', () => ({ useRouter: () => ({ navigate: mockNavigate }) }));
const mockNavigate = jest.fn();

test.each([
  ['192.168.1.20', 'device'],
  ['camera.local:8080/', 'device'],
  ['http://10.0.0.5/onvif/device_service', 'device'],
  ['http://10.0.0.5/live.mjpg', 'stream'],
  ['10.0.0.5/still.jpg', 'stream'],
  ['RTSP://10.0.0.5/', 'stream'],
])('%s is asked as a %s', (address, kind) => expect(kindOf(address)).toBe(kind));

test('a clock is mentioned when it is more than two seconds off', () => {
  expect([clockWords(1900), clockWords(-2000)]).toEqual([undefined, undefined]);
  expect(clockWords(-90_000)).toMatch(/^Its clock is 90 s slow\./);
  expect(clockWords(300_000)).toMatch(/^Its clock is 5 min fast\./);
});

test('four turns are none', () => {
  const twice = nextTurn(nextTurn({ mirrored: true }));
  expect(shownWords(twice)).toBe('rotated by 180°, mirrored');
  expect(shownWords(nextTurn(nextTurn(twice)))).toBe('mirrored');
});

/** Presses what a form lets be pressed only when it is filled in as it must be. */
async function press(id: string) {
  await waitFor(() => expect(screen.getByTestId(id)).toBeEnabled());
  await fireEvent.press(screen.getByTestId(id));
}

const step = (name: string, state: string, more: object = {}) => ({
  step: name,
  state,
  words: null,
  hint: null,
  milliseconds: 3,
  ...more,
});

test('a try that fails says at which step, why and what to do; the password goes out once', async () => {
  const attempt = {
    id: 'a1',
    kind: 'device',
    address: 'http://cam/onvif/device_service',
    state: 'failed',
    steps: [
      step('name', 'done'),
      step('reach', 'done'),
      step('port', 'failed', { words: 'Nothing answers at the address.', hint: 'Check the port.' }),
      step('sign-in', 'waiting'),
      step('stream', 'waiting'),
      step('decode', 'waiting'),
    ],
    device: null,
    channels: [],
  };
  const sent = answering({ 'POST /api/connection-attempts': { body: attempt }, 'GET /api/connection-attempts/a1': { body: attempt } });
  const { drawn } = draw(<TryIt address="cam" kind="device" />);
  await drawn;
  await fireEvent.changeText(screen.getByTestId('device-name'), 'admin');
  await fireEvent.changeText(screen.getByTestId('device-password'), 'secret');
  await press('try');
  await waitFor(() => expect(screen.getByText('Nothing answers at the address. Check the port.')).toBeTruthy());
  expect(sent.filter((s) => s.method === 'POST').map((s) => s.body)).toEqual([
    { kind: 'device', address: 'cam', name: 'admin', password: 'secret' },
  ]);
  expect(screen.queryByText('Save camera')).toBeNull();
});

test('a camera run by its own app is given a place, and its page is opened', async () => {
  const sent = answering({ 'GET /api/site': { body: site }, 'POST /api/paired-cameras': { body: { camera: 'porch' } } });
  await draw(<PairByApp />).drawn;
  await fireEvent.press(screen.getByTestId('pair'));
  await waitFor(() => expect(sent.some((s) => s.path === '/api/site')).toBe(true));
  await fireEvent.changeText(screen.getByTestId('pair-name'), ' Porch ');
  await press('pair-go');
  await waitFor(() => expect(mockNavigate).toHaveBeenCalledWith('/cameras/porch'));
  expect(sent.find((s) => s.method === 'POST')!.body).toEqual({ name: 'Porch', area: 'landing' });
});

test('of a recorder only what is ticked is saved, each under a name of its own', async () => {
  const channel = (name: string, hasPicture = true) => ({ name, width: 640, height: 360, hasPicture, problem: null });
  const attempt = {
    id: 'a2',
    kind: 'device',
    address: 'x',
    state: 'done',
    steps: [],
    device: null,
    channels: [channel('One'), channel('Two'), channel('Dark', false)],
  };
  const sent = answering({ 'GET /api/site': { body: site }, 'POST /api/connection-attempts/a2/cameras': { body: { cameras: ['two'] } } });
  await draw(<SaveCamera attempt={attempt as never} />).drawn;
  await screen.findByTestId('lens-1');
  expect(screen.getByText(/Dark has no picture/)).toBeTruthy();
  await fireEvent.press(screen.getByTestId('lens-1'));
  await fireEvent.changeText(screen.getByTestId('lens-name-1'), ' ');
  await fireEvent(screen.getByTestId('lens-name-1'), 'blur');
  await screen.findByText('Required.');
  await fireEvent.press(screen.getByTestId('keep-camera'));
  expect(sent.some((s) => s.method === 'POST')).toBe(false);
  await fireEvent.changeText(screen.getByTestId('lens-name-1'), ' Yard ');
  await fireEvent.press(screen.getByTestId('turn-1'));
  await waitFor(() => expect(screen.queryByText('Required.')).toBeNull());
  await fireEvent.press(screen.getByTestId('keep-camera'));
  await waitFor(() => expect(mockNavigate).toHaveBeenCalledWith('/cameras/two'));
  expect(sent.find((s) => s.method === 'POST')!.body).toEqual({
    cameras: [{ channel: 1, name: 'Yard', area: 'landing', orientation: { turnDegrees: 90 } }],
  });
});
