import fc from 'fast-check';
import { gateNames, gates, openTracks, startState, step, trailsOfUnwatching, type Input, type Outcome, type Trail } from '.';
import { instantOf } from '../detections';
import type { CompiledSite } from '../site';
import { evening, gap, lane, seen, set, siteWith, someone, yard } from '../testing';

const second = 1000;

function run(site: CompiledSite, inputs: readonly Input[]): Outcome[] {
  let state = startState();
  return [...inputs, { kind: 'end', at: evening + 86_400_000 } as const].flatMap((input) => {
    const result = step(site, state, input);
    state = result.state;
    return result.outcomes;
  });
}
const events = (outcomes: readonly Outcome[]) =>
  outcomes.flatMap((o) => (o.kind === 'event' ? [{ at: o.at - evening, track: o.track?.name }] : []));
const stops = (outcomes: readonly Outcome[]) =>
  outcomes.flatMap((o) => (o.kind === 'ended' ? o.trails.map((t) => [o.track.name, t.stoppedAt, t.why]) : []));
/** One picture a second, feet at each place in turn. */
const walk = (places: readonly number[], from = evening, track?: string) =>
  places.map((feet, i) => seen(from + i * second, someone(feet, track)));
const shut = set(evening - 60 * second, 'shut');
const appears = (behaviour: { frames?: number; seconds?: number; graceSeconds?: number }, more: object = {}) =>
  siteWith((f) => Object.assign(f.rules![0]!, { behaviour: { kind: 'appears', zone: 'yard', ...behaviour }, ...more }));

test('what a camera is too unsure of comes through none of its rules', () => {
  const unsure = siteWith((f) => (f.cameras[0]!.tuning = { confidence: 0.95 }));
  expect(unsure.cameras.get('gate')!.rules[0]!.confidence).toBe(0.95);
  const sure = siteWith((f) => (f.cameras[0]!.tuning = { confidence: 0.1 }));
  expect(sure.cameras.get('gate')!.rules[0]!.confidence).toBe(sure.cameras.get('gate')!.rules[0]!.rule.confidence);
});

test('from the lane into the yard is an event at the first picture in the yard', () => {
  expect(events(run(siteWith(), [shut, ...walk([lane, lane, gap, yard, yard])]))).toEqual([{ at: 3 * second, track: 'a' }]);
});

test.each([
  ['first seen in the gap', [gap, yard, yard], 'behaviour', 'It was detected in Yard first, not in Lane'],
  ['first seen in the yard', [yard, gap, lane, gap, yard], 'behaviour', 'It was detected in Yard first, not in Lane'],
  ['stays in the lane', [lane, lane, lane], 'behaviour', 'It was in Lane and did not go to Yard'],
  ['never in either', [0.2, 0.2], 'place', 'It was never in Lane or Yard (measured at its feet)'],
])('%s does not count, and the trail says why', (_name, places, gate, why) => {
  const outcomes = run(siteWith(), [shut, ...walk(places)]);
  expect(events(outcomes)).toEqual([]);
  expect(stops(outcomes)).toEqual([['a', gate, why]]);
});

test('a dog, an unsure detection, another mode and another hour are each stopped at their gate, with the values compared', () => {
  const through = (more: object, first: Input = shut, from = evening) =>
    run(siteWith(), [first, ...[lane, yard].map((feet, i) => seen(from + i * second, someone(feet, 'a', more)))]);
  expect(stops(through({ class: 'pet', type: 'dog' }))).toEqual([['a', 'class', 'It is a dog, not a person']]);
  expect(stops(through({ score: 0.45 }))).toEqual([['a', 'confidence', 'Confidence was 0.45; the rule needs 0.50']]);
  expect(stops(through({}, set(evening - second, 'open')))).toEqual([['a', 'mode', 'The mode was Open; the rule is active while Shut']]);
  expect(stops(through({}, set(evening - 9 * 3600 * second, 'shut'), evening - 8 * 3600 * second))).toEqual([
    ['a', 'hours', 'Monday 14:00 is not in closing time'],
  ]);
});

test('hours given as outside other hours say so', () => {
  const site = siteWith((f) => {
    f.schedules = [
      { id: 'opening', name: 'Opening hours', weekly: { tue: ['09:00-18:00'] } },
      { id: 'closed', name: 'Outside opening hours', outside: 'opening' },
    ];
  });
  // Tuesday 14:02 in Lisbon, which is an hour ahead of UTC in June.
  expect(stops(run(site, [shut, ...walk([lane, yard], Date.parse('2026-06-02T13:02:00Z'))]))).toEqual([
    ['a', 'hours', 'Tuesday 14:02 is inside opening hours'],
  ]);
});

test('the trail is that of the picture that came furthest', () => {
  const outcomes = run(siteWith(), [
    shut,
    seen(evening, someone(lane, 'a', { score: 0.3 })),
    seen(evening + second, someone(lane, 'a', { score: 0.7 })),
    seen(evening + 2 * second, someone(lane, 'a', { score: 0.2 })),
  ]);
  const [ended] = outcomes.filter((o) => o.kind === 'ended');
  expect(ended!.kind === 'ended' && ended!.trails[0]!.steps.map((s) => [s.gate, s.passes, s.found, s.wanted])).toEqual([
    ['source', true, 'Gate', 'Gate'],
    ['class', true, 'person', 'person'],
    ['confidence', true, '0.70', 'at least 0.50'],
    ['size', true, '20 %', 'any size'],
    ['masks', true, 'not in an ignored area', 'not in an ignored area'],
    ['place', true, 'in Lane', 'its feet in Lane or Yard'],
    ['behaviour', false, 'Lane only', 'Lane, then Yard'],
  ]);
});

test('confidence is that of the best picture so far, not of the one that decides', () => {
  const scores = (last: number) =>
    [0.3, 0.63, last].map((score, i) => seen(evening + i * second, someone(i < 2 ? lane : yard, 'a', { score })));
  expect(events(run(siteWith(), [shut, ...scores(0.3)]))).toHaveLength(1);
  const weak = run(siteWith(), [
    shut,
    ...[lane, lane, yard].map((feet, i) => seen(evening + i * second, someone(feet, 'a', { score: 0.45 }))),
  ]);
  expect(events(weak)).toEqual([]);
});

test.each([
  ['goes', { kind: 'goes', from: 'lane', to: 'yard' }],
  ['crosses', { kind: 'crosses', line: 'gateway', direction: 'forward' }],
])('what a track does again is a new occasion, refused by rest alone: %s', (_name, behaviour) => {
  const inAndOut = [lane, lane, yard, yard, lane, lane, yard, yard, lane, lane, yard];
  const walked = (cooldownSeconds: number) =>
    events(
      run(
        siteWith((f) => Object.assign(f.rules![0]!, { behaviour, cooldownSeconds })),
        [shut, ...inAndOut.map((feet, i) => seen(evening + i * 10 * second, someone(feet)))],
      ),
    ).map((e) => e.at / second);
  expect(walked(0)).toEqual([20, 60, 100]);
  expect(walked(60)).toEqual([20, 100]);
  expect(walked(300)).toEqual([20]);
});

test('one track is one alert; another one waits for the rest time, to the millisecond', () => {
  const inAgain = (from: number, track: string) => walk([lane, yard], evening + from - second, track);
  const outcomes = run(
    siteWith(),
    [shut, ...walk([lane, yard, lane, yard]), ...inAgain(300_999, 'b'), ...inAgain(301_000, 'c')].sort((a, b) => timeOf(a) - timeOf(b)),
  );
  expect(events(outcomes)).toEqual([
    { at: second, track: 'a' },
    { at: 301_000, track: 'c' },
  ]);
  expect(stops(outcomes).find(([track]) => track === 'b')).toEqual([
    'b',
    'repeat',
    'The last alert was 5 min earlier; the rule waits 5 min between alerts',
  ]);
});
const timeOf = (i: Input) => ('at' in i ? i.at : instantOf(i));

test('who is in the zone when the mode begins makes an event then; who came in before has gone in', () => {
  const stays = appears({ frames: 2 });
  expect(events(run(stays, [...walk([yard, yard, yard]), set(evening + 2500, 'shut'), ...walk([yard], evening + 3 * second)]))).toEqual([
    { at: 3 * second, track: 'a' },
  ]);
  expect(
    events(run(siteWith(), [...walk([lane, yard]), set(evening + 1500, 'shut'), ...walk([yard, yard], evening + 2 * second)])),
  ).toEqual([]);
});

test('appears asks for pictures and seconds together', () => {
  expect(events(run(appears({ frames: 3, seconds: 4 }), [shut, ...walk([yard, yard, yard, yard, yard, yard])]))).toEqual([
    { at: 4 * second, track: 'a' },
  ]);
});

test('leaving for less than the grace time does not start the count again', () => {
  const places = [yard, yard, gap, yard, yard];
  expect(events(run(appears({ frames: 4, graceSeconds: 3 }), [shut, ...walk(places)]))).toEqual([{ at: 4 * second, track: 'a' }]);
  expect(events(run(appears({ frames: 4, graceSeconds: 1 }), [shut, ...walk(places)]))).toEqual([]);
});

test('an ignored part holds for the classes it names', () => {
  const site = appears({}, { classes: ['pet', 'person'] });
  const inHedge = (more: object) => events(run(site, [shut, seen(evening, someone(yard, 'a', { ...more, box: [0.05, 0.6, 0.05, 0.2] }))]));
  expect([inHedge({ class: 'pet', type: 'cat' }), inHedge({})]).toEqual([[], [{ at: 0, track: 'a' }]]);
});

test('size is the height on the picture', () => {
  const site = appears({}, { size: { min: 0.25 } });
  expect(stops(run(site, [shut, ...walk([yard])]))).toEqual([
    ['a', 'size', 'It is 20 % of the picture high; the rule requires at least 25 %'],
  ]);
});

test('every track gets one trail for every rule, also from the wrong camera and for a rule that is off', () => {
  const site = siteWith((f) => {
    f.rules!.push({ ...f.rules![0]!, id: 'off', on: false });
  });
  const side: Input = { kind: 'frame', frame: { at: evening, camera: 'side', objects: [someone(lane, 'z')] } };
  const outcomes = run(site, [shut, side, ...walk([lane])]);
  expect(outcomes.flatMap((o) => (o.kind === 'ended' ? o.trails.map((t) => [o.track.camera, t.rule, t.stoppedAt]) : [])).sort()).toEqual([
    ['gate', 'comes-in', 'behaviour'],
    ['gate', 'off', 'source'],
    ['side', 'comes-in', 'source'],
    ['side', 'off', 'source'],
  ]);
  // What the rules say that do not watch it is known without the track.
  const said = ({ rule, stoppedAt, why, steps }: Trail) => ({ rule, stoppedAt, why, steps });
  const ended = outcomes.flatMap((o) => (o.kind === 'ended' ? [o] : []));
  for (const { track, trails } of ended)
    expect(trailsOfUnwatching(site, track.camera, track.lastSeen).map(said)).toEqual(
      trails.filter((t) => t.stoppedAt === 'source').map(said),
    );
});

test('what the detector saw once is no track and has no trail', () => {
  expect(run(siteWith(), [shut, seen(evening, someone(lane, null))])).toEqual([]);
});

test('changed settings hold for tracks that are open, and who passed before is not told of twice', () => {
  const state = startState();
  const take = (site: CompiledSite, input: Input) => step(site, state, input).outcomes.filter((o) => o.kind === 'event').length;
  const strict = siteWith((f) => (f.rules![0]!.confidence = 0.9));
  const loose = siteWith();
  expect([take(strict, shut), ...[lane, yard].map((feet, i) => take(strict, seen(evening + i * second, someone(feet))))]).toEqual([
    0, 0, 0,
  ]);
  const inYard = appears({});
  expect([
    take(inYard, seen(evening + 2 * second, someone(yard))),
    take(inYard, seen(evening + 3 * second, someone(yard))),
    take(loose, seen(evening + 4 * second, someone(yard))),
  ]).toEqual([1, 0, 0]);
  expect(openTracks(state, 'gate')).toHaveLength(1);
});

test('who is being followed is told where they are, or should be by now', () => {
  const state = startState();
  const site = siteWith();
  for (let i = 0; i < 4; i++) step(site, state, seen(evening + i * 200, someone(0.5 + i * 0.02, null)));
  const feet = (at?: number) => openTracks(state, 'gate', at).map((t) => t.box[1] + t.box[3]);
  expect(feet()).toEqual([expect.closeTo(0.56, 6)]);
  expect(feet(evening + 1000)).toEqual([expect.closeTo(0.6, 2)]);
});

test('the gates stand in their fixed order', () => {
  const order = gates.map((g) => gateNames.indexOf(g.name));
  expect(order).toEqual([...order].sort((a, b) => a - b));
});

const anyWalk = fc.array(
  fc.tuple(fc.constantFrom('a', 'b', null), fc.constantFrom(lane, gap, yard, 0.2), fc.double({ min: 0.2, max: 1, noNaN: true })),
  { minLength: 1, maxLength: 40 },
);
const inputsOf = (walks: [string | null, number, number][]): Input[] => [
  shut,
  ...walks.map(([track, feet, score], i) => seen(evening + i * 400, someone(feet, track, { score }))),
];

test('splitting the input in two, with the state carried over, gives the same', () => {
  fc.assert(
    fc.property(anyWalk, fc.nat(40), (walks, cut) => {
      const inputs = inputsOf(walks);
      const site = siteWith();
      const state = startState();
      const half = (part: Input[]) => part.flatMap((i) => step(site, state, i).outcomes);
      const first = half(inputs.slice(0, cut));
      const rest = half([...inputs.slice(cut), { kind: 'end', at: evening + 86_400_000 }]);
      expect([...first, ...rest]).toEqual(run(site, inputs));
    }),
    { numRuns: 150 },
  );
});

test('shifting all times by whole weeks shifts all events', () => {
  const week = 7 * 86_400_000;
  const moved = (i: Input): Input =>
    i.kind === 'frame'
      ? { ...i, frame: { ...i.frame, at: i.frame.at + week } }
      : i.kind === 'mode'
        ? { ...i, change: { ...i.change, at: i.change.at + week } }
        : i;
  fc.assert(
    fc.property(anyWalk, (walks) => {
      const inputs = inputsOf(walks);
      expect(events(run(siteWith(), inputs.map(moved)))).toEqual(events(run(siteWith(), inputs)).map((e) => ({ ...e, at: e.at + week })));
    }),
    { numRuns: 100 },
  );
});
