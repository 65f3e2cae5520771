// A picture decoded small, as motion and infrared are looked for; one way for the live watch and for recordings.

import sharp from 'sharp';
import { isInfrared } from '@nibber/core/stills';

/** Three bytes a cell; `aspect` is width over height of the picture itself. */
export type SmallPicture = { readonly rgb: Uint8Array; readonly width: number; readonly height: number; readonly aspect: number };

// Of what libvips can open, what cameras and people send, and SVG for what is drawn here (it is never taken from outside).
sharp.block({ operation: ['VipsForeignLoad'] });
sharp.unblock({ operation: ['VipsForeignLoadJpeg', 'VipsForeignLoadPng', 'VipsForeignLoadWebp', 'VipsForeignLoadSvg'] });

const cellsAcross = 240;
const maxPixels = 40_000_000;

/** @throws Error where the bytes are no picture, or one with more than 40 million pixels */
export async function smallPicture(picture: Uint8Array, width: number, height: number): Promise<SmallPicture> {
  const cells = { width: cellsAcross, height: Math.max(1, Math.round((cellsAcross * height) / width)) };
  const rgb = await sharp(picture, { limitInputPixels: maxPixels })
    .resize(cells.width, cells.height, { fit: 'fill', kernel: 'linear' })
    .removeAlpha()
    .toColourspace('srgb')
    .raw()
    .toBuffer();
  return { rgb, ...cells, aspect: width / height };
}

/** Whether a picture was taken by infrared light. @throws Error where the bytes are no picture */
export async function isByInfrared(picture: Uint8Array): Promise<boolean> {
  const { width, height } = await sizeOf(picture);
  return isInfrared((await smallPicture(picture, width, height)).rgb);
}

export const sizeOf = async (picture: Uint8Array): Promise<{ width: number; height: number }> =>
  sharp(picture, { limitInputPixels: maxPixels }).metadata();
