// The drawings, read once: backgrounds, their depth, and the figures as premultiplied pixels in several sizes.

import { readFileSync } from 'node:fs';
import path from 'node:path';
import sharp, { type Sharp } from 'sharp';
import type { CellRecord, FigureName, SheetRecord } from './cast';
import { farMetres, type CameraName } from './view';

/** Night is seen by infrared; dusk is the day's drawings in what light is left. */
export const lights = ['day', 'dusk', 'night'] as const;
export type Light = (typeof lights)[number];
const drawnBy = (light: Light) => (light === 'night' ? 'night' : 'day');

const assets = path.join(__dirname, '..', '..', 'scenery', 'assets');

export type Pixels = { readonly width: number; readonly height: number; readonly data: Uint8Array };

const greyed = async (image: Sharp, light: Light) => (light === 'night' ? image.greyscale().toColourspace('srgb') : image);

/** Three bytes a pixel. Night is seen by infrared, so without colour. */
export async function background(camera: CameraName, light: Light, width: number): Promise<Pixels> {
  const height = (width * 9) / 16;
  const image = await greyed(sharp(path.join(assets, `${camera}_${drawnBy(light)}.webp`)).removeAlpha(), light);
  const data = await image.resize(width, height).raw().toBuffer();
  return { width, height, data: data.length === width * height * 3 ? data : spread(data) };
}

/** One byte a pixel to three. */
function spread(grey: Uint8Array): Uint8Array {
  const out = new Uint8Array(grey.length * 3);
  for (let i = 0; i < grey.length; i++) out.fill(grey[i]!, i * 3, i * 3 + 3);
  return out;
}

export type Depth = { readonly width: number; readonly metresAt: (x: number, y: number) => number };

/** How far away the place itself is at each pixel of a picture 960 wide. */
export async function depth(camera: CameraName): Promise<Depth> {
  const { data, info } = await sharp(path.join(assets, `${camera}_depth.webp`))
    .extractChannel(0)
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, metresAt: (x, y) => (data[y * info.width + x]! / 255) * farMetres };
}

/** A drawing with smaller copies, each half the size of the one before; four bytes a pixel, colour multiplied by alpha. */
export type Cell = CellRecord & { readonly sizes: readonly Pixels[] };
export type Sheet = Omit<SheetRecord, 'cells'> & { readonly cells: readonly Cell[] };

const maxSizes = 4;

export async function sheet(figure: FigureName, light: Light): Promise<Sheet> {
  const record = JSON.parse(readFileSync(path.join(assets, `${figure}_${drawnBy(light)}.json`), 'utf8')) as SheetRecord;
  const { data, info } = await sharp(path.join(assets, `${figure}_${drawnBy(light)}.webp`))
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { ...record, cells: record.cells.map((cell) => ({ ...cell, sizes: sizesOf(cut(data, info.width, cell, light)) })) };
}

function cut(from: Uint8Array, fromWidth: number, { sheet: [left, top, width, height] }: CellRecord, light: Light): Pixels {
  const data = new Uint8Array(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = ((top + y) * fromWidth + left + x) * 4;
      const o = (y * width + x) * 4;
      const alpha = from[i + 3]!;
      const [r, g, b] = [from[i]!, from[i + 1]!, from[i + 2]!];
      const grey = r * 0.3 + g * 0.59 + b * 0.11;
      data[o] = ((light === 'night' ? grey : r) * alpha) / 255;
      data[o + 1] = ((light === 'night' ? grey : g) * alpha) / 255;
      data[o + 2] = ((light === 'night' ? grey : b) * alpha) / 255;
      data[o + 3] = alpha;
    }
  return { width, height, data };
}

function sizesOf(full: Pixels): Pixels[] {
  const sizes = [full];
  while (sizes.length < maxSizes) {
    const p = sizes.at(-1)!;
    const [width, height] = [p.width >> 1, p.height >> 1];
    if (width < 4 || height < 4) break;
    const data = new Uint8Array(width * height * 4);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        for (let k = 0; k < 4; k++) {
          const i = (y * 2 * p.width + x * 2) * 4 + k;
          const below = i + p.width * 4;
          data[(y * width + x) * 4 + k] = (p.data[i]! + p.data[i + 4]! + p.data[below]! + p.data[below + 4]! + 2) >> 2;
        }
    sizes.push({ width, height, data });
  }
  return sizes;
}
