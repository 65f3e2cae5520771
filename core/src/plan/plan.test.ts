import { checkSite } from '../check';
import { compileSite, type SiteFile } from '../site';
import { siteWith } from '../testing';
import { planView, type PlanView } from '.';

/** A camera that looks straight down sees a rectangle of the ground: one lens of 90° at 10 m sees 20 m across and, being 2:1, 10 m along. */
const down = (east: number, north: number, headingDegrees = 0) => ({
  heightMetres: 10,
  tiltDegrees: 90,
  headingDegrees,
  east,
  north,
  lens: { horizontalDegrees: 90 },
  pictureWidth: 2000,
  pictureHeight: 1000,
});
const view = (change: (f: SiteFile) => void, isNight = false): PlanView => {
  const { file } = siteWith((f) => {
    f.plan = { widthMetres: 100, heightMetres: 50 };
    change(f);
  });
  return planView(file.plan!, file.cameras, 'detect', isNight);
};
const areaOf = (polygon: readonly (readonly number[])[]) =>
  Math.abs(
    polygon.reduce((sum, [x, y], i) => {
      const [nx, ny] = polygon[(i + 1) % polygon.length]!;
      return sum + x! * ny! - nx! * y!;
    }, 0),
  ) / 2;

test('the ground under a camera that looks straight down is the rectangle that is worked by hand', () => {
  const { placed, coveredShare, gapSquareMetres } = view((f) => (f.cameras[0]!.aim = down(50, 25)));
  expect(areaOf(placed[0]!.covers)).toBeCloseTo(200, 6);
  const [easts, norths] = [placed[0]!.covers.map((p) => p[0]), placed[0]!.covers.map((p) => p[1])];
  expect([Math.min(...easts), Math.max(...easts), Math.min(...norths), Math.max(...norths)].map((v) => Math.round(v * 1e6) / 1e6)).toEqual([
    40, 60, 20, 30,
  ]);
  expect(coveredShare).toBeCloseTo(200 / 5000, 9);
  expect(gapSquareMetres).toBeCloseTo(4800, 6);
});

test('a camera turned to the east sees its rectangle turned', () => {
  const { placed } = view((f) => (f.cameras[0]!.aim = down(50, 25, 90)));
  const easts = placed[0]!.covers.map((p) => p[0]);
  expect(Math.max(...easts) - Math.min(...easts)).toBeCloseTo(10, 6);
});

test('two cameras overlap where both see, and what both see counts once', () => {
  const both = view((f) => {
    f.cameras[0]!.aim = down(40, 25);
    f.cameras[1]!.aim = down(55, 25);
  });
  expect(both.overlaps).toEqual([{ cameras: ['gate', 'side'], squareMetres: expect.closeTo(50, 6) }]);
  expect(areaOf(both.shared[0]!)).toBeCloseTo(50, 6);
  expect(both.coveredShare).toBeCloseTo(350 / 5000, 9);
  const apart = view((f) => {
    f.cameras[0]!.aim = down(20, 25);
    f.cameras[1]!.aim = down(60, 25);
  });
  expect([apart.overlaps, apart.shared]).toEqual([[], []]);
});

test('only what should be covered counts as a gap', () => {
  const covered = view((f) => {
    f.cameras[0]!.aim = down(50, 25);
    // The middle of what it sees: 45..55 east, 22.5..27.5 north.
    f.plan!.covers = [
      [0.45, 0.45],
      [0.55, 0.45],
      [0.55, 0.55],
      [0.45, 0.55],
    ];
  });
  expect(covered.coveredShare).toBeCloseTo(1, 9);
  expect(covered.gaps).toEqual([]);
});

test('by night nothing is covered without light, and no farther than it reaches', () => {
  const tilted = (more: object) => ({ ...down(50, 5), heightMetres: 3, tiltDegrees: 20, ...more });
  const farthest = (more: object) => {
    const [camera] = view((f) => (f.cameras[0]!.aim = tilted(more)), true).placed;
    return Math.max(0, ...camera!.covers.map((p) => p[1] - 5));
  };
  expect(farthest({})).toBe(0);
  expect(farthest({ infraredMetres: 12 })).toBeGreaterThan(8);
  expect(farthest({ infraredMetres: 12 })).toBeLessThan(13);
  expect(farthest({ infraredMetres: 12 })).toBeLessThan(farthest({ infraredMetres: 30 }));
});

test('cameras without a place, or of which no one has said how they stand, are named', () => {
  const { unplaced } = view((f) => {
    const { east: _east, north: _north, ...aim } = down(0, 0);
    f.cameras[0]!.aim = aim;
  });
  expect(unplaced).toEqual([
    { id: 'gate', name: 'Gate', lacks: 'place' },
    { id: 'side', name: 'Side', lacks: 'aim' },
  ]);
});

test('a plan is checked with the site file', () => {
  const { file } = siteWith(
    (f) =>
      (f.plan = {
        widthMetres: 100,
        heightMetres: 50,
        covers: [
          [0, 0],
          [1, 1],
          [1, 0],
          [0, 1],
        ],
      }),
  );
  const checked = checkSite(file);
  expect(checked.ok ? [] : checked.problems.map((f) => f.path)).toEqual(['plan/covers']);
  expect(compileSite(file).cameras.size).toBe(2);
});
