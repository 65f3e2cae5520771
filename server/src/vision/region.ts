// Which part of a picture the detector looks at: what moves, with some of what stands around it, made as large as the model allows.

import { around, centre, type Box } from '@nibber/core/boxes';

/** A track that stands still is looked at again this often. */
export const lookAgainMs = 2000;

const wholePicture: Box = [0, 0, 1, 1];
/** Room around what moves, as a share of it. */
const margin = 0.35;
/** A lower part than this share of the picture's height is not enlarged further: the model wants surroundings. */
const minHeight = 0.5;
/** A part nearly as large as the picture gains nothing. */
const maxOfIt = 0.95;

/**
 * @param parts boxes that must be inside, 0..1 of the picture
 * @param aspect width over height of the picture
 * @param shape width over height of what the model takes
 * @returns a part of the model's shape in pixels, or the whole picture
 */
export function regionAround(parts: readonly Box[], aspect: number, shape: number): Box {
  const all = around(parts);
  if (!all) return wholePicture;
  const room = 1 + 2 * margin;
  const height = Math.max(minHeight, all[3] * room, (all[2] * aspect * room) / shape);
  const width = (height * shape) / aspect;
  if (height >= maxOfIt || width >= maxOfIt) return wholePicture;
  const [x, y] = centre(all);
  return [Math.min(1 - width, Math.max(0, x - width / 2)), Math.min(1 - height, Math.max(0, y - height / 2)), width, height];
}

/** The share of a box in which something moves, by the parts that do. */
export function movingShare([x, y, w, h]: Box, parts: readonly Box[]): number {
  const across = (p: Box) => Math.max(0, Math.min(x + w, p[0] + p[2]) - Math.max(x, p[0]));
  const down = (p: Box) => Math.max(0, Math.min(y + h, p[1] + p[3]) - Math.max(y, p[1]));
  const covered = parts.reduce((sum, p) => sum + across(p) * down(p), 0);
  return w * h > 0 ? Math.min(1, covered / (w * h)) : 0;
}
