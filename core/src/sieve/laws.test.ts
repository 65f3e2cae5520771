// Laws that hold whatever happens: mirrored pictures, other orders, odd inputs.

import fc from 'fast-check';
import { startState, step, type Input, type Outcome } from '.';
import { compileSite, type Rule, type SiteFile } from '../site';
import type { Box } from '../boxes';
import { evening, set, siteWith } from '../testing';

const share = fc.integer({ min: 0, max: 20 }).map((n) => n / 20);
const anyBox = fc.tuple(share, share, fc.constantFrom(0.05, 0.1, 0.2), fc.constantFrom(0.1, 0.2, 0.3)) as fc.Arbitrary<Box>;
const anyObject = fc.record(
  {
    class: fc.constantFrom('person' as const, 'vehicle' as const, 'pet' as const),
    score: share,
    box: anyBox,
    track: fc.constantFrom('a', 'b', 'c'),
  },
  { requiredKeys: ['class', 'score', 'box'] },
);
const anyFrames = fc.array(fc.tuple(fc.constantFrom('gate', 'side'), fc.array(anyObject, { maxLength: 4 })), {
  minLength: 1,
  maxLength: 30,
});
type Seen = { class: 'person' | 'vehicle' | 'pet'; score: number; box: Box; track?: string };
const inputsOf = (frames: readonly (readonly [string, readonly Seen[]])[]): Input[] => [
  set(evening - 1000, 'shut'),
  ...frames.map(([camera, objects], i): Input => ({ kind: 'frame', frame: { at: evening + i * 500, camera, objects } })),
];

const rules: Rule[] = [
  {
    id: 'crosses',
    name: 'Crosses',
    cameras: ['gate'],
    classes: ['person'],
    behaviour: { kind: 'crosses', line: 'gateway', direction: 'forward' },
  },
  {
    id: 'in',
    name: 'In',
    cameras: ['gate'],
    classes: ['person', 'pet'],
    confidence: 0.4,
    behaviour: { kind: 'goes', from: 'lane', to: 'yard' },
    modes: ['shut'],
  },
  { id: 'many', name: 'Many', cameras: ['gate'], classes: ['person'], behaviour: { kind: 'count', zone: 'yard', over: 1, seconds: 1 } },
  { id: 'none', name: 'None', cameras: ['gate', 'side'], classes: ['vehicle'], behaviour: { kind: 'empty', seconds: 2 } },
  { id: 'dwell', name: 'Dwell', cameras: ['side'], classes: ['person'], behaviour: { kind: 'stays', seconds: 2 }, cooldownSeconds: 5 },
];
const siteOf = (change: (f: SiteFile) => void = () => {}) =>
  siteWith((f) => {
    f.rules = structuredClone(rules);
    change(f);
  });

function run(site: ReturnType<typeof siteOf>, inputs: readonly Input[]): Outcome[] {
  const state = startState();
  return [...inputs, { kind: 'end', at: evening + 86_400_000 } as const].flatMap((i) => step(site, state, i).outcomes);
}
const eventsOf = (outcomes: readonly Outcome[]) =>
  outcomes.flatMap((o) => (o.kind === 'event' ? [`${o.at} ${o.rule} ${o.camera} ${o.track?.key}`] : [])).sort();
const stopsOf = (outcomes: readonly Outcome[]) =>
  outcomes
    .flatMap((o) => (o.kind === 'ended' ? o.trails.map((t) => `${o.track.camera} ${o.track.key} ${t.rule} ${t.stoppedAt}`) : []))
    .sort();

test('mirroring the picture and turning the line round mirrors crossings', () => {
  const mirrorX = (points: readonly (readonly number[])[]) => points.map(([x, y]) => [1 - x!, y!]) as never;
  const mirrored = siteOf((f) => {
    const camera = f.cameras[0]!;
    camera.zones!.forEach((z) => (z.polygon = mirrorX(z.polygon)));
    camera.lines!.forEach((l) => (l.points = (mirrorX(l.points as never) as [number, number][]).reverse()));
  });
  fc.assert(
    fc.property(anyFrames, (frames) => {
      const turned = frames.map(
        ([camera, objects]) =>
          [
            camera,
            objects.map((o) => ({ ...o, box: [1 - o.box[0] - o.box[2], o.box[1], o.box[2], o.box[3]] as Box })),
          ] as (typeof frames)[number],
      );
      const crossings = (site: typeof mirrored, of: typeof frames) =>
        eventsOf(run(site, inputsOf(of))).filter((e) => e.includes('crosses'));
      expect(crossings(mirrored, turned)).toEqual(crossings(siteOf(), frames));
    }),
    { numRuns: 150 },
  );
});

test('splitting the input in two, with the state carried over, gives the same for every kind of rule', () => {
  fc.assert(
    fc.property(anyFrames, fc.nat(30), (frames, cut) => {
      const inputs: Input[] = [...inputsOf(frames), { kind: 'end', at: evening + 86_400_000 }];
      const site = siteOf();
      const state = startState();
      const halves = [inputs.slice(0, cut), inputs.slice(cut)].flatMap((half) => half.flatMap((i) => step(site, state, i).outcomes));
      expect(halves).toEqual(run(siteOf(), inputsOf(frames)));
    }),
    { numRuns: 100 },
  );
});

test('the order of rules and of cameras changes nothing', () => {
  const turned = compileSite({
    ...siteOf().file,
    rules: [...siteOf().file.rules!].reverse(),
    cameras: [...siteOf().file.cameras].reverse(),
  });
  fc.assert(
    fc.property(anyFrames, (frames) => {
      const [a, b] = [run(siteOf(), inputsOf(frames)), run(turned, inputsOf(frames))];
      expect(eventsOf(b)).toEqual(eventsOf(a));
      expect(stopsOf(b)).toEqual(stopsOf(a));
    }),
    { numRuns: 100 },
  );
});

test('a rule that is added changes nothing for the others', () => {
  fc.assert(
    fc.property(anyFrames, fc.nat(rules.length - 1), (frames, left) => {
      const fewer = siteOf((f) => f.rules!.splice(left, 1));
      const id = ` ${rules[left]!.id} `;
      const all = eventsOf(run(siteOf(), inputsOf(frames)));
      expect(eventsOf(run(fewer, inputsOf(frames)))).toEqual(all.filter((e) => !e.includes(id)));
    }),
    { numRuns: 100 },
  );
});

const anyNumber = fc.oneof(fc.double(), fc.constantFrom(0, -1, NaN, Infinity));
const oddInput: fc.Arbitrary<Input> = fc.oneof(
  fc.record({
    kind: fc.constant('frame' as const),
    frame: fc.record({
      at: fc.nat(1e6),
      camera: fc.constantFrom('gate', 'nowhere'),
      objects: fc.array(
        fc.record({
          class: fc.constantFrom('person' as const, 'other' as const),
          score: anyNumber,
          box: fc.tuple(anyNumber, anyNumber, anyNumber, anyNumber),
          track: fc.string(),
        }),
      ),
    }),
  }),
  fc.record({ kind: fc.constant('mode' as const), change: fc.record({ at: fc.nat(1e6), area: fc.string(), mode: fc.string() }) }),
  fc.record({ kind: fc.constant('sensor' as const), report: fc.record({ at: fc.nat(1e6), sensor: fc.string(), state: fc.string() }) }),
  fc.record({ kind: fc.constant('clock' as const), at: fc.nat(1e6) }),
) as fc.Arbitrary<Input>;

test('no input, however odd and in whatever order, throws', () => {
  fc.assert(
    fc.property(fc.array(oddInput, { maxLength: 25 }), (inputs) => {
      expect(() => run(siteOf(), inputs)).not.toThrow();
    }),
    { numRuns: 300 },
  );
});
