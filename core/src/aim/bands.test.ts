import fc from 'fast-check';
import { bandsOf, densityAt, groundModel, levelNames, levels, type Aim } from '.';
import { contains } from '../zones';

const aim: Aim = { heightMetres: 3, tiltDegrees: 12, lens: { horizontalDegrees: 90 }, pictureWidth: 1920, pictureHeight: 1080 };

// Worked by hand: 1920 px at 90° are 960 px at one metre, so 250 px/m reach 3.84 m along the view, 125 reach 7.68 m, 62.5 reach 15.36 m.
test('bands end where the density of their level does', () => {
  const far = Object.fromEntries(bandsOf(groundModel(aim), false).map((b) => [b.level, Math.round(b.farthest * 100) / 100]));
  expect(far).toMatchObject({ identify: 3.84, recognise: 7.68, observe: 15.36, detect: 38.4, monitor: 76.8 });
});

test('by night no band reaches beyond the light, and without light there is none', () => {
  expect(bandsOf(groundModel(aim), true)).toEqual([]);
  const lit = bandsOf(groundModel({ ...aim, infraredMetres: 10 }), true);
  expect(Math.max(...lit.map((b) => b.farthest))).toBe(10);
  expect(lit.map((b) => b.level)).toEqual(['observe', 'recognise', 'identify', 'inspect']);
});

test('inside a band the density is that of its level', () => {
  const share = fc.double({ min: 0.01, max: 0.99, noNaN: true });
  fc.assert(
    fc.property(share, share, fc.integer({ min: 5, max: 60 }), fc.integer({ min: -10, max: 10 }), (u, v, tiltDegrees, rollDegrees) => {
      const model = groundModel({ ...aim, tiltDegrees, rollDegrees });
      for (const { level, polygon } of bandsOf(model, false)) {
        if (!contains(polygon, [u, v])) continue;
        const next = levelNames[levelNames.indexOf(level) + 1];
        // A band's edge is straight between the columns of the picture; so much it may be off.
        expect(densityAt(model, [u, v])).toBeGreaterThan(levels[level] * 0.98);
        if (next) expect(densityAt(model, [u, v])).toBeLessThan(levels[next] * 1.02);
      }
    }),
  );
});
