import { site, yard } from '../../testing/draw';
import { stepsOf, type Known } from './steps';

const bare: Known = {
  site: { ...site, settings: { name: 'New site', timezone: 'Etc/UTC' }, schedules: [] },
  cameras: [],
  rules: 0,
  phones: [],
  walks: [],
};
const open = (known: Partial<Known>) =>
  stepsOf({ ...bare, ...known })
    .filter((s) => !s.isDone)
    .map((s) => s.name);

test('of an empty place everything is open; of one that is in use nothing', () => {
  expect(open({})).toEqual(['place', 'template', 'camera', 'zone', 'rule', 'phone', 'walk']);
  expect(open({ site, cameras: [yard], rules: 1, phones: [{ person: 'Rowan' }], walks: [{ endedAt: 5 }] })).toEqual([]);
});

test('a camera without a zone, and a walk that still goes on, stay open', () => {
  const camera = { ...yard, zones: yard.zones.filter((z) => z.purpose !== 'watch'), lines: [] };
  expect(open({ site, cameras: [camera], walks: [{ endedAt: null }] })).toEqual(['zone', 'rule', 'phone', 'walk']);
  expect(stepsOf({ ...bare, cameras: [camera] }).find((s) => s.name === 'zone')!.href).toBe('/cameras/yard?draw=1');
});

test('a site that was set up by its file and has a rule needs no beginning', () => {
  expect(open({ site: { ...site, schedules: [] }, rules: 1 })).not.toContain('template');
});
