import { readSite } from '../check';
import { compileSchedule, compileSite, means, peopleNamed, type SiteFile } from '.';
import { siteWith, yardText } from '../testing';

/** The example of the contract, as people will write it. */
const example = `nibber: 1
site: { name: Example yard, timezone: Europe/Lisbon, latitude: 38.7, longitude: -9.1 }
areas:
  - { id: yard, name: Yard }
hours:
  - id: closed
    name: Outside opening hours
    weekly:
      mon: ["18:00-08:00"]          # ends the next day
      sat: ["00:00-24:00"]
    exceptions:
      - { date: 2026-12-24, spans: ["13:00-24:00"] }
modes:
  - { id: open, name: Open, armed: false }
  - { id: shut, name: Shut, armed: true, exitDelaySeconds: 60, entryDelaySeconds: 30 }
cameras:
  - id: gate
    name: Gate
    area: yard
    source: { kind: streamed, low: "http://127.0.0.1:9001/low.mjpg", full: "http://127.0.0.1:9001/full.mjpg" }
    zones:
      - { id: lane, name: Lane, purpose: watch, polygon: [[0, 0.4], [1, 0.4], [1, 0.55], [0, 0.55]] }
      - { id: yard, name: Yard, purpose: watch, polygon: [[0, 0.6], [1, 0.6], [1, 1], [0, 1]] }
      - { id: hedge, name: Hedge, purpose: ignore, classes: [pet], polygon: [[0, 0], [0.2, 0], [0.2, 0.4], [0, 0.4]] }
      - { id: next-door, name: Next door, purpose: privacy, polygon: [[0.8, 0], [1, 0], [1, 0.4], [0.8, 0.4]] }
    lines:
      - { id: gateway, name: Gateway, points: [[0.3, 0.58], [0.7, 0.58]] }
rules:
  - id: comes-in
    name: Someone comes in
    cameras: [gate]
    classes: [person]
    confidence: 0.5
    anchor: feet                      # feet | centre | { overlap: 0.4 }
    does: { kind: goes, from: lane, to: yard }
    modes: [shut]
    hours: closed
    restSeconds: 300
    tell: [{ to: owner, by: push }]
`;

test('the example of the contract is sound, and dates stay text', () => {
  const read = readSite(example);
  expect(read).toMatchObject({ ok: true });
  expect(read.ok && read.site.schedules![0]!.exceptions).toEqual([{ date: '2026-12-24', spans: ['13:00-24:00'] }]);
});

test('a compiled rule has every id replaced by what it names', () => {
  const camera = compileSite((readSite(example) as { site: SiteFile }).site).cameras.get('gate')!;
  expect(camera.rules[0]).toMatchObject({
    on: true,
    watchesCamera: true,
    confidence: 0.5,
    anchor: 'feet',
    restMs: 300_000,
    behaviour: { kind: 'goes', from: { name: 'Lane' }, to: { name: 'Yard' }, bothDirections: false, frames: 1 },
  });
  expect(camera.rules[0]!.ignored.map(({ part: p }) => [p.name, p.purpose, p.classes && [...p.classes]])).toEqual([
    ['Hedge', 'ignore', ['pet']],
    ['Next door', 'privacy', undefined],
  ]);
});

test('what is not said has its usual value', () => {
  const rule = siteWith((f) => {
    f.rules![0] = { id: 'r', name: 'R', cameras: ['gate'], classes: ['pet'], behaviour: { kind: 'appears' } };
  }).cameras.get('side')!.rules[0]!;
  expect(rule).toMatchObject({
    on: true,
    watchesCamera: false,
    confidence: 0,
    size: { min: 0, max: 1, minMetres: 0, maxMetres: Infinity },
    anchor: 'feet',
    modes: undefined,
    schedule: undefined,
    restMs: 0,
  });
});

test('the first mode of the file holds where nothing was set', () => {
  expect(siteWith().firstMode).toBe('open');
  expect(siteWith((f) => delete f.modes).firstMode).toBe('none');
});

test('a rule names classes or types', () => {
  const names = new Set(['vehicle', 'dog']);
  expect([
    means(names, 'vehicle', 'truck'),
    means(names, 'pet', 'dog'),
    means(names, 'pet', 'cat'),
    means(names, 'person', undefined),
  ]).toEqual([true, true, false, false]);
});

test('to names a person by id, or everyone of a role', () => {
  const file = siteWith((f) => {
    f.people = [
      { id: 'ann', name: 'Ann', role: 'owner' },
      { id: 'ben', name: 'Ben', role: 'member' },
      { id: 'cid', name: 'Cid', role: 'member' },
    ];
  }).file;
  expect([peopleNamed(file, 'ben'), peopleNamed(file, 'member'), peopleNamed(file, 'installer')].map((l) => l.map((p) => p.id))).toEqual([
    ['ben'],
    ['ben', 'cid'],
    [],
  ]);
});

test('outside hours are the others turned round, exceptions included', () => {
  const file = (
    readSite(yardText.replace('modes:', '  - { id: open-hours, name: Open hours, outside: closed }\nmodes:')) as { site: SiteFile }
  ).site;
  const { plan, outsideName, name } = compileSchedule(file, 'open-hours');
  expect([name, outsideName, plan.inverted]).toEqual(['Open hours', 'Closing time', true]);
});
