import {
  effectiveMode,
  makeSwitchPlan,
  modesOfWeek,
  nextSwitch,
  parseSwitch,
  rulesByModes,
  startArea,
  stepArea,
  warningsOf,
  type AreaInput,
  type AreaOutcome,
  type AreaSettings,
} from '.';
import { siteWith } from '../testing';

const second = 1000;
const minute = 60 * second;
const ann = { id: 'ann', role: 'owner' } as const;
const ben = { id: 'ben', role: 'member' } as const;
const modes: AreaSettings['modes'] = [
  { id: 'open', name: 'Open', armed: false },
  { id: 'shut', name: 'Shut', armed: true, exitDelaySeconds: 60, entryDelaySeconds: 30, alarmSeconds: 300, endedBy: ['owner'] },
  { id: 'night', name: 'Night', armed: true },
];
const settings: AreaSettings = { modes, plan: undefined };
const start = Date.parse('2026-06-01T20:00:00Z');

function run(inputs: readonly AreaInput[], mode = 'open', using = settings): (AreaOutcome & { readonly at: number })[] {
  let state = startArea(using, mode, start);
  return inputs.flatMap((input) => {
    const next = stepArea(using, state, input);
    state = next.state;
    return next.outcomes.map((o) => ({ ...o, at: (o.at - start) / second }));
  });
}
const set = (at: number, mode: string, pin: 'right' | 'wrong' | 'none' = 'right', person: typeof ann | typeof ben = ann): AreaInput => ({
  kind: 'set',
  at: start + at * second,
  mode,
  person,
  pin,
});
const raise = (at: number, mayDelay = false): AreaInput => ({ kind: 'raise', at: start + at * second, rule: 'r', mayDelay });
const end = (at: number, pin: 'right' | 'wrong' | 'none' = 'right', person: typeof ann | typeof ben = ann): AreaInput => ({
  kind: 'end',
  at: start + at * second,
  person,
  pin,
});
const clock = (at: number): AreaInput => ({ kind: 'clock', at: start + at * second });

test('arming waits for the exit delay, and what happens meanwhile raises nothing', () => {
  expect(run([set(0, 'shut'), raise(30), clock(59), clock(61)])).toEqual([
    { kind: 'leaving', at: 0, until: start + minute },
    { kind: 'mode', at: 60, mode: 'shut', by: 'person' },
  ]);
});

test('the mode before holds until the exit delay is over', () => {
  const { state } = stepArea(settings, startArea(settings, 'open', start), set(0, 'shut'));
  expect([effectiveMode(state), effectiveMode(stepArea(settings, state, clock(60)).state)]).toEqual(['open', 'shut']);
});

test('calling it off while leaving needs no PIN', () => {
  expect(run([set(0, 'shut'), set(10, 'open', 'none'), clock(100)]).map((o) => o.kind)).toEqual(['leaving']);
});

test('a rule that allows it waits for the entry delay; another sounds at once', () => {
  expect(run([raise(0, true), clock(40)], 'shut')).toEqual([
    { kind: 'entering', at: 0, until: start + 30 * second },
    { kind: 'alarm', at: 30, rule: 'r' },
  ]);
  expect(run([raise(0)], 'shut')).toEqual([{ kind: 'alarm', at: 0, rule: 'r' }]);
  expect(run([raise(0, true), raise(5)], 'shut').at(-1)).toEqual({ kind: 'alarm', at: 5, rule: 'r' });
  expect(run([raise(0, true), set(20, 'open'), clock(60)], 'shut').map((o) => [o.kind, o.at])).toEqual([
    ['entering', 0],
    ['alarm-ended', 20],
    ['mode', 20],
  ]);
});

test('an alarm ends by the right PIN of who may, or by its time into armed', () => {
  expect(run([raise(0), end(5, 'none'), end(6, 'wrong'), end(7, 'right', ben), end(8)], 'shut')).toEqual([
    { kind: 'alarm', at: 0, rule: 'r' },
    { kind: 'refused', at: 5, why: 'A PIN is needed for this' },
    { kind: 'refused', at: 6, why: 'The PIN was wrong' },
    { kind: 'refused', at: 7, why: 'This person may not end an alarm here' },
    { kind: 'alarm-ended', at: 8, by: 'ann' },
  ]);
  expect(run([raise(0), raise(100), clock(400), raise(500)], 'shut').map((o) => [o.kind, o.at])).toEqual([
    ['alarm', 0],
    ['alarm-ended', 300],
    ['alarm', 500],
  ]);
  // Night has no time-out: it goes on until someone ends it.
  expect(run([raise(0), clock(86_400), end(86_401, 'right', ben)], 'night').map((o) => o.kind)).toEqual(['alarm', 'alarm-ended']);
});

test('disarming asks for the PIN; with nothing to end there is nothing to end', () => {
  expect(run([set(0, 'open', 'none'), set(1, 'open', 'right'), end(2)], 'night').map((o) => o.kind)).toEqual([
    'refused',
    'mode',
    'refused',
  ]);
});

const place = { zone: 'Europe/Lisbon', latitude: 38.7, longitude: -9.1 };
// 2026-06-01 is a Monday, and 20:00Z is 21:00 in Lisbon.
const plan = makeSwitchPlan(place, {
  weekly: { mon: ['22:00 night'], tue: ['07:00 open', '18:00 night'] },
  exceptions: [{ date: '2026-06-09', switches: ['10:00 open'] }],
});

test('the plan switches, a person’s command holds until the next planned switch, and odd days have their own', () => {
  expect(run([clock(2 * 3600)], 'open', { modes, plan })).toEqual([{ kind: 'mode', at: 3600, mode: 'night', by: 'plan' }]);
  expect(run([clock(3601), set(3700, 'open'), clock(12 * 3600)], 'open', { modes, plan }).map((o) => [o.kind, o.at])).toEqual([
    ['mode', 3600],
    ['mode', 3700],
  ]);
  expect(nextSwitch(plan, start)).toEqual({ at: Date.parse('2026-06-01T21:00:00Z'), mode: 'night' });
  expect(nextSwitch(plan, Date.parse('2026-06-09T00:00:00Z'))).toEqual({ at: Date.parse('2026-06-09T09:00:00Z'), mode: 'open' });
  expect(nextSwitch(makeSwitchPlan(place, { weekly: {} }), start)).toBeUndefined();
});

test('the plan never ends an alarm; the mode it sets comes when a person has', () => {
  const outcomes = run([raise(0), clock(11 * 3600), end(11 * 3600 + 1)], 'night', { modes, plan });
  expect(outcomes.map((o) => [o.kind, 'mode' in o && o.mode])).toEqual([
    ['alarm', false],
    ['mode', 'night'],
    ['mode', 'open'],
    ['alarm-ended', false],
  ]);
});

// IANA zone data, Europe/Lisbon 2026: clocks go forward on 29 March at 01:00Z, so 01:30 is not shown that day.
test('a switch at a time that the clocks leave out comes when they have gone on', () => {
  const odd = makeSwitchPlan(place, { weekly: { sun: ['01:30 night'] } });
  expect(nextSwitch(odd, Date.parse('2026-03-29T00:00:00Z'))!.at).toBe(Date.parse('2026-03-29T01:00:00Z'));
});

test.each(['25:00 open', '18:00', '18:00 Open!', '24:00 open', 'noon open'])('%s is no switch', (text) => {
  expect(parseSwitch(text)).toBeUndefined();
});

test('the table says which rule is on in which mode', () => {
  const { file } = siteWith((f) =>
    f.rules!.push({ ...f.rules![0]!, id: 'off', on: false }, { ...f.rules![0]!, id: 'any', modes: undefined } as never),
  );
  expect(rulesByModes(file).rows.map((r) => [r.rule, r.isOn])).toEqual([
    ['comes-in', [false, true]],
    ['off', [false, false]],
    ['any', [true, true]],
  ]);
});

test('what is wrong in it is said, with what to do', () => {
  const warnings = (change: Parameters<typeof siteWith>[0]) => warningsOf(siteWith(change).file).map((w) => `${w.kind} ${w.about}`);
  expect(warnings((f) => f.rules![0]!.cameras.push('side'))).toEqual([]);
  expect(warnings(() => {})).toEqual(['camera-in-no-rule side']);
  expect(warnings((f) => (f.rules![0]!.modes = []))).toEqual([
    'armed-but-empty shut',
    'rule-in-no-mode comes-in',
    'camera-in-no-rule side',
  ]);
  const switched = (weekly: object) =>
    warnings((f) => {
      f.rules![0]!.cameras.push('side');
      f.modeSchedules = [{ id: 's', areas: ['yard'], weekly }];
    });
  // Closing time is Monday and Tuesday from 18:00 to 08:00 of the next day.
  expect(switched({ mon: ['09:00 shut', '17:00 open'], tue: ['09:00 shut', '17:00 open'] })).toEqual([
    'schedule-never-meets-modes comes-in',
  ]);
  expect(switched({ mon: ['17:00 shut'], tue: ['09:00 open'] })).toEqual([]);
});

test('a week goes round', () => {
  const week = modesOfWeek(
    siteWith((f) => (f.modeSchedules = [{ id: 's', areas: ['yard'], weekly: { wed: ['12:00 shut'], fri: ['12:00 open'] } }])).file,
    'yard',
  )!;
  expect([week[0], week[2 * 1440 + 719], week[2 * 1440 + 720], week[4 * 1440 + 720]]).toEqual(['open', 'open', 'shut', 'open']);
});
