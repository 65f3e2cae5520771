import fc from 'fast-check';
import munkres from 'munkres-js';
import { assign, endings, follow, isReal, newTracker, shownAt, defaultTracker, type Frame, type SeenObject, type Tracker } from '.';
import type { Box } from '../boxes';

// Reference: munkres-js, a general assignment library. Several assignments may be best; their cost is what must agree.
test('assignment costs as little as a reference library finds, on random costs', () => {
  const matrix = fc
    .tuple(fc.integer({ min: 1, max: 7 }), fc.integer({ min: 1, max: 7 }))
    .chain(([r, c]) => fc.array(fc.array(fc.integer({ min: 0, max: 50 }), { minLength: c, maxLength: c }), { minLength: r, maxLength: r }));
  fc.assert(
    fc.property(matrix, (cost) => {
      const ours = assign(cost);
      const chosen = ours.flatMap((column, row) => (column < 0 ? [] : [[row, column] as const]));
      expect(new Set(chosen.map(([, c]) => c)).size).toBe(Math.min(cost.length, cost[0]!.length));
      const sum = (pairs: readonly (readonly number[])[]) => pairs.reduce((s, [r, c]) => s + cost[r!]![c!]!, 0);
      expect(sum(chosen)).toBe(sum(munkres(cost.map((row) => [...row]))));
    }),
    { numRuns: 500 },
  );
});

const person = (x: number, y = 0.5, track?: string): SeenObject => ({
  class: 'person',
  score: 0.8,
  box: [x, y, 0.05, 0.2],
  ...(track ? { track } : {}),
});
const frame = (at: number, objects: SeenObject[], looked?: Box): Frame => ({ at, camera: 'c', objects, ...(looked ? { looked } : {}) });

test('a person who walks keeps one id, and is real from the second picture', () => {
  const tracker = newTracker();
  const names = [0, 1, 2, 3, 4].map((i) => follow(tracker, frame(i * 200, [person(0.1 + i * 0.02)])).seen[0]!);
  expect(new Set(names.map((t) => t.name)).size).toBe(1);
  expect(isReal(follow(newTracker(), frame(0, [person(0.1)])).seen[0]!, defaultTracker)).toBe(false);
  expect(isReal(names[4]!, defaultTracker)).toBe(true);
});

test('ids survive a gap of a second', () => {
  const tracker = newTracker();
  for (let i = 0; i < 5; i++) follow(tracker, frame(i * 200, [person(0.1 + i * 0.02)]));
  for (let i = 5; i < 10; i++) expect(follow(tracker, frame(i * 200, [])).ended).toEqual([]);
  expect(follow(tracker, frame(1900, [person(0.29)])).seen[0]!.name).toBe('t1');
});

test('a dog that one look takes for another animal stays a dog; what its camera says itself is believed at once', () => {
  const animal = (i: number, type: 'dog' | 'other-animal', score: number, track?: string): SeenObject => ({
    ...person(0.1 + i * 0.02, 0.5, track),
    class: 'pet',
    type,
    score,
  });
  const types = (track?: string) => {
    const tracker = newTracker();
    const looks = [
      animal(0, 'other-animal', 0.3, track),
      animal(1, 'dog', 0.8, track),
      animal(2, 'dog', 0.7, track),
      animal(3, 'other-animal', 0.9, track),
    ];
    return looks.map((object, i) => follow(tracker, frame(i * 200, [object])).seen[0]!.type);
  };
  expect(types()).toEqual(['other-animal', 'dog', 'dog', 'dog']);
  expect(types('7')).toEqual(['other-animal', 'dog', 'dog', 'other-animal']);
});

test('two people who cross keep their ids', () => {
  const tracker = newTracker();
  let seen: string[] = [];
  for (let i = 0; i <= 20; i++)
    seen = follow(tracker, frame(i * 200, [person(0.1 + i * 0.02, 0.5), person(0.5 - i * 0.02, 0.53)])).seen.map((t) => t.name);
  expect(seen).toEqual(['t1', 't2']);
});

test('a track begins with a sure look alone, and goes on with less sure ones', () => {
  const tracker = newTracker();
  const at = (i: number, score: number) =>
    follow(tracker, { ...frame(i * 200, [{ ...person(0.1 + i * 0.02), score }]), begins: 0.4 }).seen.map((t) => t.name);
  expect([at(0, 0.39), at(1, 0.4), at(2, 0.26), at(3, 0.9)]).toEqual([[], ['t1'], ['t1'], ['t1']]);
  expect(tracker.tracks[0]!.best).toBe(0.9);
  // What a camera or a file says is believed.
  expect(follow(newTracker(), frame(0, [{ ...person(0.1), score: 0.1 }])).seen).toHaveLength(1);
});

test('a rock that is taken for someone is never real, though something passes before it later; what sets off is', () => {
  const tracker = newTracker();
  const look = (i: number, x: number, moves: number) =>
    isReal(follow(tracker, frame(i * 200, [{ ...person(x), moves }])).seen[0]!, defaultTracker);
  expect([0, 1, 2, 3, 4, 5, 6, 7].map((i) => look(i, 0.4, i === 7 ? 0.9 : 0.1))).toEqual(new Array(8).fill(false));
  expect(look(8, 0.402, 0.1)).toBe(false);
  expect(look(9, 0.43, 0.1)).toBe(true);
  const walker = newTracker();
  const first = [0.29, 0.3].map((moves, i) => isReal(follow(walker, frame(i * 200, [{ ...person(0.1), moves }])).seen[0]!, defaultTracker));
  expect(first).toEqual([false, true]);
});

test('where overlap leaves it open, what they wear says who is who', () => {
  const tracker = newTracker();
  const dressed = (x: number, upper: 'red' | 'blue'): SeenObject => ({ ...person(x), looks: { upper } });
  for (let i = 0; i < 3; i++) follow(tracker, frame(i * 200, [dressed(0.3, 'red'), dressed(0.34, 'blue')]));
  // Both have moved by half the way between them: by place alone each could be either.
  expect(follow(tracker, frame(600, [dressed(0.32, 'blue'), dressed(0.32, 'red')])).seen.map((t) => t.name)).toEqual(['t2', 't1']);
});

test('a box is shown half a second ahead of where its thing was seen, and no farther', () => {
  const tracker = newTracker();
  for (let i = 0; i < 5; i++) follow(tracker, frame(i * 200, [person(0.1 + i * 0.02)]));
  const track = tracker.tracks[0]!;
  const [last] = track.box;
  expect([400, 500, 1000, 5000].map((ms) => shownAt(track, 800 + ms)[0] - last)).toEqual(
    [0.04, 0.05, 0.05, 0.05].map((d) => expect.closeTo(d, 9)),
  );
});

test('a thing that stands for an hour, looked at now and then, is one track', () => {
  const tracker = newTracker();
  for (let s = 0; s <= 3600; s += 2) expect(follow(tracker, frame(s * 1000, [person(0.4)])).seen[0]!.name).toBe('t1');
});

test('a part of the picture that was not looked at counts against no one', () => {
  const tracker = newTracker();
  follow(tracker, frame(0, [person(0.8)]));
  follow(tracker, frame(200, [person(0.8)]));
  for (let i = 2; i < 30; i++) expect(follow(tracker, frame(i * 200, [], [0, 0, 0.5, 1])).ended).toEqual([]);
  const gone = [30, 31, 32, 33].flatMap((i) => follow(tracker, frame(i * 200, [])).ended);
  expect(gone.map((t) => t.name)).toEqual(['t1']);
});

test('who walks out of the picture is gone once its last place was looked at, though it is expected outside', () => {
  const tracker = newTracker();
  for (let i = 0; i < 5; i++) follow(tracker, frame(i * 200, [person(0.8 + i * 0.04)]));
  const ended = [1000, 2000, 3000].flatMap((at) => follow(tracker, frame(at, [], [0.6, 0.2, 0.4, 0.8])).ended);
  expect(ended.map((t) => t.name)).toEqual(['t1']);
});

test('a camera’s own id is believed across the picture, until it is used for something else', () => {
  const tracker = newTracker();
  const first = follow(tracker, frame(0, [person(0.1, 0.5, '7')])).seen[0]!;
  expect(follow(tracker, frame(5000, [person(0.9, 0.1, '7')])).seen[0]).toBe(first);
  const reused = follow(tracker, frame(6000, [{ class: 'vehicle', score: 0.9, box: [0.1, 0.1, 0.2, 0.1], track: '7' }]));
  expect(reused.ended).toEqual([first]);
  expect(reused.seen[0]!.name).toBe('7');
});

test('a track that no one looks at any more ends by the clock', () => {
  const tracker = newTracker();
  follow(tracker, frame(0, [person(0.1, 0.5, 'a')]));
  expect(endings(tracker, 60_000)).toEqual([]);
  expect(endings(tracker, 60_001).map((t) => t.name)).toEqual(['a']);
});

/** What the detector found, look by look. */
type Look = readonly [at: number, ...seen: (readonly [score: number, box: Box])[]];
function* looks(measured: readonly Look[], tracker: Tracker) {
  for (const [at, ...seen] of measured) {
    const objects = seen.map(([score, box]) => ({ class: 'person' as const, score, box }));
    yield { at, ...follow(tracker, { ...frame(at, objects), begins: 0.4 }) };
  }
}

// Measured: two people on the stage, as the detector found them. One stands near until 5.1 s; one walks far behind, and is twice found doubly.
test('who leaves the picture does not go on as someone farther away, of whom the detector is in doubt', () => {
  const measured: readonly Look[] = [
    [4040, [0.65, [0.28, 0.42, 0.09, 0.39]], [0.51, [0.21, 0.27, 0.02, 0.13]]],
    [4250, [0.66, [0.28, 0.42, 0.09, 0.39]], [0.46, [0.22, 0.27, 0.02, 0.13]]],
    [4440, [0.65, [0.28, 0.42, 0.09, 0.39]], [0.55, [0.22, 0.27, 0.03, 0.14]]],
    [4640, [0.65, [0.28, 0.43, 0.09, 0.39]], [0.51, [0.23, 0.28, 0.03, 0.13]], [0.27, [0.0, 0.2, 0.04, 0.17]]],
    [4850, [0.65, [0.28, 0.42, 0.09, 0.39]], [0.51, [0.24, 0.28, 0.02, 0.13]]],
    [5070, [0.66, [0.28, 0.43, 0.09, 0.39]], [0.52, [0.25, 0.28, 0.02, 0.12]]],
    [5250, [0.58, [0.26, 0.28, 0.03, 0.12]]],
    [5460, [0.54, [0.27, 0.28, 0.02, 0.13]]],
    [5700, [0.26, [0.28, 0.27, 0.02, 0.12]]],
    [5860, [0.29, [0.29, 0.27, 0.02, 0.13]]],
    [6040, [0.53, [0.3, 0.28, 0.03, 0.12]]],
    [6230, [0.51, [0.3, 0.28, 0.03, 0.12]], [0.28, [0.29, 0.28, 0.05, 0.23]]],
    [6440, [0.45, [0.31, 0.28, 0.03, 0.12]]],
    [6660, [0.51, [0.32, 0.28, 0.02, 0.12]]],
    [6840, [0.41, [0.33, 0.28, 0.03, 0.13]], [0.34, [0.32, 0.29, 0.04, 0.21]]],
    [7080, [0.43, [0.33, 0.29, 0.03, 0.12]]],
    [7460, [0.36, [0.35, 0.27, 0.03, 0.24]]],
    [7640, [0.44, [0.35, 0.27, 0.04, 0.24]]],
    [7870, [0.4, [0.36, 0.28, 0.05, 0.24]]],
    [8060, [0.33, [0.38, 0.28, 0.03, 0.22]]],
    [8270, [0.49, [0.38, 0.28, 0.03, 0.22]]],
    [8590, [0.41, [0.38, 0.27, 0.04, 0.21]]],
    [8680, [0.38, [0.39, 0.3, 0.04, 0.18]]],
    [8870, [0.5, [0.41, 0.27, 0.03, 0.2]]],
    [9080, [0.57, [0.41, 0.29, 0.03, 0.18]]],
  ];
  const tracker = newTracker();
  let far: string | undefined;
  for (const { at, seen } of looks(measured, tracker)) {
    far ??= seen.find((t) => t.box[2] < 0.05)?.name;
    if (at > 7000) expect(seen.map((t) => t.name)).toEqual([far]);
  }
  expect(tracker.tracks.map((t) => t.name)).toEqual([far]);
});

// Measured: someone walks behind a fence on the stage. Where the fence ends, one look takes what stands before it for the legs.
test('one look that makes someone twice as tall moves nobody; a few in a row are believed', () => {
  const before: readonly Look[] = [
    [14900, [0.46, [0.32, 0.28, 0.03, 0.13]], [0.3, [0.31, 0.29, 0.05, 0.21]]],
    [15100, [0.52, [0.33, 0.28, 0.02, 0.12]]],
    [15300, [0.41, [0.34, 0.27, 0.02, 0.12]]],
    [15500, [0.39, [0.35, 0.27, 0.02, 0.12]], [0.26, [0.34, 0.28, 0.04, 0.23]]],
    [15700, [0.33, [0.36, 0.28, 0.02, 0.11]], [0.26, [0.34, 0.28, 0.04, 0.23]]],
  ];
  const tall = [0.31, [0.36, 0.28, 0.04, 0.25]] as const;
  const after: readonly Look[] = [[16100], [16400, [0.32, [0.38, 0.27, 0.02, 0.2]]], [16500, [0.35, [0.38, 0.27, 0.03, 0.19]]]];
  const followed = (...measured: readonly Look[]) => {
    const found: { name: string; feet: number }[] = [];
    for (const { seen } of looks(measured, newTracker())) for (const { name, box } of seen) found.push({ name, feet: box[1] + box[3] });
    return found;
  };
  const once = followed(...before, [15900, tall], ...after);
  expect(new Set(once.map((t) => t.name))).toEqual(new Set(['t1']));
  expect(Math.max(...once.map((t) => t.feet))).toBeLessThan(0.48);
  const often = followed(...before, [15900, tall], [16100, tall], [16300, tall]).slice(-3);
  expect(often.map((t) => t.feet)).toEqual([0.39, 0.39, 0.53].map((y) => expect.closeTo(y, 1)));
});
