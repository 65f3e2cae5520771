import type { SiteFile } from '../site';
import { siteWith } from '../testing';
import { commissioningOf, isFinished, type CameraFacts, type CommissioningStep } from '.';

const facts: CameraFacts = {
  picture: { state: 'runs', words: '5 frames per second.' },
  clock: { aheadMs: 300 },
  walks: [
    { rule: 'comes-in', expect: 'fires', verdict: 'proved' },
    { rule: 'comes-in', expect: 'quiet', verdict: 'proved' },
  ],
};
const whole = (f: SiteFile) =>
  Object.assign(f.cameras[0]!, {
    aim: { heightMetres: 3, tiltDegrees: 20, lens: { horizontalDegrees: 90 }, pictureWidth: 1920, pictureHeight: 1080 },
    tuning: {},
  });
const steps = (change: (f: SiteFile) => void, known: Partial<CameraFacts> = {}) => {
  const { file } = siteWith((f) => {
    whole(f);
    change(f);
  });
  return commissioningOf(file, file.cameras[0]!, { ...facts, ...known });
};
const step = (name: CommissioningStep, change: (f: SiteFile) => void, known: Partial<CameraFacts> = {}) => {
  const { state, words } = steps(change, known).find((s) => s.step === name)!;
  return `${state}: ${words}`;
};

test('a camera with everything done and proved is finished', () => {
  const all = steps(() => {});
  expect(all.map((s) => [s.step, s.state])).toEqual([
    ['picture', 'done'],
    ['clock', 'done'],
    ['chain', 'done'],
    ['aim', 'done'],
    ['zones', 'done'],
    ['sensitivity', 'done'],
    ['rule', 'done'],
    ['walk test', 'done'],
  ]);
  expect(isFinished(all)).toBe(true);
});

const nothing = () => {};
test.each<[CommissioningStep, RegExp, (f: SiteFile) => void, Partial<CameraFacts>]>([
  ['picture', /^wrong: It is silent/, nothing, { picture: { state: 'silent', words: 'It is silent.' } }],
  ['picture', /^open/, nothing, { picture: { state: 'none yet', words: 'No picture yet.' } }],
  ['clock', /^done/, nothing, { clock: { aheadMs: -2000 } }],
  ['clock', /^wrong: Its clock is 3 s slow\. .*network time/, nothing, { clock: { aheadMs: -2600 } }],
  ['clock', /^none: Nobody can ask it/, nothing, { clock: { unknown: 'Nobody can ask it.' } }],
  ['chain', /^wrong: .*never reported a confidence above 0\.40/, (f) => (f.cameras[0]!.builtInDetection = { maxScore: 0.4 }), {}],
  ['chain', /^open: No active rule/, (f) => (f.rules = []), {}],
  ['chain', /^open: .*built-in detection/, (f) => (f.cameras[0]!.source = { kind: 'paired' }), {}],
  ['aim', /^open/, (f) => delete f.cameras[0]!.aim, {}],
  ['zones', /^open/, (f) => Object.assign(f.cameras[0]!, { zones: [], lines: [] }), {}],
  ['zones', /^done: 2 watched zones, 1 line, 1 ignored area/, nothing, {}],
  ['sensitivity', /^open/, (f) => delete f.cameras[0]!.tuning, {}],
  ['rule', /^open: Someone comes in: switched off/, (f) => (f.rules![0]!.on = false), {}],
  ['rule', /^open: No rule uses it/, (f) => (f.rules = []), {}],
  ['walk test', /^open: Someone comes in has not been tested to fire and stay quiet/, nothing, { walks: [] }],
  ['walk test', /^open: .*to stay quiet\.$/, nothing, { walks: facts.walks.slice(0, 1) }],
  ['walk test', /^wrong: Someone comes in/, nothing, { walks: [{ rule: 'comes-in', expect: 'quiet', verdict: 'failed' }] }],
])('%s is %s', (name, expected, change, known) => {
  expect(step(name, change, known)).toMatch(expected);
  if (!String(expected).startsWith('/^done') && !String(expected).startsWith('/^none'))
    expect(isFinished(steps(change, known))).toBe(false);
});
