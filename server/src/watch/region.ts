// Which part of a picture the detector looks at: what moves, with some of what stands around it, made as large as the model allows.

import { around, centre, type Box } from '@nibber/core/boxes';

/** A track that stands still is looked at again this often. */
export const lookAgainMs = 2000;

const wholePicture: Box = [0, 0, 1, 1];
/** Room around what moves, as a share of it. */
const margin = 0.35;
/** A smaller part than this share of the picture's height is not enlarged further: the model wants surroundings. */
const leastSide = 0.6;
/** A part nearly as large as the picture gains nothing. */
const mostSide = 0.95;

/**
 * @param parts boxes that must be inside, 0..1 of the picture
 * @param aspect width over height of the picture
 * @returns a square part in pixels, or the whole picture
 */
export function regionAround(parts: readonly Box[], aspect: number): Box {
  const all = around(parts);
  if (!all) return wholePicture;
  const side = Math.max(leastSide, Math.max(all[2] * aspect, all[3]) * (1 + 2 * margin));
  if (side >= mostSide) return wholePicture;
  const [width, height] = [side / aspect, side];
  const [x, y] = centre(all);
  return [Math.min(1 - width, Math.max(0, x - width / 2)), Math.min(1 - height, Math.max(0, y - height / 2)), width, height];
}
