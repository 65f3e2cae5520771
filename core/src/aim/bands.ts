// The ground on the picture, parted by what can be done with what is seen there.

import type { Point } from '../boxes';
import type { Polygon } from '../zones';
import { levelNames, type Level } from './density';
import { reach, type Ground, type GroundModel } from './ground';

/** Where a level is the highest that is reached. Metres are along the view; `polygon` may be flat where the picture shows none of it. */
export type Band = { readonly level: Level; readonly polygon: Polygon; readonly nearest: number; readonly farthest: number };

const columns = 24;

/** Bands from the lowest level, farthest away, to the highest. By night none reaches beyond the light. */
export function bandsOf(model: GroundModel, isNight: boolean): Band[] {
  const limits = levelNames.map((level) => reach(model.aim, level, isNight));
  return levelNames.flatMap((level, i): Band[] => {
    const [farthest, nearest] = [limits[i]!, limits[i + 1] ?? 0];
    if (farthest <= nearest) return [];
    const [far, near] = [rowsAt(model, farthest), rowsAt(model, nearest)];
    return [{ level, polygon: [...far, ...near.reverse()], nearest, farthest }];
  });
}

/**
 * The ground of the picture on which a level is reached, metres right and ahead of the point under the camera: the near edge from left to
 * right, then the far edge back. Empty where it is reached nowhere.
 */
export function groundSeen(model: GroundModel, level: Level, isNight: boolean): Ground[] {
  const far = rowsAt(model, reach(model.aim, level, isNight));
  if (far.every(([, row]) => row >= 1)) return [];
  const near = far.map(([u]): Point => [u, 1]);
  return [...near, ...far.reverse()].flatMap((p) => {
    const found = model.at(p);
    return found ? [found.ground] : [];
  });
}

/** For each column of the picture the row at which the ground is so far away, kept on the picture. */
function rowsAt(model: GroundModel, metres: number): Point[] {
  return Array.from({ length: columns + 1 }, (_, i): Point => {
    const u = i / columns;
    const isFarther = (v: number) => (model.at([u, v])?.depth ?? Infinity) > metres;
    if (!isFarther(0)) return [u, 0];
    if (isFarther(1)) return [u, 1];
    // Farther up the picture is farther away.
    let [far, near] = [0, 1];
    for (let k = 0; k < 40; k++) {
      const middle = (far + near) / 2;
      if (isFarther(middle)) far = middle;
      else near = middle;
    }
    return [u, near];
  });
}
