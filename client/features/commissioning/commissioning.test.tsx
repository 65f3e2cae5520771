import { fireEvent, screen } from '@testing-library/react-native';
import { answering, draw } from '../../testing/draw';
import type { Commissioned } from '../../state/api/types';
import { CommissioningList } from './CommissioningList';
import { ToFinish } from './ToFinish';

const yard: Commissioned = {
  camera: 'yard',
  name: 'Yard',
  isFinished: false,
  steps: [
    { step: 'picture', state: 'done', words: '5 frames per second.' },
    { step: 'clock', state: 'wrong', words: 'Its clock is 9 s slow.' },
    { step: 'aim', state: 'open', words: 'Nobody has said how it stands.' },
  ],
};
const porch: Commissioned = { camera: 'porch', name: 'Porch', isFinished: true, steps: yard.steps.map((s) => ({ ...s, state: 'done' })) };

test('a step that is open leads to where it is done', async () => {
  answering({ 'GET /api/cameras/yard/commissioning': { body: yard } });
  let went = 0;
  await draw(<CommissioningList camera="yard" places={{ aim: { testID: 'aim', go: () => went++ } }} />).drawn;
  await screen.findByText('Set-up: 2 of 3 steps left');
  await fireEvent.press(screen.getByTestId('aim'));
  expect(went).toBe(1);
  expect(screen.getByTestId('step-clock-wrong')).toBeTruthy();
});

test('a camera of which nothing is open is in service', async () => {
  answering({ 'GET /api/cameras/porch/commissioning': { body: porch } });
  await draw(<CommissioningList camera="porch" places={{}} />).drawn;
  await screen.findByText('Ready: all steps done');
});

test('for the site as a whole, what is not finished is seen at once', async () => {
  answering({ 'GET /api/commissioning': { body: { cameras: [yard, porch] } } });
  await draw(<ToFinish />).drawn;
  await screen.findByText('1 of 2 cameras ready.');
  expect(screen.getByTestId('finish-yard')).toBeTruthy();
});
