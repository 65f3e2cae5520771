import { fireEvent, screen, waitFor } from '@testing-library/react-native';
import { answering, draw, site } from '../../testing/draw';
import { ModeSchedules } from './ModeSchedules';
import { daysWords } from './ModeScheduleSheets';

const area = site.areas[0]!.id;
const plan = { id: 'evening', areas: [area], weekly: { mon: ['18:00 closed'], tue: ['18:00 closed'] } };

async function open(plans = [plan], mayEdit = true) {
  const sent = answering({ 'PUT /api/mode-schedules': { body: { version: 2 } } });
  await draw(<ModeSchedules site={site} plans={plans} version={1} mayEdit={mayEdit} />).drawn;
  return () => sent.find((s) => s.path === '/api/mode-schedules')?.body as { modeSchedules: (typeof plan)[] } | undefined;
}

test('a time is added for some days; one that is none says what would be', async () => {
  const sent = await open();
  await fireEvent.press(screen.getByTestId('add-turn'));
  await fireEvent.changeText(screen.getByTestId('turn-at'), 'noon');
  expect(screen.getByText('For example 18:00 or sunset + 30 min.')).toBeTruthy();
  await fireEvent.changeText(screen.getByTestId('turn-at'), '9:20');
  await fireEvent.press(screen.getByTestId('turn-mode-open'));
  await fireEvent.press(screen.getByTestId('turn-Workdays'));
  await fireEvent.press(screen.getByTestId('turn-day-4'));
  await fireEvent.press(screen.getByTestId('turn-done'));
  await waitFor(() => expect(sent()).toBeDefined());
  expect(sent()!.modeSchedules[0]!.weekly).toEqual({
    mon: ['18:00 closed', '09:20 open'],
    tue: ['18:00 closed', '09:20 open'],
    wed: ['09:20 open'],
    thu: ['09:20 open'],
  });
});

test('on a date nothing switches', async () => {
  const sent = await open();
  await fireEvent.press(screen.getByTestId('add-not-on'));
  expect(screen.getByText('No automatic changes that day; the mode stays as it is.')).toBeTruthy();
  expect(sent()).toBeUndefined();
});

test('a time is removed, and the whole plan', async () => {
  const sent = await open();
  await fireEvent.press(screen.getByTestId('turn-18:00-closed'));
  await fireEvent.press(screen.getByTestId('remove-turn'));
  await waitFor(() => expect(sent()!.modeSchedules[0]!.weekly).toEqual({}));
});

test('whoever may not set up only reads', async () => {
  await open([plan], false);
  expect(screen.getByText('Closed from 18:00')).toBeTruthy();
  expect(screen.queryByTestId('add-turn')).toBeNull();
  expect(screen.queryByTestId('remove-mode-schedule')).toBeNull();
});

test.each([
  [[0, 1, 2, 3, 4], 'workdays'],
  [[6, 5], 'the weekend'],
  [[4, 0], 'Monday and Friday'],
])('%j are %s', (days, words) => expect(daysWords(days)).toBe(words));
