// Solving how a camera is tilted, and how high it hangs, from marks on the ground whose distances were measured.

import type { Point } from '../boxes';
import { groundModel, type Aim } from './ground';

/** A place on the picture, and its measured distance from the point under the camera, metres. */
export type GroundMark = { readonly at: Point; readonly metres: number };

export type Calibration = {
  readonly aim: Aim;
  /** What the solved aim says of each mark, metres, in their order. */
  readonly solved: readonly number[];
  /** Greatest error, as a share of the measured distance. */
  readonly worst: number;
};

/**
 * The tilt that fits the marks best; with `height` unknown, that too.
 * @param marks at least one for the tilt, two for tilt and height
 * @returns undefined where no tilt puts every mark on the ground, or there are too few marks
 */
export function calibrate(aim: Aim, marks: readonly GroundMark[], unknown: 'tilt' | 'tilt and height'): Calibration | undefined {
  if (marks.length < (unknown === 'tilt' ? 1 : 2)) return undefined;
  const tried = (tiltDegrees: number) => fit({ ...aim, tiltDegrees }, marks, unknown);
  let best: { tilt: number; error: number } | undefined;
  for (let tilt = -45; tilt < 90; tilt += 0.25) {
    const { error } = tried(tilt);
    if (error < (best?.error ?? Infinity)) best = { tilt, error };
  }
  if (!best) return undefined;
  let [low, high] = [best.tilt - 0.25, best.tilt + 0.25];
  for (let i = 0; i < 60; i++) {
    const [a, b] = [low + (high - low) / 3, high - (high - low) / 3];
    if (tried(a).error < tried(b).error) high = b;
    else low = a;
  }
  const { aim: solvedAim, distances } = tried((low + high) / 2);
  const solved = distances ?? [];
  const worst = Math.max(...marks.map((m, i) => Math.abs((solved[i] ?? Infinity) - m.metres) / m.metres));
  return { aim: solvedAim, solved, worst };
}

/** Distances grow with the height in proportion, so the best height for a tilt needs no search. Errors are compared as ratios. */
function fit(aim: Aim, marks: readonly GroundMark[], unknown: 'tilt' | 'tilt and height') {
  const model = groundModel(aim);
  const distances = marks.map((m) => {
    const found = model.at(m.at);
    return found ? Math.hypot(...found.ground) : NaN;
  });
  const ratios = marks.map((m, i) => Math.log(m.metres / distances[i]!));
  if (ratios.some((r) => !Number.isFinite(r))) return { aim, error: Infinity, distances: undefined };
  const shift = unknown === 'tilt' ? 0 : ratios.reduce((a, b) => a + b, 0) / ratios.length;
  const factor = Math.exp(shift);
  return {
    aim: { ...aim, heightMetres: aim.heightMetres * factor },
    error: ratios.reduce((sum, r) => sum + (r - shift) ** 2, 0),
    distances: distances.map((d) => d * factor),
  };
}
