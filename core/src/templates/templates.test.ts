import { checkSite } from '../check';
import { makePlan, minutesAWeek } from '../schedules';
import { siteWith } from '../testing';
import { templateKinds, templateOf, canBegin } from '.';

test.each(templateKinds)('%s: it is a site that can be used, with a mode that is armed and one that is not', (kind) => {
  const begun = templateOf(kind);
  const cameras = [{ id: 'gate', name: 'Gate', area: 'main', source: { kind: 'paired' as const } }];
  expect(checkSite({ nibber: 2, site: { name: 'Here', timezone: 'Europe/Lisbon' }, ...begun, cameras })).toMatchObject({ ok: true });
  expect(new Set(begun.modes.map((m) => m.armed))).toEqual(new Set([true, false]));
});

// Worked by hand: five days of 8 h 30 min and four hours on the Saturday; seven nights of eight hours.
test.each([
  ['shop', 'opening', 46.5],
  ['home', 'night', 56],
] as const)('%s: %s is %d hours a week', (kind, id, hours) => {
  const { weekly = {} } = templateOf(kind).schedules.find((h) => h.id === id)!;
  expect(minutesAWeek(makePlan({ zone: 'Europe/Lisbon' }, { weekly }))).toBe(hours * 60);
});

test('a site that has rules or hours does not begin again', () => {
  expect(canBegin(siteWith().file)).toBe(false);
  expect(canBegin({ ...siteWith().file, rules: [], schedules: [] })).toBe(true);
});
