import { compileSite, type SiteFile } from '../site';
import { startState, currentTrails, step, type Outcome } from '../sieve';
import { gap, lane, seen, siteWith, someone, yard } from '../testing';
import { furthest, settingsHashOf, lightsOf, siteForWalk, verdictOf, whyNotWalked, zonesWith } from '.';

const file = (change: (f: SiteFile) => void = () => {}) => siteWith(change).file;
/** Monday 1 June 2026, 12:00 in Lisbon: open, and no time for the rule. */
const noon = Date.parse('2026-06-01T11:00:00Z');

/** Walks through the yard as the test asks it; the trails by which each picture left every rule. */
function walk(site: SiteFile, places: readonly number[]) {
  const compiled = compileSite(site);
  let state = startState();
  const outcomes: Outcome[] = [];
  const lights = places.map((feet, i) => {
    const next = step(compiled, state, seen(noon + i * 200, someone(feet)));
    state = next.state;
    outcomes.push(...next.outcomes);
    const trails = currentTrails(compiled, state, 'gate').flatMap((s) => s.trails);
    return lightsOf(furthest(trails))
      .filter((l) => l.state === 'passed')
      .map((l) => l.gate)
      .at(-1);
  });
  return { lights, outcomes };
}

const into = [lane, lane, lane, gap, yard, yard];

test('gates light one after the other as someone walks, at noon in an open yard as well', () => {
  const { lights, outcomes } = walk(siteForWalk(file(), ['comes-in']), into);
  expect(lights).toEqual(['place', 'place', 'place', 'place', 'repeat', 'repeat']);
  expect(outcomes.map((o) => o.kind)).toEqual(['event']);
  // As the place stands, the same walk tells no one.
  expect(walk(file(), into).outcomes).toEqual([]);
});

test('a second walk fires again: a test does not rest', () => {
  const site = siteForWalk(
    file((f) => (f.cameras[0]!.cooldownSeconds = 900)),
    ['comes-in'],
  );
  const compiled = compileSite(site);
  let state = startState();
  let events = 0;
  for (const track of ['a', 'b'])
    into.forEach((feet, i) => {
      const next = step(compiled, state, seen(noon + (track === 'b' ? 10_000 : 0) + i * 200, someone(feet, track)));
      state = next.state;
      events += next.outcomes.filter((o) => o.kind === 'event').length;
    });
  expect(events).toBe(2);
});

test('only the rules that were chosen are asked', () => {
  const two = file((f) => f.rules!.push({ ...f.rules![0]!, id: 'other' }));
  expect(siteForWalk(two, ['other']).rules!.map((r) => r.id)).toEqual(['other']);
});

test('a gate that refuses shows what it found and wanted; mode, hours and presence are not asked', () => {
  const low = walk(
    siteForWalk(
      file((f) => (f.rules![0]!.confidence = 0.9)),
      ['comes-in'],
    ),
    into,
  );
  expect(low.lights.at(-1)).toBe('class');
  const trail = {
    rule: 'r',
    stoppedAt: 'confidence',
    why: '',
    at: 0,
    steps: [
      { gate: 'class', passes: true, found: 'person', wanted: 'person' },
      { gate: 'confidence', passes: false, found: '0.80', wanted: 'at least 0.90' },
    ],
  } as const;
  expect(lightsOf(trail)[2]).toEqual({ gate: 'confidence', state: 'refused', found: '0.80', wanted: 'at least 0.90' });
  expect(lightsOf(trail).flatMap((l) => (l.state === 'lifted' ? [l.gate] : []))).toEqual(['mode', 'hours', 'presence']);
  expect(lightsOf(undefined).some((l) => l.state === 'passed')).toBe(false);
});

test('a zone answers where the feet are', () => {
  const track = { camera: 'gate', key: 'a', name: '', class: 'person', score: 1, firstSeen: 0, lastSeen: 0 } as const;
  const camera = file().cameras[0];
  expect(zonesWith(camera, [{ ...track, box: [0.4, 0.3, 0.05, 0.2] }])).toEqual(['lane']);
  expect(zonesWith(camera, [{ ...track, box: [0.4, 0.6, 0.05, 0.2] }])).toEqual(['yard']);
  expect(zonesWith(camera, [])).toEqual([]);
});

test.each([
  ['fires', { state: 'answered', at: 1, event: 'e', picture: null }, 'proved'],
  ['fires', { state: 'waiting', walked: true, why: '' }, 'failed'],
  ['fires', { state: 'waiting', walked: false, why: null }, 'open'],
  ['quiet', { state: 'answered', at: 1, event: 'e', picture: null }, 'failed'],
  ['quiet', { state: 'waiting', walked: true, why: '' }, 'proved'],
  ['quiet', { state: 'waiting', walked: false, why: null }, 'open'],
] as const)('a rule that is expected to be so: %s, shown: %j → %s', (expect_, result, verdict) => {
  expect(verdictOf({ kind: 'rule', rule: 'r', expect: expect_ }, result)).toBe(verdict);
});

test('what cannot be walked says why', () => {
  const asked = (change: (f: SiteFile) => void, rule = 'comes-in') => whyNotWalked(file(change), { kind: 'rule', rule, expect: 'fires' });
  expect(asked(() => {})).toBeUndefined();
  expect(asked((f) => (f.rules![0]!.on = false))).toMatch(/is off/);
  expect(asked((f) => (f.rules![0]!.cameras = []))).toMatch(/sensors/);
  expect(asked(() => {}, 'gone')).toMatch(/Rule not found/);
  expect(whyNotWalked(file(), { kind: 'zone', camera: 'gate', zone: 'hedge' })).toMatch(/Watched zone not found/);
});

test('a proof holds until something it rests on changes', () => {
  const item = { kind: 'rule', rule: 'comes-in', expect: 'fires' } as const;
  const before = settingsHashOf(file(), item);
  const after = (change: (f: SiteFile) => void) => settingsHashOf(file(change), item) === before;
  expect(after((f) => (f.rules![0]!.notify = []))).toBe(true);
  expect(after((f) => (f.rules![0]!.name = 'Another name'))).toBe(true);
  expect(after((f) => (f.cameras[0]!.zones![0]!.name = 'Road'))).toBe(true);
  expect(after((f) => (f.cameras[1]!.orientation = { turnDegrees: 90 }))).toBe(true);
  expect(after((f) => (f.rules![0]!.confidence = 0.6))).toBe(false);
  expect(after((f) => (f.cameras[0]!.zones![0]!.polygon[0] = [0.1, 0.4]))).toBe(false);
  expect(after((f) => (f.cameras[0]!.tuning = { threshold: 20 }))).toBe(false);
  expect(after((f) => (f.cameras[0]!.orientation = { mirrored: true }))).toBe(false);
});
