import { armingOf } from '.';
import { siteWith } from '../testing';
import type { SiteFile } from '../site';

const arming = (change: (file: SiteFile) => void = () => {}, mode = 'shut', areas = ['yard'], silent: Record<string, string> = {}) =>
  armingOf(siteWith(change).file, mode, areas, (c) => silent[c]);
const [gate] = ['gate'];

test('the rules that will be on are named, and nothing stands in the way', () => {
  expect(arming()).toEqual({ rules: [{ id: 'comes-in', name: 'Someone comes in' }], inTheWay: [] });
});

test.each<[string, (file: SiteFile) => void, string[]]>([
  ['an armed mode without a rule', (f) => (f.rules = []), ['No rule is active in this mode. No alerts will be sent.']],
  ['a rule that is off counts as none', (f) => (f.rules![0]!.on = false), ['No rule is active in this mode. No alerts will be sent.']],
  ['a rule that tells nobody', (f) => (f.rules![0]!.notify = []), ['Someone comes in notifies no one.']],
  [
    'a camera that never reports what is asked',
    (f) => (f.cameras[0]!.builtInDetection = { classes: ['vehicle'] }),
    [expect.stringMatching(/^Gate does not report person, which Someone comes in needs\. Turn on/)],
  ],
  [
    'less than would keep it silent for ever is not in the way',
    (f) => (f.cameras[0]!.builtInDetection = { classes: ['person'], minScore: 0.7 }),
    [],
  ],
])('%s', (_what, change, inTheWay) => expect(arming(change).inTheWay).toEqual(inTheWay));

test('a silent camera is said only where a rule of the mode needs it', () => {
  const silent = { [gate!]: 'No picture for 5 s.', side: 'No picture for 5 s.' };
  expect(arming(() => {}, 'shut', ['yard'], silent).inTheWay).toEqual(['Gate sends no pictures. No picture for 5 s.']);
  expect(arming(() => {}, 'open', ['yard'], silent)).toEqual({ rules: [], inTheWay: [] });
});

test('areas that are not set are not looked at', () => {
  expect(arming(() => {}, 'shut', ['attic'])).toEqual({ rules: [], inTheWay: ['No rule is active in this mode. No alerts will be sent.'] });
});
