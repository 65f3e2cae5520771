import { fireEvent, screen, waitFor } from '@testing-library/react-native';
import type { Reading, Reminder } from '@nibber/core/site';
import type { ReadingValue } from '../../state/api/types';
import { answering, draw, site } from '../../testing/draw';
import { Readings } from './Readings';
import { readingLacks, ReadingSheet } from './ReadingSheet';
import { ReminderSheet } from './ReminderSheet';
import { lineOf, nearest } from './line';
import { reminderWords, timesIn, timesWords, valueWords } from './words';

const canoes: Reading = {
  id: 'canoes',
  name: 'Canoes',
  camera: 'yard',
  unit: 'canoes',
  min: 0,
  max: 12,
  target: { min: 12 },
  by: { question: 'How many?', kind: 'number' },
};
const out: Reminder = {
  id: 'out',
  name: 'Still out',
  reading: 'canoes',
  is: { under: 12 },
  at: ['sunset + 30 min'],
  openDays: site.schedules[0]!.id,
  againMinutes: 15,
  until: '22:00',
  notify: [{ to: 'owner', channel: 'push' }],
};
const minute = 60_000;
const at = (minutes: number, value: ReadingValue['value'], more: Partial<ReadingValue> = {}): ReadingValue => ({
  id: `t${minutes}`,
  at: minutes * minute,
  due: null,
  takenAt: minutes * minute,
  isOld: false,
  value,
  why: value === null ? 'It could not be seen' : null,
  seconds: 1,
  service: 'Near',
  cost: null,
  currency: null,
  picture: null,
  corrected: null,
  correctedBy: null,
  ...more,
});

test('a reminder reads as a sentence; times as one would say them', () => {
  expect(reminderWords(out, canoes, site)).toMatch(
    /^When Canoes is under 12 canoes at sunset \+ 30 min on days with .*, notify the owner, again every 15 min until resolved, until 22:00\.$/,
  );
  expect(
    reminderWords(
      {
        ...out,
        is: { over: 3 },
        at: undefined,
        openDays: undefined,
        againMinutes: undefined,
        until: undefined,
        forMinutes: 30,
        days: ['mon', 'tue'],
      } as never,
      canoes,
      site,
    ),
  ).toBe('When Canoes is over 3 canoes for 30 min on Mondays and Tuesdays, notify the owner.');
  expect(timesWords({ times: { at: ['18:30', 'sunset'], everyMinutes: 30 } }, site)).toBe('At 18:30 and sunset, every 30 min');
  expect(timesWords({}, site)).toBe('On request');
  expect([valueWords(true), valueWords(3, 'canoes'), valueWords('ajar', 'canoes')]).toEqual(['yes', '3 canoes', 'ajar']);
});

test.each([
  ['18:30, Sunset+30 min', ['18:30', 'sunset + 30 min'], undefined],
  ['', [], undefined],
  ['25:00', ['25:00'], '25:00 is not a time. Use 18:30, sunset or sunset + 30 min.'],
])('times as they are typed: %j', (text, list, wrong) => expect(timesIn(text)).toEqual(wrong ? { at: list, wrong } : { at: list }));

const frame = { from: 0, to: 100 * minute, width: 200, height: 100 };

test('a line breaks where nothing was read for long, and where a reading came to nothing; what was put right counts', () => {
  const line = lineOf(
    [at(0, 12), at(10, 11), at(20, 12), at(30, null), at(40, 12), at(90, 9, { corrected: 12 })],
    frame,
    canoes,
    canoes.target,
  );
  expect(line.pieces.map((p) => p.map((q) => q.taken.id))).toEqual([['t0', 't10', 't20'], ['t40'], ['t90']]);
  expect(line.points.map((p) => p.isOff)).toEqual([false, true, false, false, false]);
  expect(line.failed.map((f) => f.x)).toEqual([60]);
  expect(line.marks.map((m) => m.words)).toEqual(['0', '12']);
  expect(line.band!.bottom).toBeCloseTo(line.points[0]!.y, 5);
  expect([nearest(line, 61)?.id, nearest(line, 199)?.id]).toEqual(['t30', 't90']);
});

test('what is no number has a level for each word', () => {
  const line = lineOf([at(0, 'open'), at(10, 'closed'), at(20, 'open')], frame, {}, undefined);
  expect(line.marks.map((m) => m.words)).toEqual(['closed', 'open']);
  expect(line.points[0]!.y).toBeLessThan(line.points[1]!.y);
  expect(lineOf([], frame, canoes, canoes.target)).toMatchObject({ points: [], pieces: [], band: null, marks: [] });
});

test.each([
  [{ name: '' }, 'Enter a name.'],
  [{ by: { question: '', kind: 'number' } }, 'Enter a question.'],
  [{ by: { question: 'Is it?', kind: 'one of', of: ['a'] } }, 'Enter at least two options.'],
  [{}, undefined],
])('a reading that lacks something says what: %j', (change, words) => {
  expect(readingLacks({ ...canoes, ...change } as Reading, undefined)).toBe(words);
});

const cameras = [{ id: 'yard', name: 'Yard', area: 'landing', zones: [], lines: [] }] as never;

test('a reading is set up by what is filled in, and nothing else is sent', async () => {
  const sent = answering({ 'POST /api/readings': { body: { id: 'canoes', version: 4 } } });
  await draw(<ReadingSheet of={undefined} site={site} cameras={cameras} version={3} close={() => {}} />).drawn;
  for (const [id, text] of [
    ['name', 'Canoes'],
    ['question', 'How many?'],
    ['max', '12'],
    ['at', '18:30'],
  ] as const)
    await fireEvent.changeText(screen.getByTestId(`reading-${id}`), text);
  await fireEvent.press(screen.getByTestId('reading-save'));
  await waitFor(() =>
    expect(sent.map((s) => s.body)).toEqual([
      { reading: { name: 'Canoes', camera: 'yard', by: { question: 'How many?', kind: 'number' }, max: 12, times: { at: ['18:30'] } } },
    ]),
  );
});

test('a reminder is set up with its sentence in sight', async () => {
  const sent = answering({ 'POST /api/reminders': { body: { id: 'out', version: 4 } } });
  await draw(<ReminderSheet of={undefined} reading={canoes} site={site} version={3} close={() => {}} />).drawn;
  await fireEvent.changeText(screen.getByTestId('reminder-name'), 'Still out');
  await fireEvent.changeText(screen.getByTestId('reminder-until'), '22:00');
  expect(screen.getByTestId('reminder-words').props.children).toBe(
    'When Canoes is under 12 canoes, notify the owner, again every 15 min until resolved, until 22:00.',
  );
  await fireEvent.press(screen.getByTestId('reminder-save'));
  await waitFor(() =>
    expect(sent.map((s) => s.body)).toEqual([
      {
        reminder: {
          name: 'Still out',
          reading: 'canoes',
          is: { under: 12 },
          againMinutes: 15,
          until: '22:00',
          notify: [{ to: 'owner', channel: 'push' }],
        },
      },
    ]),
  );
});

test('what it says stands large; it is put right by hand', async () => {
  const last = at(5, 11);
  const sent = answering({
    'GET /api/readings': {
      body: {
        readings: [{ reading: canoes, cameraName: 'Yard', last, nextAt: null, isBusy: false }],
        reminders: [{ reminder: out, since: null, notifiedAt: null }],
        version: 3,
      },
    },
    'GET /api/cameras': { body: [] },
    [`GET /api/readings/canoes/values`]: { body: [last] },
    'PUT /api/reading-values/t5': { body: { ...last, corrected: 12, correctedBy: 'Rowan' } },
  });
  await draw(<Readings site={site} />).drawn;
  expect((await screen.findByTestId('reading-canoes-value')).props.children).toBe('11 canoes');
  await fireEvent.press(await screen.findByTestId('value-correct'));
  await fireEvent.changeText(screen.getByTestId('value-value'), '12');
  await fireEvent.press(screen.getByTestId('value-save'));
  await waitFor(() => expect(sent.filter((s) => s.body).map((s) => s.body)).toEqual([{ corrected: 12 }]));
});
