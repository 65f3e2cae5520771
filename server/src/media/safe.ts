// A picture made fit to be kept and shown: turned as it is to be seen, its privacy masks burnt in. No one gets the other one.

import sharp from 'sharp';
import type { Camera, Orientation } from '@nibber/core/site';
import type { Polygon } from '@nibber/core/zones';
import { sizeOf } from './small';

export type SafeWay = { readonly orientation: Orientation | undefined; readonly privacy: readonly Polygon[] };

const storedQuality = 86;

export const safeWayOf = ({ orientation, zones = [] }: Camera): SafeWay => ({
  orientation,
  privacy: zones.filter((z) => z.purpose === 'privacy').map((z) => z.polygon as unknown as Polygon),
});

/** @throws Error where the bytes are no picture, or one that is too large */
export async function safePicture(jpeg: Uint8Array, { orientation, privacy }: SafeWay): Promise<Uint8Array> {
  await sizeOf(jpeg);
  return masked(await turned(jpeg, orientation), privacy);
}

/** Turned clockwise, then mirrored. */
export async function turned(jpeg: Uint8Array, orientation: Orientation | undefined): Promise<Uint8Array> {
  if (!orientation?.turnDegrees && !orientation?.mirrored) return jpeg;
  const straight = orientation.turnDegrees
    ? await sharp(jpeg).rotate(orientation.turnDegrees).jpeg({ quality: storedQuality }).toBuffer()
    : jpeg;
  return orientation.mirrored ? sharp(straight).flop().jpeg({ quality: storedQuality }).toBuffer() : straight;
}

/** What is laid over a picture of so many pixels: black where nothing may be seen, nothing elsewhere. An SVG. */
export function maskOver(polygons: readonly Polygon[], width: number, height: number): Buffer {
  const shapes = polygons.map((p) => `<polygon points="${p.map(([x, y]) => `${x * width},${y * height}`).join(' ')}"/>`).join('');
  return Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${shapes}</svg>`);
}

/** Polygons blackened; they are 0..1 of the picture as it is shown. */
export async function masked(jpeg: Uint8Array, polygons: readonly Polygon[]): Promise<Uint8Array> {
  if (polygons.length === 0) return jpeg;
  const { width, height } = await sizeOf(jpeg);
  return sharp(jpeg)
    .composite([{ input: maskOver(polygons, width, height) }])
    .jpeg({ quality: storedQuality })
    .toBuffer();
}
