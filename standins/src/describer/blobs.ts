// Things of one plain colour in a picture, counted: patches that hang together.

import sharp from 'sharp';
import { nameOf } from './colours';

export type Blob = { readonly colour: string; /** Share of the picture. */ readonly area: number };

const across = 320;

/** @param least share of the picture below which a patch is no thing */
export async function blobsIn(jpeg: Uint8Array, colours: readonly string[], least: number): Promise<Blob[]> {
  const { data, info } = await sharp(jpeg).resize({ width: across }).removeAlpha().raw().toBuffer({ resolveWithObject: true });
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
    let size = 0;
    while (stack.length) {
      const at = stack.pop()!;
      size++;
      const x = at % width;
      for (const next of [x > 0 ? at - 1 : -1, x < width - 1 ? at + 1 : -1, at - width, at + width])
        if (next >= 0 && next < names.length && !seen[next] && names[next] === names[start]) {
          seen[next] = 1;
          stack.push(next);
        }
    }
    if (size / names.length >= least) found.push({ colour: names[start]!, area: size / names.length });
  }
  return found;
}
