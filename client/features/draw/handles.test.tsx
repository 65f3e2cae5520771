import { act, fireEvent, screen } from '@testing-library/react-native';
import { State } from 'react-native-gesture-handler';
import { fireGestureHandler, getByGestureTestId } from 'react-native-gesture-handler/jest-utils';
import type { Point } from '@nibber/core/boxes';
import { draw } from '../../testing/draw';
import { Handles, type Dragged } from './Handles';

const square: readonly Point[] = [
  [0.1, 0.1],
  [0.9, 0.1],
  [0.9, 0.9],
  [0.1, 0.9],
];
const zone = { kind: 'zone' as const, id: 'z', name: 'Z', purpose: 'watch' as const, points: square };

async function open(more: Partial<Parameters<typeof Handles>[0]> = {}) {
  const done = {
    chosen: [] as (number | null)[],
    dragged: [] as Dragged[],
    dropped: [] as (readonly Point[] | undefined)[],
    removed: [] as number[],
  };
  const { drawn } = draw(
    <Handles
      drawing={zone}
      isOpen={false}
      chosen={null}
      choose={(i) => done.chosen.push(i)}
      drag={(dragged) => done.dragged.push(dragged)}
      drop={(points) => done.dropped.push(points)}
      remove={(i) => done.removed.push(i)}
      {...more}
    />,
  );
  await drawn;
  await fireEvent(screen.getByTestId('handle-0').parent!, 'layout', { nativeEvent: { layout: { width: 400, height: 200 } } });
  return done;
}
/** A finger on what bears this name. */
const finger = (id: string, ...events: object[]) => act(() => fireGestureHandler(getByGestureTestId(id), events));
const at = (state: State, absoluteX: number, absoluteY: number) => ({ state, absoluteX, absoluteY });
const enter = { key: 'Enter', preventDefault: () => {} };

test('each point and the middle of each edge can be taken hold of', async () => {
  await open();
  expect(screen.getAllByLabelText(/^Point \d$/)).toHaveLength(4);
  expect(screen.getAllByLabelText(/^Add point on edge/)).toHaveLength(4);
});

test('the keyboard chooses a point by coming to it, and Enter adds one on an edge', async () => {
  const done = await open();
  await fireEvent(screen.getByTestId('handle-2'), 'focus');
  expect(done.chosen).toEqual([2]);
  await fireEvent(screen.getByLabelText('Add point on edge 1'), 'keyDown', enter);
  expect(done.dropped).toEqual([
    [
      [0.1, 0.1],
      [0.5, 0.1],
      [0.9, 0.1],
      [0.9, 0.9],
      [0.1, 0.9],
    ],
  ]);
  await fireEvent(screen.getByLabelText('Add point on edge 1'), 'keyDown', { ...enter, key: 'x' });
  expect(done.dropped).toHaveLength(1);
});

test('while it is open, a touch on the picture adds a point there, and edges cannot be touched', async () => {
  const done = await open({ isOpen: true });
  expect(screen.queryAllByLabelText(/^Add point on edge/)).toEqual([]);
  finger('add-by-tap', { state: State.BEGAN, x: 100, y: 100 }, { state: State.ACTIVE, x: 100, y: 100 });
  expect(done.dropped[0]!.at(-1)).toEqual([0.25, 0.5]);
});

test('a dragged point goes with the finger, and stays where it is let go', async () => {
  const done = await open();
  finger('handle-0', at(State.BEGAN, 100, 50), at(State.ACTIVE, 120, 60), at(State.ACTIVE, 140, 70), at(State.END, 140, 70));
  expect(done.chosen).toEqual([0]);
  expect(done.dragged.at(-1)).toEqual({ index: 0, points: [[0.2, 0.2], ...square.slice(1)] });
  expect(done.dropped).toEqual([[[0.2, 0.2], ...square.slice(1)]]);
});

test('the middle of an edge becomes a point when it is dragged', async () => {
  const done = await open();
  finger('middle-1', at(State.BEGAN, 100, 50), at(State.ACTIVE, 100, 70), at(State.END, 100, 70));
  expect(done.dropped).toEqual([[square[0], [0.5, 0.2], ...square.slice(1)]]);
});

test('a point that is held goes, unless too few would be left', async () => {
  const done = await open();
  finger('hold-1', { state: State.BEGAN }, { state: State.ACTIVE });
  expect(done.removed).toEqual([1]);
});

test('on a short edge there is no room for a middle', async () => {
  await open({
    drawing: {
      ...zone,
      points: [
        [0.1, 0.1],
        [0.9, 0.1],
        [0.9, 0.14],
      ],
    },
  });
  expect(screen.getAllByLabelText(/^Add point on edge/).map((h) => h.props['aria-label'] as string)).toEqual([
    'Add point on edge 1',
    'Add point on edge 3',
  ]);
});
