// Judging pictures: how good one frame shows a thing, whether it was taken by infrared.

import { area, onPicture, type Box } from '../boxes';

/** Grey picture, one byte a pixel. */
export type Grey = { readonly width: number; readonly height: number; readonly data: Uint8Array };

type Window = { x0: number; y0: number; x1: number; y1: number };

function windowOf(picture: Grey, box: Box): Window {
  const [x, y, w, h] = onPicture(box);
  const x0 = Math.floor(x * picture.width);
  const y0 = Math.floor(y * picture.height);
  return {
    x0,
    y0,
    x1: Math.min(picture.width, Math.ceil((x + w) * picture.width)),
    y1: Math.min(picture.height, Math.ceil((y + h) * picture.height)),
  };
}

/** Variance of the Laplacian (4-neighbour kernel) inside a box; 0 where the box is too small to say. */
export function sharpness(picture: Grey, box: Box): number {
  const { x0, y0, x1, y1 } = windowOf(picture, box);
  const { data, width } = picture;
  let [n, sum, squares] = [0, 0, 0];
  for (let y = Math.max(1, y0); y < Math.min(picture.height - 1, y1); y++)
    for (let x = Math.max(1, x0); x < Math.min(width - 1, x1); x++) {
      const i = y * width + x;
      const l = data[i - 1]! + data[i + 1]! + data[i - width]! + data[i + width]! - 4 * data[i]!;
      n++;
      sum += l;
      squares += l * l;
    }
  return n ? squares / n - (sum / n) ** 2 : 0;
}

const black = 12;
const burntOut = 243;

/** Share of the pixels inside a box that are neither black nor burnt out, 0..1. */
export function exposure(picture: Grey, box: Box): number {
  const { x0, y0, x1, y1 } = windowOf(picture, box);
  let [n, good] = [0, 0];
  for (let y = y0; y < y1; y++)
    for (let x = x0; x < x1; x++) {
      const v = picture.data[y * picture.width + x]!;
      n++;
      if (v > black && v < burntOut) good++;
    }
  return n ? good / n : 0;
}

/** At this sharpness a picture is half as good as one could be; beyond it leaves and gravel gain little over a plain coat. */
const halfSharp = 150;

/** How well a picture shows a thing: area × confidence × share inside the picture × sharpness (levelling off) × exposure. Higher is better. */
export function pictureScore(picture: Grey, box: Box, confidence: number): number {
  const inside = area(box) > 0 ? area(onPicture(box)) / area(box) : 0;
  const sharp = sharpness(picture, box);
  return area(box) * confidence * inside * (sharp / (sharp + halfSharp)) * exposure(picture, box);
}

/** Pictures whose mean colourfulness is below this are taken for infrared. */
const minColour = 4;

/**
 * Whether a picture has no colour, as infrared pictures have none.
 * @param rgb three bytes a pixel
 */
export function isInfrared(rgb: Uint8Array): boolean {
  let sum = 0;
  const pixels = rgb.length / 3;
  for (let i = 0; i < rgb.length; i += 3) sum += Math.max(rgb[i]!, rgb[i + 1]!, rgb[i + 2]!) - Math.min(rgb[i]!, rgb[i + 1]!, rgb[i + 2]!);
  return pixels > 0 && sum / pixels < minColour;
}

/** Grey by BT.601 luma from three bytes a pixel. */
export function toGrey(rgb: Uint8Array, width: number, height: number): Grey {
  const data = new Uint8Array(width * height);
  for (let i = 0, j = 0; i < data.length; i++, j += 3) data[i] = (rgb[j]! * 77 + rgb[j + 1]! * 150 + rgb[j + 2]! * 29 + 128) >> 8;
  return { width, height, data };
}

export { isClearlyBetter, spreadOver } from './choose';
export { colourIn, colourOfRgb, looksIn } from './colours';
