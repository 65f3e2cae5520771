import { act, fireEvent, screen } from '@testing-library/react-native';
import { packCells, defaultTuning, type Effect } from '@nibber/core/tuning';
import { answering, draw, yard } from '../../testing/draw';
import { Tune } from './Tune';
import { effectWords, thingWords, valueWords } from './words';

const effect = (change: Partial<Effect>): Effect => ({ pictures: 100, moving: 40, smallOnly: 0, lightChanges: 0, things: [], ...change });

test('what settings would have done is said beside what the live ones did', () => {
  expect(effectWords(effect({}), effect({}))).toEqual({ headline: 'Motion in 40 of 100 frames.', details: [] });
  expect(effectWords(effect({ moving: 12, smallOnly: 28, lightChanges: 1 }), effect({}))).toEqual({
    headline: 'Motion in 12 instead of 40 of 100 frames.',
    details: ['In 28, the motion was too small.', '1 lighting changes ignored.'],
  });
  expect(effectWords(effect({ moving: 60 }), effect({})).details).toContain('It is not known what the detector would have found there.');
  expect(effectWords(effect({ pictures: 0 }), effect({})).headline).toMatch(/No pictures yet/);
});

test.each([
  [undefined, 'dog, confidence up to 0.62: detected'],
  ['confidence', 'dog, confidence up to 0.62: confidence too low, needs 0.70'],
  ['motion', 'dog, confidence up to 0.62: too little motion to be analysed'],
] as const)('a thing that is lost to %s', (lostTo, words) => {
  expect(thingWords({ track: '1', class: 'pet', type: 'dog', from: 0, to: 1, best: 0.62, lostTo }, 0.7)).toBe(words);
});

test('values are shown as people read them', () => {
  expect([valueWords('threshold', 30), valueWords('contrast', 0.35), valueWords('confidence', 0.5)]).toEqual(['30', '35 %', '0.50']);
});

/** Two pictures in which a part of 36 cells moved. */
const entries = [1, 2].map((number) => {
  const plain = new Uint8Array(40 * 20);
  for (let y = 5; y < 9; y++) plain.fill(80, y * 40 + 10, y * 40 + 14);
  const cells = Buffer.from(packCells({ plain, drawn: undefined })).toString('base64');
  return { kind: 'picture', number, at: number * 200, width: 40, height: 20, counted: 800, cells, hasPicture: number === 1 };
});

test('what is tried is kept with the camera, and the usual values are a touch away', async () => {
  // The page asks for what is new over and over: here the answer to the second question never comes.
  let asked = 0;
  const sent = answering({ 'PUT /api/cameras/yard/settings': { body: yard } });
  const answered = globalThis.fetch;
  globalThis.fetch = (async (input: Request | string) =>
    typeof input === 'string'
      ? asked++ === 0
        ? new Response(JSON.stringify({ entries }))
        : new Promise(() => {})
      : answered(input)) as typeof fetch;
  const { store, drawn } = draw(<Tune camera={{ ...yard, tuning: { threshold: 22 } }} done={() => {}} />);
  await drawn;
  await screen.findByText('Motion in 2 of 2 frames.', {}, { timeout: 10_000 });
  await fireEvent.press(screen.getByTestId('tune-usual'));
  expect(store.getState().tuningDraft.draft?.tuning).toEqual(defaultTuning);
  expect(screen.getByTestId('tune-threshold-value')).toHaveTextContent('30');
  await fireEvent.press(screen.getByLabelText('Threshold: more'));
  expect(screen.getByTestId('tune-threshold-value')).toHaveTextContent('31');
  await fireEvent.press(screen.getByLabelText('Threshold: less'));
  await fireEvent.press(screen.getByTestId('leave-tuning'));
  expect(screen.getByText('You have unsaved changes.')).toBeTruthy();
  await act(async () => fireEvent.press(screen.getByTestId('keep-tuning')));
  expect(sent.find((s) => s.method === 'PUT')?.body).toEqual({ tuning: defaultTuning });
  expect(store.getState().tuningDraft.draft).toBeNull();
});
