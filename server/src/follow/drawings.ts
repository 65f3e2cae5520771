// Pictures made from a picture: the thing marked in it, and the thing cut out.

import sharp from 'sharp';
import { grown, onPicture, type Box, type ClassName } from '@nibber/core/boxes';

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

const inPixels = ([x, y, w, h]: Box, width: number, height: number) => ({
  left: Math.floor(x * width),
  top: Math.floor(y * height),
  width: Math.max(1, Math.min(width - Math.floor(x * width), Math.round(w * width))),
  height: Math.max(1, Math.min(height - Math.floor(y * height), Math.round(h * height))),
});

export async function markedPicture(jpeg: Uint8Array, box: Box, cls: ClassName): Promise<Buffer> {
  const { width, height } = await sharp(jpeg).metadata();
  const r = inPixels(onPicture(grown(box, 1.12)), width, height);
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
  const cut = sharp(jpeg).extract(inPixels(onPicture(grown(box, 1.5)), width, height));
  return cut.resize({ height: 480, withoutEnlargement: true }).jpeg({ quality: 86 }).toBuffer();
}
