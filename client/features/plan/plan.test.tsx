import { act, fireEvent, screen, waitFor } from '@testing-library/react-native';
import { State } from 'react-native-gesture-handler';
import { fireGestureHandler, getByGestureTestId } from 'react-native-gesture-handler/jest-utils';
import { answering, draw, yard } from '../../testing/draw';
import { Plan } from './Plan';

const aim = { heightMetres: 3, tiltDegrees: 12, lens: { horizontalDegrees: 58.5 }, pictureWidth: 1920, pictureHeight: 1080 };
const placed = { ...yard, aim: { ...aim, east: 20, north: 10, headingDegrees: 0 } };
const loose = { ...yard, id: 'gate', name: 'Gate', aim };
const plan = {
  widthMetres: 40,
  heightMetres: 30,
  covers: [
    [0.2, 0.2],
    [0.8, 0.2],
    [0.8, 0.8],
    [0.2, 0.8],
  ],
};

async function open(cameras = [placed, loose], mayEdit = true) {
  const sent = answering({ 'GET /api/plan': { body: { plan, version: 7 } }, 'PUT /api/plan': { body: { plan, version: 8 } } });
  await draw(<Plan cameras={cameras as never} mayEdit={mayEdit} />).drawn;
  await screen.findByTestId('plan');
  return sent;
}
const key = (name: string) => fireEvent(screen.getByTestId('plan'), 'keyDown', { key: name, preventDefault: () => {} });

test('it says how much is covered, and less by a harder task', async () => {
  await open();
  const shareNow = () => Number(/(\d+) %/.exec(screen.getByTestId('plan-covered').props.children as string)![1]);
  const before = shareNow();
  expect(before).toBeGreaterThan(0);
  await fireEvent.press(screen.getByTestId('plan-identify'));
  expect(shareNow()).toBeLessThan(before);
});

test('a camera is moved and turned by keys, undone, and saved with the version it was made from', async () => {
  const sent = await open();
  await fireEvent.press(screen.getByTestId('placed-yard'));
  await key('ArrowRight');
  await key('ArrowUp');
  await key('>');
  expect(screen.getByText(/20.5 m from the left, 10.5 m from the bottom/)).toBeTruthy();
  await fireEvent.press(screen.getByTestId('plan-undo'));
  await fireEvent.press(screen.getByTestId('plan-redo'));
  await fireEvent.press(screen.getByTestId('plan-undo'));
  await fireEvent.press(screen.getByTestId('keep-plan'));
  await waitFor(() =>
    expect(sent.find((s) => s.method === 'PUT')?.body).toEqual({
      plan,
      places: [{ camera: 'yard', east: 20.5, north: 10.5, headingDegrees: 0 }],
    }),
  );
});

test('what one finger drags is undone as one', async () => {
  await open();
  await fireEvent.press(screen.getByTestId('placed-yard'));
  await fireEvent(screen.getByTestId('plan'), 'layout', { nativeEvent: { layout: { width: 400, height: 300 } } });
  const at = (state: State, x: number) => ({ state, x, y: 200 });
  await act(async () =>
    fireGestureHandler(getByGestureTestId('plan'), [
      at(State.BEGAN, 200),
      at(State.ACTIVE, 210),
      at(State.ACTIVE, 230),
      at(State.END, 230),
    ]),
  );
  expect(screen.getByText(/23 m from the left, 10 m from the bottom/)).toBeTruthy();
  await fireEvent.press(screen.getByTestId('plan-undo'));
  expect(screen.getByText(/20 m from the left, 10 m from the bottom/)).toBeTruthy();
});

test('a key without a chosen camera, or of someone who may not, moves nothing', async () => {
  await open();
  await key('ArrowRight');
  expect(screen.queryByText(/m from the left/)).toBeNull();
});

test('one that is not on the plan yet is put where it is touched; without an aim it is said why not', async () => {
  await open([placed, loose, { ...yard, id: 'porch', name: 'Porch', aim: null } as never]);
  expect(screen.getByText(/Mounting unknown: Porch/)).toBeTruthy();
  await fireEvent.press(screen.getByTestId('place-gate'));
  await fireEvent(screen.getByTestId('plan'), 'layout', { nativeEvent: { layout: { width: 400, height: 300 } } });
  await act(async () =>
    fireGestureHandler(getByGestureTestId('plan'), [
      { state: State.BEGAN, x: 100, y: 30 },
      { state: State.ACTIVE, x: 100, y: 30 },
      { state: State.END, x: 100, y: 30 },
    ]),
  );
  expect(screen.getByText(/10 m from the left, 27 m from the bottom/)).toBeTruthy();
});

test('whoever may not edit sees the plan alone', async () => {
  await open([placed], false);
  expect([screen.queryByTestId('keep-plan'), screen.queryByTestId('placed-yard')]).toEqual([null, null]);
});
