// Zones with numbers, sensors, people at home, looks, threads and the longest of the rest times.

import { openTracks, startState, step, type Input, type SieveEvent } from '.';
import { rehearse } from '../rehearsal';
import { compileSite, type CompiledSite, type Rule, type SiteFile } from '../site';
import type { SeenObject } from '../tracks';
import { evening, seen, set, siteWith, someone, yard } from '../testing';

const second = 1000;
const shut = set(evening - 60 * second, 'shut');

function run(site: CompiledSite, inputs: readonly Input[]) {
  const state = startState();
  const outcomes = [...inputs, { kind: 'end', at: evening + 86_400_000 } as const].flatMap((i) => step(site, state, i).outcomes);
  return {
    events: outcomes.filter((o): o is SieveEvent => o.kind === 'event'),
    stops: outcomes.flatMap((o) => (o.kind === 'ended' ? o.trails.map((t) => [o.track.name, t.stoppedAt, t.why]) : [])),
    reported: outcomes.flatMap((o) => (o.kind === 'reported' ? o.trails : [])),
  };
}
const rule = (change: Partial<Rule>, file: (f: SiteFile) => void = () => {}) =>
  siteWith((f) => {
    f.rules![0] = { id: 'r', name: 'R', cameras: ['gate'], classes: ['person'], behaviour: { kind: 'appears', zone: 'yard' }, ...change };
    file(f);
  });
const crowd = (n: number, feet = yard): SeenObject[] =>
  Array.from({ length: n }, (_, i) => someone(feet, `p${i}`, { box: [0.1 + i * 0.1, feet - 0.2, 0.05, 0.2] }));
const every = (seconds: number, picture: (i: number) => readonly SeenObject[], from = 0) =>
  Array.from({ length: seconds + 1 }, (_, i) => seen(evening + from + i * second, ...picture(i)));
const notified = (events: readonly SieveEvent[]) => events.map((e) => [(e.at - evening) / second, e.track?.name]);

test('over so many for so long is one event, of the one who came last, and the others are told that it was said', () => {
  const site = rule({ behaviour: { kind: 'count', zone: 'yard', over: 2, seconds: 5 } });
  const { events, stops } = run(
    site,
    every(20, (i) => crowd(i < 3 ? 2 : 4)),
  );
  expect(notified(events)).toEqual([[8, 'p3']]);
  expect(stops.filter(([name]) => name !== 'p3')).toEqual(
    ['p0', 'p1', 'p2'].map((name) => [name, 'repeat', 'Already alerted, and it has not ended since']),
  );
});

test('tracks are counted, not boxes: one who is hidden for a moment still counts, one who left does not', () => {
  const site = rule({ behaviour: { kind: 'count', zone: 'yard', over: 1, seconds: 4 } });
  const hidden = every(8, (i) => crowd(i % 2 ? 1 : 2));
  expect(notified(run(site, hidden).events)).toEqual([[4, 'p1']]);
  const left = every(8, (i) => (i < 3 ? crowd(2) : [...crowd(1), someone(0.3, 'p1')]));
  expect(notified(run(site, left).events)).toEqual([]);
});

test('a number that ends and comes again is another event, after the rest time', () => {
  const coming = [
    ...every(5, () => crowd(2)),
    ...every(5, () => crowd(1, 0.3).concat(someone(0.3, 'p1')), 6000),
    ...every(5, () => crowd(2), 12_000),
  ];
  const behaviour = { kind: 'count', zone: 'yard', over: 1, seconds: 2 } as const;
  expect(notified(run(rule({ behaviour }), coming).events)).toEqual([
    [2, 'p1'],
    [14, 'p1'],
  ]);
  expect(notified(run(rule({ behaviour, cooldownSeconds: 13 }), coming).events)).toEqual([
    [2, 'p1'],
    [15, 'p1'],
  ]);
});

test('no one for so long is an event without a track, once until someone comes, and only while the hours say so', () => {
  const site = rule({ behaviour: { kind: 'empty', zone: 'yard', seconds: 5 } });
  const { events, stops } = run(site, [shut, ...every(3, () => crowd(1)), ...every(20, () => crowd(1, 0.3), 4000)]);
  expect(notified(events)).toEqual([[9, undefined]]);
  expect(events[0]!.trail.steps.map((s) => [s.gate, s.found])).toEqual([
    ['source', 'Gate'],
    ['behaviour', '0 for 6 frames and 5 s'],
    ['mode', 'Shut'],
    ['hours', 'Monday 22:00'],
    ['presence', 'not known'],
    ['repeat', 'the first'],
  ]);
  expect(stops).toEqual([['p0', 'behaviour', 'There was 1 in Yard; the rule requires no one']]);
  // 2026-06-01T12:00Z is 13:00 in Lisbon, outside closing time.
  const noon = every(20, () => []).map((i) =>
    i.kind === 'frame' ? { ...i, frame: { ...i.frame, at: i.frame.at - 9 * 3600 * second } } : i,
  );
  expect(run(rule({ behaviour: { kind: 'empty', zone: 'yard', seconds: 5 }, schedule: 'closed' }), noon).events).toEqual([]);
});

test('under so many waits for the mode, and makes its event when that begins', () => {
  const site = rule({ behaviour: { kind: 'count', zone: 'yard', under: 3, seconds: 2 }, modes: ['shut'] });
  const inputs = [...every(4, () => crowd(2)), set(evening + 4500, 'shut'), ...every(4, () => crowd(2), 5000)];
  expect(notified(run(site, inputs).events)).toEqual([[5, undefined]]);
});

const sensors = (f: SiteFile) => (f.sensors = [{ id: 'door', name: 'Door', area: 'yard', kind: 'door' }]);

test('a sensor makes events by the same gates, and every report has its trail', () => {
  const site = rule(
    { cameras: [], classes: [], sensors: ['door'], behaviour: { kind: 'reports', states: ['open'] }, modes: ['shut'], cooldownSeconds: 60 },
    sensors,
  );
  const says = (at: number, state: string): Input => ({ kind: 'sensor', report: { at: evening + at, sensor: 'door', state } });
  const { events, reported } = run(site, [
    says(0, 'open'),
    set(evening + 1000, 'shut'),
    says(2000, 'closed'),
    says(3000, 'open'),
    says(9000, 'open'),
    says(70_000, 'open'),
  ]);
  expect(events.map((e) => [e.at - evening, e.sensor, e.camera])).toEqual([
    [3000, 'door', undefined],
    [70_000, 'door', undefined],
  ]);
  expect(reported.map((t) => t.stoppedAt)).toEqual(['mode', 'behaviour', null, 'repeat', null]);
  expect(reported[1]!.why).toBe('It said closed; the rule requires open');
});

test('a rule may wait for no one, or someone, to be there; where no one ever said, it is not silenced', () => {
  const is = (at: number, person: string, home: boolean): Input => ({ kind: 'presence', change: { at: evening + at, person, home } });
  const site = rule({ presence: 'no one' });
  const there = (inputs: Input[]) => notified(run(site, [...inputs, ...every(3, () => crowd(1), 1000)]).events);
  expect(there([])).toEqual([[1, 'p0']]);
  expect(there([is(0, 'a', true), is(0, 'b', false)])).toEqual([]);
  expect(there([is(0, 'a', true), is(500, 'a', false)])).toEqual([[1, 'p0']]);
  expect(run(site, [is(0, 'a', true), ...every(1, () => crowd(1))]).stops).toEqual([
    ['p0', 'presence', 'Someone was on site; the rule is active while no one is on site'],
  ]);
});

const vehicle = (looks: SeenObject['looks'], type: SeenObject['type'] = 'truck') => [
  someone(yard, 'v', { class: 'vehicle', type, ...(looks && { looks }) }),
];

test.each([
  ['a white truck', vehicle({ colour: 'white' }), false],
  ['a red truck', vehicle({ colour: 'red' }), true],
  ['a white car', vehicle({ colour: 'white' }, 'car'), true],
  ['a truck of unknown colour', vehicle(undefined), true],
])('a vehicle that is not a white truck: %s', (_name, objects, passes) => {
  const site = rule({ classes: ['vehicle'], looks: { exclude: { types: ['truck'], colours: ['white'] } } });
  expect(
    run(
      site,
      every(2, () => objects),
    ).events.length,
  ).toBe(passes ? 1 : 0);
});

test('looks that are required must be known; what was once seen of a track stays with it', () => {
  const site = rule({ looks: { require: { upper: ['red'] } }, behaviour: { kind: 'appears', zone: 'yard', frames: 3 } });
  const look = (i: number, upper: 'red' | 'blue'): SeenObject[] => [someone(yard, 'a', i === 0 ? { looks: { upper } } : {})];
  expect(
    notified(
      run(
        site,
        every(4, (i) => look(i, 'red')),
      ).events,
    ),
  ).toEqual([[2, 'a']]);
  expect(
    run(
      site,
      every(4, (i) => look(i, 'blue')),
    ).stops,
  ).toEqual([['a', 'looks', 'Its appearance was blue upper clothing; the rule requires red upper clothing']]);
  expect(
    run(
      site,
      every(4, () => crowd(1)),
    ).events,
  ).toEqual([]);
});

test.each([
  // Of a plate read as AB1?3CD the fourth sign is unsure.
  ['known, with a sign unsure on either side', true, 'AB1?3CD', 1],
  ['known, written with a space and in small letters', true, 'ab12 3cd', 1],
  ['unknown is not asked for', true, 'ZZ99ZZZ', 0],
  ['known is not asked for', false, 'AB123CD', 0],
  ['unknown', false, 'ZZ99ZZZ', 1],
  ['never read is neither', false, undefined, 0],
])('who returns: %s', (_name, known, plate, events) => {
  const site = rule(
    { classes: ['vehicle'], behaviour: { kind: 'returns', known } },
    (f) => (f.known = [{ id: 'van', name: 'Our van', plate: 'AB1?3?D' }]),
  );
  expect(
    run(
      site,
      every(2, () => vehicle(plate === undefined ? undefined : { plate })),
    ).events.length,
  ).toBe(events);
});

test('what is learnt of a thing while it is there decides from then on, and the same in a rehearsal; of one that is gone it is nothing', () => {
  const returns = (f: SiteFile) => (f.known = [{ id: 'van', name: 'Our van', plate: 'AB123CD' }]);
  const site = rule({ classes: ['vehicle'], behaviour: { kind: 'returns', known: true } }, returns);
  const frames = every(4, () => vehicle(undefined));
  const key = openTracks(step(site, startState(), frames[0]!).state, 'gate')[0]!.key;
  const learnt = (track: string): Input => ({ kind: 'learnt', at: evening + 1500, camera: 'gate', track, looks: { plate: 'AB1?3CD' } });
  const inputs = (track: string) => [...frames.slice(0, 2), learnt(track), ...frames.slice(2)];
  expect(run(site, inputs('no one')).events).toEqual([]);
  expect(run(site, inputs(key)).events).toHaveLength(1);
  const { kept, gained, lost } = rehearse(site, compileSite(structuredClone(site.file)), inputs(key));
  expect([kept.length, gained.length, lost.length]).toEqual([1, 0, 0]);
});

test('within some metres of an aimed camera', () => {
  const aimed = (f: SiteFile) =>
    (f.cameras[0]!.aim = { heightMetres: 3, tiltDegrees: 20, lens: { horizontalDegrees: 90 }, pictureWidth: 1920, pictureHeight: 1080 });
  const nearing = every(5, (i) => crowd(1, 0.5 + i * 0.08));
  // Feet an eighth from the left and at 0.66 of the height are 6.8 m away, at 0.74 they are 5.7 m (pinhole, by hand).
  expect(notified(run(rule({ behaviour: { kind: 'approaches', metres: 6 } }, aimed), nearing).events)).toEqual([[3, 'p0']]);
  expect(run(rule({ behaviour: { kind: 'approaches', metres: 2 } }, aimed), nearing).stops[0]![2]).toMatch(
    /^It was 4\.3 m away; the rule requires within 2 m$/,
  );
  expect(run(rule({ behaviour: { kind: 'approaches', metres: 6 } }), nearing).stops[0]![2]).toMatch(/camera has no aim/);
});

test('events of one area and class within the thread time are one thread, and only the first makes a sound', () => {
  const site = rule({}, (f) => (f.areas[0]!.threadSeconds = 60));
  const at = (seconds: number, track: string, more: Partial<SeenObject> = {}) =>
    seen(evening + seconds * second, someone(yard, track, more));
  const { events } = run(site, [at(0, 'a'), at(50, 'b'), at(100, 'c'), at(170, 'd')]);
  expect(events.map((e) => e.thread.joins)).toEqual([false, true, true, false]);
  expect(new Set(events.map((e) => e.thread.id)).size).toBe(2);
});

test.each([
  // Of 10 min and 5 min, 10; of 2 min and 5 min, 5.
  ['the camera rests longest', 600, 300, undefined, [0, 600]],
  ['the rule rests longest', 120, 300, undefined, [0, 300, 600]],
  ['the channel rests longest', 120, 300, 500, [0, 540]],
])('%s', (_name, camera, own, channel, expected) => {
  const site = rule({ cooldownSeconds: own, notify: [{ to: 'owner', channel: 'push' }] }, (f) => {
    f.cameras[0]!.cooldownSeconds = camera;
    if (channel) f.channels = { push: { cooldownSeconds: channel } };
  });
  const inputs = Array.from({ length: 12 }, (_, i) => seen(evening + i * 60 * second, someone(yard, `t${i}`)));
  expect(notified(run(site, inputs).events).map(([at]) => at)).toEqual(expected);
});
