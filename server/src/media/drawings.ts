// Pictures made from a picture: the thing marked in it, and the thing cut out.

import sharp from 'sharp';
import { grown, inPixels, type Box, type ClassName } from '@nibber/core/boxes';

/** Stroke by class, so that it can be told without its colour: solid, long dashes, dots, thin. */
const strokes: Record<ClassName, string> = {
  person: 'stroke="#6A3D8F" stroke-width="4"',
  vehicle: 'stroke="#9A6A00" stroke-width="4" stroke-dasharray="16 7"',
  pet: 'stroke="#0F6E7C" stroke-width="4" stroke-dasharray="2 7" stroke-linecap="round"',
  face: 'stroke="#5A6158" stroke-width="2"',
  plate: 'stroke="#5A6158" stroke-width="2"',
  parcel: 'stroke="#5A6158" stroke-width="2"',
  other: 'stroke="#5A6158" stroke-width="2"',
};

export async function markedPicture(jpeg: Uint8Array, box: Box, cls: ClassName): Promise<Buffer> {
  const { width, height } = await sharp(jpeg).metadata();
  const r = inPixels(grown(box, 1.12), width, height);
  const frame = (style: string) => `<rect x="${r.left}" y="${r.top}" width="${r.width}" height="${r.height}" rx="5" fill="none" ${style}/>`;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${frame('stroke="#FFFDF7" stroke-width="8"')}${frame(strokes[cls])}</svg>`;
  return sharp(jpeg)
    .composite([{ input: Buffer.from(svg) }])
    .jpeg({ quality: 84 })
    .toBuffer();
}

/** The thing with some of what stands around it, at most 480 pixels high. */
export async function croppedPicture(jpeg: Uint8Array, box: Box): Promise<Buffer> {
  const { width, height } = await sharp(jpeg).metadata();
  const cut = sharp(jpeg).extract(inPixels(grown(box, 1.5), width, height));
  return cut.resize({ height: 480, withoutEnlargement: true }).jpeg({ quality: 86 }).toBuffer();
}

/** Stands where there is no picture that could be shown. */
let drawn: Promise<Buffer> | undefined;
export const noPicture = (): Promise<Buffer> =>
  (drawn ??= sharp(
    Buffer.from(
      '<svg xmlns="http://www.w3.org/2000/svg" width="960" height="540"><rect width="960" height="540" fill="#D8D1C1"/><path d="M330 180h300v180h-300zM330 180l300 180M630 180l-300 180" fill="none" stroke="#5A6158" stroke-width="3"/></svg>',
    ),
  )
    .jpeg()
    .toBuffer());
