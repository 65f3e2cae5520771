import { fireEvent, screen } from '@testing-library/react-native';
import { draw } from '../../testing/draw';
import { Loading } from './Loading';

test('a screen that is being fetched says so; one that cannot be says why, and is asked for again', async () => {
  let asked = 0;
  const refetch = () => asked++;
  const { drawn } = draw(<Loading of={[{ isFetching: true, refetch }]} />);
  await drawn;
  expect(screen.getByText('Loading…')).toBeTruthy();
  const error = { status: 503, data: { error: { code: 'unavailable', message: 'The disk is full.', hint: 'Make room.', problems: [] } } };
  await draw(
    <Loading
      words="Reading"
      of={[
        { isFetching: false, refetch },
        { error, isFetching: false, refetch },
      ]}
    />,
  ).drawn;
  expect(screen.getByText('The disk is full. Make room.')).toBeTruthy();
  await fireEvent.press(screen.getByTestId('try-again'));
  expect(asked).toBe(1);
});
