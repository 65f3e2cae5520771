import { act, fireEvent, screen, waitFor } from '@testing-library/react-native';
import { State } from 'react-native-gesture-handler';
import { fireGestureHandler, getByGestureTestId } from 'react-native-gesture-handler/jest-utils';
import { answering, draw, site } from '../../testing/draw';
import { ScheduleEditor } from './ScheduleEditor';
import { clockDayWords, lengthWords, readWords, usesWords } from './words';

test.each([
  [0, 'none'],
  [15, '15 min'],
  [480, '8 h'],
  [3315, '55 h 15 min'],
])('%d minutes are %s', (minutes, words) => expect(lengthWords(minutes)).toBe(words));

test('a clock change says what it does', () => {
  const day = { date: '2027-03-28', at: 0, step: 60 };
  expect(clockDayWords({ ...day, onMinutes: 300, defaultMinutes: 360 })).toBe(
    'Sunday 28 March 2027, when the clocks go forward by 1 h: on for 5 h instead of 6 h.',
  );
  expect(clockDayWords({ ...day, step: -30, onMinutes: 0, defaultMinutes: 0 })).toBe(
    'Sunday 28 March 2027, when the clocks go back by 30 min: not on, as usual.',
  );
});

test('uses, and what a calendar would do, in words', () => {
  expect(usesWords([])).toBe('Not used yet.');
  expect(
    usesWords([
      { kind: 'rule', id: 'a', name: 'Someone comes in' },
      { kind: 'quiet hours', id: 'b', name: 'Tess' },
    ]),
  ).toBe('Used by the rule Someone comes in and the quiet hours of Tess.');
  expect(readWords({ added: ['x'], changed: [], removed: ['y', 'z'], kept: ['k'] })).toBe(
    'Days: 1 new, 2 removed. One day was set by hand and will not change.',
  );
  expect(readWords({ added: [], changed: [], removed: [], kept: [] })).toBe('Nothing new. All its days are already there.');
});

const plan = { id: 'opening', name: 'Opening hours', weekly: { mon: ['09:00-18:00'] } };
const now = { plan, on: false, next: null, words: '', minutesAWeek: 540, uses: [], clockDays: [] };

async function open(answers: Parameters<typeof answering>[0] = {}, id = 'opening') {
  const session = { visitor: { name: 'Rowan', role: 'owner' }, isNew: false, siteName: null };
  const sent = answering({
    'GET /api/schedules': { body: { schedules: [now], version: 4, now: Date.parse('2026-06-03T12:00:00Z') } },
    'GET /api/session': { body: session },
    'PUT /api/schedules/opening': { body: { id: 'opening' } },
    ...answers,
  });
  await draw(<ScheduleEditor site={site} id={id} />).drawn;
  return sent;
}
const laidOut = () => fireEvent(screen.getByTestId('week-grid'), 'layout', { nativeEvent: { layout: { width: 240, height: 308 } } });
const finger = (...places: [State, number, number][]) =>
  act(async () =>
    fireGestureHandler(
      getByGestureTestId('week-grid'),
      places.map(([state, x, y]) => ({ state, x, y })),
    ),
  );
const painted = () => screen.getByTestId('painted').props.children as string;
const aWeek = () => screen.getByTestId('schedule-a-week').props.children as string;
const saved = (sent: Awaited<ReturnType<typeof open>>) => sent.find((s) => s.method === 'PUT')?.body;

test('a drag paints from quarter to quarter over days, a touch an hour; each is undone by itself', async () => {
  await open();
  await screen.findByTestId('week-grid');
  await laidOut();
  await finger([State.BEGAN, 100, 60], [State.ACTIVE, 110, 90], [State.ACTIVE, 120, 100], [State.END, 120, 100]);
  expect(painted()).toBe('Tuesday to Wednesday 10:00 to 12:00: on');
  expect(aWeek()).toBe('13 h a week');
  await finger([State.BEGAN, 95, 20], [State.ACTIVE, 95, 20], [State.ACTIVE, 96, 20], [State.END, 96, 20]);
  expect(painted()).toBe('Monday 09:00 to 10:00: off');
  expect(aWeek()).toBe('12 h a week');
  await fireEvent.press(screen.getByTestId('schedule-undo'));
  expect(aWeek()).toBe('13 h a week');
  await fireEvent.press(screen.getByTestId('schedule-undo'));
  expect(aWeek()).toBe('9 h a week');
});

test('keys walk over the week and paint; what was typed is sent with the version that it was made from', async () => {
  const sent = await open();
  const week = await screen.findByTestId('week-grid');
  const key = (name: string, shiftKey = false) => fireEvent(week, 'keyDown', { key: name, shiftKey, preventDefault: () => {} });
  await key('ArrowDown');
  await key(' ');
  await key('ArrowRight', true);
  expect(painted()).toBe('Tuesday 09:00 to 09:30: on');
  expect(screen.getByTestId('week-grid').props['aria-valuetext']).toBe('Tuesday 09:15, on');
  await fireEvent.press(screen.getByTestId('save-schedule'));
  await waitFor(() => expect(saved(sent)).toMatchObject({ id: 'opening', weekly: { mon: ['09:00-18:00'], tue: ['09:00-09:30'] } }));
});

test('what cannot be read stays in its field and is not taken over', async () => {
  await open();
  await fireEvent.press(await screen.findByTestId('day-0'));
  await fireEvent.changeText(screen.getByTestId('day-spans'), '9 to 6');
  expect(screen.getByText(/“9 to 6” is not a time range/)).toBeTruthy();
  await fireEvent.changeText(screen.getByTestId('day-spans'), '09:00-12:00, 11:00-13:00');
  expect(screen.getByText('Two of them overlap.')).toBeTruthy();
  await fireEvent.press(screen.getByTestId('day-done'));
  expect(screen.getByTestId('day-spans')).toBeTruthy();
});

test('a save that is refused says why, and the draft stays', async () => {
  const error = { code: 'conflict', message: 'Tess changed this meanwhile.', hint: 'Look at what stands now.', problems: [] };
  await open({ 'PUT /api/schedules/opening': { status: 409, body: { error } } });
  await fireEvent.changeText(await screen.findByTestId('schedule-name'), 'Opening times');
  await fireEvent.press(screen.getByTestId('save-schedule'));
  await screen.findByText('Tess changed this meanwhile. Look at what stands now.');
  expect(screen.getByTestId('schedule-name').props.value).toBe('Opening times');
});

test('hours that are not there say so', async () => {
  await open({}, 'lunch');
  await screen.findByText('Schedule not found.');
});
