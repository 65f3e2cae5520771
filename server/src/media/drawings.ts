// Pictures made from a picture: the thing marked in it, and the thing cut out.

import sharp from 'sharp';
import { grown, inPixels, type Box, type ClassName } from '@nibber/core/boxes';

/** Stroke by class, so that it can be recognised without its colour: solid, long dashes, dots, thin. */
const strokes: Record<ClassName, string> = {
  person: 'stroke="#6A3D8F" stroke-width="4"',
  vehicle: 'stroke="#9A6A00" stroke-width="4" stroke-dasharray="16 7"',
  pet: 'stroke="#0F6E7C" stroke-width="4" stroke-dasharray="2 7" stroke-linecap="round"',
  face: 'stroke="#5A6158" stroke-width="2"',
  plate: 'stroke="#5A6158" stroke-width="2"',
  parcel: 'stroke="#5A6158" stroke-width="2"',
  other: 'stroke="#5A6158" stroke-width="2"',
};

type Pixels = { readonly left: number; readonly top: number; readonly width: number; readonly height: number };

/** A frame around a part of a picture, as an SVG to be laid over it. */
function frameAround(r: Pixels, cls: ClassName, width: number, height: number): Buffer {
  const frame = (style: string) => `<rect x="${r.left}" y="${r.top}" width="${r.width}" height="${r.height}" rx="5" fill="none" ${style}/>`;
  return Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${frame('stroke="#FFFDF7" stroke-width="8"')}${frame(strokes[cls])}</svg>`,
  );
}

export async function markedPicture(jpeg: Uint8Array, box: Box, cls: ClassName): Promise<Buffer> {
  const { width, height } = await sharp(jpeg).metadata();
  const input = frameAround(inPixels(grown(box, 1.12), width, height), cls, width, height);
  return sharp(jpeg).composite([{ input }]).jpeg({ quality: 84 }).toBuffer();
}

const noticeWidth = 720;
const noticeShape = 2;
/** Nothing is enlarged beyond what it holds; where the thing is small, this share of the picture's width stands around it. */
const minShare = 0.28;

/** The thing marked, in a part of the picture of two to one that a notification can show: it fills about half of its height. */
export async function noticePicture(jpeg: Uint8Array, box: Box, cls: ClassName): Promise<Buffer> {
  const { width, height } = await sharp(jpeg).metadata();
  const thing = inPixels(grown(box, 1.12), width, height);
  const wanted = Math.max(thing.height * 1.9 * noticeShape, thing.width * 1.5, width * minShare);
  const cut = Math.round(Math.min(wanted, width, height * noticeShape));
  const cutHeight = Math.min(height, Math.round(cut / noticeShape));
  const at = (middle: number, size: number, whole: number) => Math.round(Math.min(Math.max(0, middle - size / 2), whole - size));
  const left = at(thing.left + thing.width / 2, cut, width);
  const top = at(thing.top + thing.height / 2, cutHeight, height);
  const scale = Math.min(1.5, noticeWidth / cut);
  const [w, h] = [Math.round(cut * scale), Math.round(cutHeight * scale)];
  const mark = {
    left: (thing.left - left) * scale,
    top: (thing.top - top) * scale,
    width: thing.width * scale,
    height: thing.height * scale,
  };
  const part = await sharp(jpeg).extract({ left, top, width: cut, height: cutHeight }).resize(w, h).toBuffer();
  return sharp(part)
    .composite([{ input: frameAround(mark, cls, w, h) }])
    .jpeg({ quality: 82 })
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
