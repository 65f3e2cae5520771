import fc from 'fast-check';
import {
  calibrate,
  deadMetres,
  density,
  densityAt,
  densityIn,
  distanceFor,
  distanceOf,
  fieldDegrees,
  footprint,
  groundModel,
  levelAt,
  levels,
  metresHigh,
  onPlan,
  pixelsHigh,
  plateAt,
  reach,
  type Aim,
  type Level,
} from '.';
import type { Box } from '../boxes';

const aim: Aim = { heightMetres: 3, tiltDegrees: 20, lens: { horizontalDegrees: 90 }, pictureWidth: 1920, pictureHeight: 1080 };

test.each<[Level, number]>([
  // IEC/EN 62676-4:2015, table of operational requirements: pixels per metre.
  ['monitor', 12.5],
  ['detect', 25],
  ['observe', 62.5],
  ['recognise', 125],
  ['identify', 250],
  ['inspect', 1000],
])('%s asks %d px/m', (level, pixels) => {
  expect(levels[level]).toBe(pixels);
  expect([levelAt(pixels), levelAt(pixels - 0.1) === level]).toEqual([level, false]);
});

test.each([
  // Worked by hand from w / (2 d tan(a/2)): tan 45° = 1, tan 30° = 0.57735, tan 26.565° = 0.5.
  [{ horizontalDegrees: 90 }, 1920, 10, 96],
  [{ horizontalDegrees: 60 }, 1920, 10, 166.2769],
  [{ horizontalDegrees: 53.130102 }, 2000, 8, 250],
  // The same 60° from a lens: sensor 5.3 mm wide, f = 5.3 / (2 tan 30°) = 4.58993 mm.
  [{ focalMillimetres: 4.589935, sensorWidthMillimetres: 5.3 }, 1920, 10, 166.2769],
  // Cylindrical panorama, w / (a d): 180° is π.
  [{ horizontalDegrees: 180, panorama: true }, 4096, 10, 130.3797],
])('density of %j at %d px, %d m is %d px/m', (lens, width, metres, expected) => {
  expect(density(lens, width, metres)).toBeCloseTo(expected, 3);
  expect(distanceFor(lens, width, expected)).toBeCloseTo(metres, 3);
});

test('a lens of 36 mm on a sensor of 36 mm sees 53.13°', () => {
  // 2 atan(36 / 72) = 53.130°, worked by hand.
  expect(fieldDegrees({ focalMillimetres: 36, sensorWidthMillimetres: 36 })).toBeCloseTo(53.1301, 4);
});

test('straight ahead of a tilted camera the middle of the picture lies at height / tan(tilt)', () => {
  const found = groundModel(aim).at([0.5, 0.5])!;
  // 3 / tan 20° = 8.2424 m; along the view 3 / sin 20° = 8.7714 m.
  expect(found.ground[0]).toBeCloseTo(0, 9);
  expect([found.ground[1], found.depth]).toEqual([expect.closeTo(8.2424, 4), expect.closeTo(8.7714, 4)]);
});

test('level cameras show no ground in the upper half, and the horizon is in the middle', () => {
  const level = groundModel({ ...aim, tiltDegrees: 0 });
  expect([level.at([0.5, 0.5]), level.at([0.1, 0.3])]).toEqual([undefined, undefined]);
  // At the lower edge: tan = 1080/1920 with 90°, so 3 / 0.5625 = 5.3333 m ahead.
  expect(level.at([0.5, 1])!.ground[1]).toBeCloseTo(5.3333, 4);
  expect(deadMetres(level)).toBeCloseTo(5.3333, 4);
});

const anyAim = fc.record({
  heightMetres: fc.double({ min: 1, max: 12, noNaN: true }),
  tiltDegrees: fc.double({ min: 0, max: 80, noNaN: true }),
  rollDegrees: fc.double({ min: -20, max: 20, noNaN: true }),
  lens: fc.record({ horizontalDegrees: fc.double({ min: 20, max: 120, noNaN: true }) }),
  pictureWidth: fc.constant(1920),
  pictureHeight: fc.constant(1080),
});
const share = fc.double({ min: 0, max: 1, noNaN: true });

test('the ground under a pixel is seen at that pixel, whatever the tilt and roll', () => {
  fc.assert(
    fc.property(anyAim, share, share, (any, u, v) => {
      const model = groundModel(any);
      const found = model.at([u, v]);
      if (!found || found.depth > 1e4) return;
      const back = model.pixel(found.ground)!;
      expect(back[0]).toBeCloseTo(u, 5);
      expect(back[1]).toBeCloseTo(v, 5);
    }),
  );
});

test('the same ray by rotation matrices, multiplied out by hand', () => {
  // Camera axes: right, down, forward. Roll about forward, then tilt about right: the textbook pinhole, R·(x, y, 1).
  const any: Aim = { ...aim, rollDegrees: 10, tiltDegrees: 35 };
  const [t, r] = [(35 * Math.PI) / 180, (10 * Math.PI) / 180];
  const ray = [(0.7 - 0.5) * 2, (0.8 - 0.5) * 2 * (1080 / 1920), 1] as const;
  const rolled = [Math.cos(r) * ray[0] - Math.sin(r) * ray[1], Math.sin(r) * ray[0] + Math.cos(r) * ray[1], 1] as const;
  const world = [rolled[0], Math.cos(t) * rolled[1] + Math.sin(t), -Math.sin(t) * rolled[1] + Math.cos(t)] as const;
  const scale = 3 / world[1];
  const { ground } = groundModel(any).at([0.7, 0.8])!;
  expect([ground[0], ground[1]]).toEqual([expect.closeTo(world[0] * scale, 9), expect.closeTo(world[2] * scale, 9)]);
});

test('a person of 1.75 m is measured as such, wherever they stand, and is as many pixels tall as the density says', () => {
  const model = groundModel({ ...aim, tiltDegrees: 10 });
  for (const ground of [
    [0, 6],
    [2, 9],
    [-3, 15],
  ] as const) {
    const [feet, head] = [model.pixel(ground)!, model.pixel(ground, 1.75)!];
    const box: Box = [feet[0] - 0.01, head[1], 0.02, feet[1] - head[1]];
    expect(metresHigh(model, box)).toBeCloseTo(1.75, 3);
    expect(distanceOf(model, box)).toBeCloseTo(Math.hypot(...ground), 6);
    const pixels = pixelsHigh(model, ground, 1.75)!;
    expect(pixels / (densityAt(model, feet) * 1.75)).toBeCloseTo(1, 0);
  }
  expect(distanceOf(model, [0.4, 0, 0.1, 0.1])).toBe(Infinity);
  expect(metresHigh(model, [0.4, 0, 0.1, 0.1])).toBeUndefined();
});

test('two measured marks solve tilt and height, one solves the tilt, and a wrong measure shows', () => {
  const truth: Aim = { ...aim, heightMetres: 3.4, tiltDegrees: 27, rollDegrees: 3 };
  const model = groundModel(truth);
  const mark = (at: readonly [number, number]) => ({ at, metres: Math.hypot(...model.at(at)!.ground) });
  const marks = [mark([0.3, 0.9]), mark([0.6, 0.35])];
  const guess: Aim = { ...truth, heightMetres: 2, tiltDegrees: 5 };
  const both = calibrate(guess, marks, 'tilt and height')!;
  expect([both.aim.tiltDegrees, both.aim.heightMetres, both.worst]).toEqual([
    expect.closeTo(27, 3),
    expect.closeTo(3.4, 3),
    expect.closeTo(0, 4),
  ]);
  expect(calibrate({ ...truth, tiltDegrees: 5 }, marks.slice(0, 1), 'tilt')!.aim.tiltDegrees).toBeCloseTo(27, 3);
  expect(calibrate(guess, marks.slice(0, 1), 'tilt and height')).toBeUndefined();
  const wrong = calibrate(truth, [marks[0]!, { ...marks[1]!, metres: marks[1]!.metres * 1.5 }], 'tilt')!;
  expect(wrong.worst).toBeGreaterThan(0.1);
});

test('least and greatest density in a zone are those of any point of it', () => {
  fc.assert(
    fc.property(anyAim, fc.array(fc.tuple(share, share), { minLength: 3, maxLength: 6 }), share, share, (any, corners, s, t) => {
      const model = groundModel(any);
      const { min, max } = densityIn(model, corners);
      const mix = (a: number, b: number, k: number) => a + (b - a) * k;
      const [a, b, c] = corners as [[number, number], [number, number], [number, number]];
      const p = [mix(mix(a[0], b[0], s), c[0], t), mix(mix(a[1], b[1], s), c[1], t)] as const;
      const here = densityAt(model, p);
      expect(here).toBeGreaterThanOrEqual(min - 1e-6);
      expect(here).toBeLessThanOrEqual(max + 1e-6);
    }),
  );
});

test('the footprint ends where it is told to, begins at the dead ground, and turns with the heading', () => {
  const model = groundModel(aim);
  const points = footprint(model, 25);
  const distances = points.map((p) => Math.hypot(...p));
  expect(Math.max(...distances)).toBeCloseTo(25, 6);
  expect(Math.min(...distances)).toBeCloseTo(deadMetres(model), 6);
  // A camera that looks straight up a wall's foot: nothing within a metre.
  expect(footprint(groundModel({ ...aim, tiltDegrees: -60 }), 25)).toEqual([]);
  expect(onPlan({ ...aim, headingDegrees: 90, east: 5, north: 7 }, [2, 10]).map((v) => Math.round(v * 1e6) / 1e6)).toEqual([15, 5]);
});

test('panorama: straight ahead and to the side are equally far and equally dense', () => {
  const model = groundModel({
    ...aim,
    tiltDegrees: 0,
    lens: { horizontalDegrees: 180, panorama: true },
    pictureWidth: 4096,
    pictureHeight: 1024,
  });
  const [ahead, side] = [model.at([0.5, 0.9])!, model.at([0, 0.9])!];
  expect(ahead.depth).toBeCloseTo(side.depth, 9);
  expect([side.ground[0] < 0, Math.abs(side.ground[1]) < 1e-9]).toEqual([true, true]);
  expect(densityAt(model, [0.5, 0.9])).toBeCloseTo(4096 / Math.PI / ahead.depth, 6);
  expect(model.pixel(side.ground)![1]).toBeCloseTo(0.9, 9);
});

test('by night the light is the limit where it is nearer', () => {
  const dark: Aim = { ...aim, infraredMetres: 20 };
  // 1920 px, 90°: 960 px/m at 1 m, so detect (25 px/m) reaches 38.4 m and identify (250) 3.84 m.
  expect([reach(dark, 'detect', false), reach(dark, 'detect', true), reach(dark, 'identify', true), reach(aim, 'detect', true)]).toEqual([
    expect.closeTo(38.4, 9),
    20,
    expect.closeTo(3.84, 9),
    0,
  ]);
});

test('a plate must be near enough and face the camera', () => {
  const narrow = groundModel({ ...aim, lens: { horizontalDegrees: 30 }, tiltDegrees: 15 });
  expect(plateAt(narrow, [0, 12], 180).problems).toEqual([]);
  expect(plateAt(narrow, [0, 40], 180).problems).toEqual(['far']);
  expect(plateAt(narrow, [0, 12], 135).problems).toEqual(['aslant']);
  expect(plateAt(narrow, [0, 12], 180).degreesOff).toBeCloseTo((Math.atan2(2.5, 12) * 180) / Math.PI, 6);
});
