// Things of one plain colour in a picture, counted: patches that hang together.

import sharp from 'sharp';
import { nameOf } from './colours';

/** `area` is a share of the picture; `long` how many times as wide as high it is. */
export type Blob = { readonly colour: string; readonly area: number; readonly long: number };

const across = 480;

/**
 * @param colours names of colours that count, each a thing of its own
 * @param least share of the picture below which a patch is no thing
 */
export async function blobsIn(jpeg: Uint8Array, colours: readonly string[], min: number): Promise<Blob[]> {
  const { data, info } = await sharp(jpeg)
    .resize({ width: across })
    .removeAlpha()
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  const { width, height } = info;
  const names = Array.from({ length: width * height }, (_, i) => {
    const name = nameOf(data[i * 3]!, data[i * 3 + 1]!, data[i * 3 + 2]!).replace('dark ', '');
    return colours.includes(name) ? name : '';
  });
  const found: Blob[] = [];
  const seen = new Uint8Array(names.length);
  for (let start = 0; start < names.length; start++) {
    if (seen[start] || !names[start]) continue;
    const stack = [start];
    seen[start] = 1;
    let [size, left, right, top, bottom] = [0, width, 0, height, 0];
    while (stack.length) {
      const at = stack.pop()!;
      size++;
      const [x, y] = [at % width, Math.floor(at / width)];
      [left, right, top, bottom] = [Math.min(left, x), Math.max(right, x), Math.min(top, y), Math.max(bottom, y)];
      for (const next of [x > 0 ? at - 1 : -1, x < width - 1 ? at + 1 : -1, at - width, at + width])
        if (next >= 0 && next < names.length && !seen[next] && names[next] === names[start]) {
          seen[next] = 1;
          stack.push(next);
        }
    }
    const area = size / names.length;
    if (area >= min) found.push({ colour: names[start]!, area, long: (right - left + 1) / (bottom - top + 1) });
  }
  return found;
}

/** A picture whose green is below this on the whole was taken in little light. */
const dim = 95;

/** Long patches of paint, or by infrared of what is paler than the ground; the sky and a path are larger. */
export async function canoesIn(jpeg: Uint8Array, withColours: boolean): Promise<number> {
  // In little light paint is as dark as wood: the brightest is taken for white.
  const isDim = withColours && (await sharp(jpeg).stats()).channels[1]!.mean < dim;
  const lit = isDim ? await sharp(jpeg).normalise({ lower: 0, upper: 99 }).jpeg({ quality: 95 }).toBuffer() : jpeg;
  const patches = await blobsIn(lit, withColours ? ['red', 'tan', 'yellow', 'blue', 'orange'] : ['white'], 0.002);
  return patches.filter((b) => b.long > 3.5 && b.area < 0.03).length;
}

/** What is of cardboard and about as wide as high; by infrared that is white. */
export async function parcelsIn(jpeg: Uint8Array, withColours: boolean): Promise<number> {
  const patches = await blobsIn(jpeg, [withColours ? 'tan' : 'white'], 0.002);
  return patches.filter((b) => b.long > 0.7 && b.long < 2.4 && b.area < 0.02).length;
}
