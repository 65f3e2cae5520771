import fc from 'fast-check';
import { classes, type Box } from '../boxes';
import { eventKey, eventsIn, judged, startFollowing } from '../rehearsal';
import { startState, step, type SieveEvent } from '../sieve';
import { siteWith } from '../testing';
import type { Frame, SeenObject } from '../tracks';
import { asRecorded, startPacking, unpackFrames, type Recorded } from '.';
import { byteReader, byteWriter, checkSum } from './bytes';

const box: fc.Arbitrary<Box> = fc.tuple(
  fc.double({ min: -0.9, max: 1.9, noNaN: true }),
  fc.double({ min: -0.9, max: 1.9, noNaN: true }),
  fc.double({ min: 0, max: 2, noNaN: true }),
  fc.double({ min: 0, max: 2, noNaN: true }),
);
const share = fc.double({ min: 0, max: 1, noNaN: true });
const object: fc.Arbitrary<SeenObject> = fc.record(
  {
    class: fc.constantFrom(...classes),
    score: share,
    box,
    type: fc.constantFrom('car' as const, 'dog' as const),
    track: fc.string({ maxLength: 12 }),
    moves: share,
    looks: fc.constantFrom({ colour: 'red' as const }, { upper: 'blue' as const, lower: 'black' as const, fields: { make: 'Märsch' } }),
  },
  { requiredKeys: ['class', 'score', 'box'] },
);
const frame: fc.Arbitrary<Frame> = fc.record(
  {
    at: fc.integer({ min: 0, max: 4e12 }),
    camera: fc.constant('gate'),
    objects: fc.array(object, { maxLength: 6 }),
    looked: box,
    begins: fc.constantFrom(0.4, 0.35),
  },
  { requiredKeys: ['at', 'camera', 'objects'] },
);

const packedOf = (frames: readonly Frame[], orders = frames.map((_, i) => i)) => {
  const packing = startPacking('gate');
  return Buffer.concat([packing.head, ...frames.map((f, i) => packing.pack(orders[i]!, f))]);
};

test('what was packed comes back as the sieve was given it, in its order', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(frame, fc.integer({ min: 0, max: 2 ** 52 }))), (given) => {
      const frames = given.map(([f]) => asRecorded(f));
      const back = unpackFrames(
        packedOf(
          frames,
          given.map(([, order]) => order),
        ),
      );
      expect(back).toEqual(frames.map((f, i) => ({ order: given[i]![1], frame: f })));
    }),
  );
});

test('packing again changes nothing more; a score with four places stays what it was, so that a threshold is met as before', () => {
  fc.assert(fc.property(frame, (f) => expect(asRecorded(asRecorded(f))).toEqual(asRecorded(f))));
  for (let i = 0; i <= 10_000; i++)
    expect(
      asRecorded({ at: 0, camera: 'gate', objects: [{ class: 'person', score: i / 10_000, box: [0, 0, 1, 1] }] }).objects[0]!.score,
    ).toBe(i / 10_000);
});

test('a file that was cut off anywhere gives what came whole before, and one with a spoilt byte stops there', () => {
  const frames = [1, 2, 3].map((i) =>
    asRecorded({ at: i * 250, camera: 'gate', objects: [{ class: 'person', score: 0.8, box: [0.1 * i, 0.2, 0.1, 0.3], track: 'é1' }] }),
  );
  const bytes = packedOf(frames);
  const ends = frames.map((_, i) => packedOf(frames.slice(0, i + 1)).length);
  for (let cut = 0; cut < bytes.length; cut++)
    expect(unpackFrames(bytes.subarray(0, cut))).toHaveLength(ends.filter((end) => end <= cut).length);
  const spoilt = Buffer.from(bytes);
  spoilt[ends[1]! - 5]! ^= 16;
  expect(unpackFrames(spoilt)).toHaveLength(1);
  expect(unpackFrames(Buffer.from('something else entirely'))).toEqual([]);
});

// DWARF 5, section 7.6: 2, 127, 128, 129, 12857 unsigned; values from memory.
test.each([
  [2, [2]],
  [127, [127]],
  [128, [128, 1]],
  [129, [129, 1]],
  [12_857, [0xb9, 0x64]],
])('%d is written as %j', (value, bytes) => {
  const out = byteWriter();
  out.count(value);
  expect([...out.bytes()]).toEqual(bytes);
  expect(byteReader(out.bytes()).count()).toBe(value);
});

// Worked by hand from Fletcher's sums modulo 255: "abcde" gives 0xC8F0 (a common worked example, from memory).
test('the check is Fletcher’s', () => expect(checkSum(new TextEncoder().encode('abcde'))).toBe(0xc8f0));

/** Someone who wanders about the yard, seen or not, with modes and clocks in between. */
const wander = fc.array(
  fc.oneof(
    {
      weight: 12,
      arbitrary: fc.record({
        feet: fc.double({ min: 0.3, max: 0.95, noNaN: true }),
        x: fc.double({ min: 0.1, max: 0.8, noNaN: true }),
        score: share,
        there: fc.boolean(),
      }),
    },
    { weight: 1, arbitrary: fc.constantFrom('open', 'shut', 'clock', 'restart') },
  ),
  { minLength: 5, maxLength: 60 },
);

test('law: the live settings over what was recorded give exactly the events that happened', () => {
  const site = siteWith((file) => {
    const [rule] = file.rules!;
    file.rules = [
      { ...rule!, schedule: undefined, cooldownSeconds: 2 },
      { ...rule!, id: 'there', schedule: undefined, cooldownSeconds: 0, behaviour: { kind: 'stays', zone: 'yard', seconds: 1 } },
      { ...rule!, id: 'no one', schedule: undefined, cooldownSeconds: 0, behaviour: { kind: 'empty', zone: 'yard', seconds: 2 } },
    ];
  });
  let made = 0;
  fc.assert(
    fc.property(wander, (steps) => {
      const recorded: Recorded[] = [];
      const happened: SieveEvent[] = [];
      let order = 0;
      let state = startState([['yard', 'shut']]);
      recorded.push(
        { order: order++, kind: 'site', at: 0, version: 1 },
        { order: order++, kind: 'start', at: 0, modes: [['yard', 'shut']], lasts: [] },
      );
      const packing = startPacking('gate');
      const bytes: Uint8Array[] = [packing.head];
      const live = (input: Parameters<typeof step>[2]) => {
        const result = step(site, state, input);
        state = result.state;
        for (const o of result.outcomes) if (o.kind === 'event') happened.push(o);
      };
      steps.forEach((s, i) => {
        const at = 1_000_000 + i * 400;
        if (s === 'restart') {
          recorded.push({ order: order++, kind: 'start', at, modes: [['yard', 'shut']], lasts: [...state.lastEvents] });
          state = startState([['yard', 'shut']], [...state.lastEvents]);
        } else if (typeof s === 'string') {
          const input = s === 'clock' ? { kind: 'clock' as const, at } : { kind: 'mode' as const, change: { at, area: 'yard', mode: s } };
          recorded.push({ order: order++, kind: 'input', input });
          live(input);
        } else {
          const objects: SeenObject[] = s.there
            ? [{ class: 'person', score: s.score, box: [s.x, s.feet - 0.2, 0.07, 0.2], moves: s.x }]
            : [];
          const given = asRecorded({ at, camera: 'gate', objects, begins: 0.4 });
          bytes.push(packing.pack(order++, given));
          live({ kind: 'frame', frame: given });
        }
      });
      const frames = unpackFrames(Buffer.concat(bytes)).map(({ order: n, frame: f }): Recorded => ({
        order: n,
        kind: 'input',
        input: { kind: 'frame', frame: f },
      }));
      const all = [...recorded, ...frames].sort((a, b) => a.order - b.order);
      const again = eventsIn(all, () => site);
      expect(again.map((e) => [eventKey(e), e.thread])).toEqual(happened.map((e) => [eventKey(e), e.thread]));
      // Followed once and judged as often as one likes, it is the same again.
      const following = startFollowing();
      all.forEach(following.take);
      const once = [...judged(following.followed, site).events.values()];
      for (const events of [once, [...judged(following.followed, site).events.values()]])
        expect(events.map((e) => [e.rule, e.at, e.track])).toEqual(happened.map((e) => [e.rule, e.at, e.track?.name]));
      made += happened.length;
    }),
    { numRuns: 300 },
  );
  // What makes no event proves nothing.
  expect(made).toBeGreaterThan(20);
});
