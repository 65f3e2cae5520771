import fc from 'fast-check';
import { quieter, rehearse, type Mark, type QuieterResult } from '.';
import { drawnIn } from './knobs';
import { compileSite, type SiteFile } from '../site';
import { evening, lane, seen, set, siteWith, someone, yard } from '../testing';
import type { Input } from '../sieve';
import type { SeenObject } from '../tracks';
import { polygonArea, polygonProblem, type Polygon } from '../zones';

const second = 1000;
const minute = 60 * second;

const anyWalks = fc.array(
  fc.record({
    camera: fc.constantFrom('gate', 'side'),
    feet: fc.array(fc.constantFrom(lane, 0.58, yard, 0.2), { minLength: 1, maxLength: 8 }),
    score: fc.double({ min: 0.2, max: 1, noNaN: true }),
  }),
  { minLength: 1, maxLength: 12 },
);
const recordingOf = (walks: { camera: string; feet: number[]; score: number }[]): Input[] => [
  set(evening - minute, 'shut'),
  ...walks.flatMap(({ camera, feet, score }, w) =>
    feet.map((f, i): Input => ({
      kind: 'frame',
      frame: { at: evening + w * 10 * minute + i * second, camera, objects: [someone(f, `w${w}`, { score })] },
    })),
  ),
];

test('rehearsing the live settings changes nothing', () => {
  fc.assert(
    fc.property(anyWalks, (walks) => {
      const site = siteWith((f) =>
        f.rules!.push({ id: 'count', name: 'C', cameras: ['side'], classes: ['person'], behaviour: { kind: 'empty', seconds: 2 } }),
      );
      const { gained, lost, kept, byRule } = rehearse(site, compileSite(structuredClone(site.file)), recordingOf(walks));
      expect([gained, lost]).toEqual([[], []]);
      expect(Object.values(byRule).reduce((n, c) => n + c.kept, 0)).toBe(kept.length);
    }),
    { numRuns: 100 },
  );
});

test('what would be gained and lost is told by rule, by day and by the gate that makes the difference', () => {
  const inputs = recordingOf([
    { camera: 'gate', feet: [lane, yard], score: 0.6 },
    { camera: 'gate', feet: [lane, yard], score: 0.9 },
    { camera: 'gate', feet: [lane, yard], score: 0.4 },
  ]);
  const stricter = siteWith((f) => (f.rules![0]!.confidence = 0.8));
  const looser = siteWith((f) => (f.rules![0]!.confidence = 0.3));
  expect(rehearse(siteWith(), stricter, inputs)).toMatchObject({
    kept: [{ track: 'w1', rule: 'comes-in', source: 'gate' }],
    gained: [],
    lost: [{ track: 'w0', now: { gate: 'confidence', why: 'Confidence was 0.60; the rule needs 0.80' } }],
    byRule: { 'comes-in': { kept: 1, gained: 0, lost: 1 } },
    byDay: { '2026-06-01': { kept: 1, gained: 0, lost: 1 } },
    byGate: { confidence: { lost: 1, gained: 0 } },
  });
  expect(rehearse(siteWith(), looser, inputs)).toMatchObject({
    gained: [{ track: 'w2', before: { gate: 'confidence' } }],
    lost: [],
    byGate: { confidence: { lost: 0, gained: 1 } },
  });
});

/** Someone every ten minutes; `noise` are other than those worth having by what is given. */
type Visit = {
  readonly mark: Mark['mark'];
  readonly objects: (i: number) => SeenObject;
  readonly pictures?: number;
  readonly every?: number;
};
function marked(visits: readonly Visit[], change: (f: SiteFile) => void = () => {}) {
  const site = siteWith((f) => {
    f.rules![0] = { id: 'r', name: 'R', cameras: ['gate'], classes: ['person'], behaviour: { kind: 'appears', zone: 'yard' } };
    change(f);
  });
  const at = (v: number, i: number) => evening + v * 10 * minute + i * 500;
  const inputs = visits.flatMap((v, n) =>
    Array.from({ length: v.pictures ?? 6 }, (_, i) => seen(at(n, i), { ...v.objects(i), track: `v${n}` })),
  );
  const marks = visits.map((v, n): Mark => ({ camera: 'gate', track: `v${n}`, at: at(n, 0), mark: v.mark }));
  const search = quieter(site.file, 'r', inputs, marks);
  let progress = 0;
  for (;;) {
    const next = search.next();
    if (next.done) return { result: next.value as QuieterResult, progress, site, inputs };
    expect(next.value.done).toBeGreaterThan(progress);
    expect(next.value.total).toBeGreaterThanOrEqual(next.value.done);
    progress = next.value.done;
  }
}
const visits = (n: number, mark: Mark['mark'], objects: Visit['objects'], pictures?: number): Visit[] =>
  Array.from({ length: n }, () => ({ mark, objects, ...(pictures ? { pictures } : {}) }));
const person =
  (more: Partial<SeenObject> = {}) =>
  () =>
    someone(yard, 'x', { score: 0.8, ...more });

test.each<[string, Visit[], RegExp]>([
  [
    'unsure ones',
    [...visits(5, 'useful', person()), ...visits(5, 'noise', person({ score: 0.45 }))],
    /^Confidence to 0\.50: 5 of 5 noise alerts would not have come; all 5 useful ones stay; 5 events instead of 10\.$/,
  ],
  [
    'small ones',
    [...visits(4, 'useful', person()), ...visits(4, 'noise', person({ box: [0.4, 0.7, 0.02, 0.06] }))],
    /^At least 6\.5 % of the picture high: 4 of 4/,
  ],
  [
    'huge ones, near the lens',
    [...visits(4, 'useful', person()), ...visits(4, 'noise', person({ box: [0.3, 0.1, 0.4, 0.75] }))],
    /^At most \d+(\.\d)? % of the picture high: 4 of 4/,
  ],
  ['brief ones', [...visits(4, 'useful', person()), ...visits(4, 'noise', person(), 2)], /^3 pictures: 4 of 4|^For 1 s: 4 of 4/],
  [
    'those at the left edge',
    [...visits(4, 'useful', person()), ...visits(4, 'noise', person({ box: [0.01, 0.6, 0.05, 0.2] }))],
    /^Yard made smaller by 4 % at its edge 4: 4 of 4/,
  ],
])('%s are left out by the setting that tells them from the others', (_name, all, words) => {
  const { result, site, inputs } = marked(all);
  expect(result.proposals.map((p) => p.words).filter((w) => words.test(w))).not.toEqual([]);
  for (const p of result.proposals) {
    // What is promised is what the sieve does.
    const { lost, kept } = rehearse(site, compileSite(p.site), inputs);
    expect([kept.length, lost.length]).toEqual([p.effect.eventsAfter, p.effect.eventsBefore - p.effect.eventsAfter]);
    expect(p.effect.kept).toBe(result.marks.kept);
  }
});

test('two kinds of noise are left out by two settings together, and the smaller changes are offered first', () => {
  const { result } = marked([
    ...visits(6, 'useful', person()),
    ...visits(5, 'noise', person({ score: 0.45 })),
    ...visits(3, 'noise', person({ box: [0.4, 0.7, 0.02, 0.06] })),
  ]);
  const { proposals } = result;
  expect(proposals.at(-1)!.effect).toMatchObject({ kept: 6, noise: 0, eventsAfter: 6 });
  expect(proposals.at(-1)!.changes.length).toBe(2);
  expect(proposals.map((p) => p.cost)).toEqual(proposals.map((p) => p.cost).sort((a, b) => a - b));
  expect(proposals.map((p) => p.effect.noise)).toEqual([...proposals.map((p) => p.effect.noise)].sort((a, b) => b - a));
});

test('where noise is just like what is worth having, nothing is proposed that loses one', () => {
  const { result } = marked(
    [...visits(4, 'useful', person()), ...visits(4, 'noise', person())].sort((_a, b) => (b.mark === 'useful' ? 1 : -1)),
  );
  for (const p of result.proposals) expect(p.effect.kept).toBe(4);
});

test('a search can be stopped', () => {
  const { site, inputs } = marked(visits(2, 'noise', person()));
  const search = quieter(site.file, 'r', inputs, []);
  search.next();
  expect(search.return({ marks: { kept: 0, noise: 0 }, proposals: [] }).done).toBe(true);
});

test('a polygon drawn in at an edge is smaller and sound, or not drawn in', () => {
  const corners = fc.array(fc.tuple(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true })), {
    minLength: 3,
    maxLength: 6,
  }) as unknown as fc.Arbitrary<Polygon>;
  fc.assert(
    fc.property(corners, fc.nat(5), fc.constantFrom(0.02, 0.1), (polygon, edge, depth) => {
      if (polygonProblem(polygon)) return;
      const smaller = drawnIn(polygon, edge % polygon.length, depth);
      if (!smaller) return;
      expect(polygonProblem(smaller)).toBeUndefined();
      expect(polygonArea(smaller)).toBeLessThan(polygonArea(polygon));
    }),
  );
});
