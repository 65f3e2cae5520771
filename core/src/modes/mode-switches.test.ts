import fc from 'fast-check';
import { modeSwitchesOf, switchTime, weeklyOf } from '.';

test('what is said day by day is said by times, and back', () => {
  const weekly = { mon: ['09:20 open', '18:05 closed'], tue: ['18:05 closed'], sat: ['sunset + 30 min closed'] };
  expect(modeSwitchesOf(weekly)).toEqual([
    { at: '09:20', mode: 'open', days: [0] },
    { at: '18:05', mode: 'closed', days: [0, 1] },
    { at: 'sunset + 30 min', mode: 'closed', days: [5] },
  ]);
  expect(weeklyOf(modeSwitchesOf(weekly))).toEqual(weekly);
});

test('any turns come back as they were, each once', () => {
  const modeSwitch = fc.record({
    at: fc.constantFrom('00:00', '06:30', '18:05', 'sunrise', 'sunset - 20 min'),
    mode: fc.constantFrom('open', 'closed'),
    days: fc.uniqueArray(fc.nat(6), { minLength: 1 }).map((d) => d.sort()),
  });
  fc.assert(
    fc.property(fc.uniqueArray(modeSwitch, { maxLength: 6, selector: (t) => `${t.at} ${t.mode}` }), (modeSwitches) => {
      const back = modeSwitchesOf(weeklyOf(modeSwitches));
      const byKey = (a: { at: string; mode: string }, b: { at: string; mode: string }) =>
        `${a.at} ${a.mode}`.localeCompare(`${b.at} ${b.mode}`);
      expect([...back].sort(byKey)).toEqual([...modeSwitches].sort(byKey));
    }),
  );
});

test.each([
  ['9:30', '09:30'],
  ['18:05', '18:05'],
  ['sunset+30min', 'sunset + 30 min'],
  ['Sunset − 15 min', 'sunset - 15 min'],
  ['sunrise', 'sunrise'],
  ['24:00', undefined],
  ['noon', undefined],
  ['', undefined],
])('%s is kept as %s', (text, kept) => expect(switchTime(text)).toBe(kept));
