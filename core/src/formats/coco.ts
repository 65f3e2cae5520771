// COCO results and annotations, read and written. Boxes are pixels: x, y, width, height from the top left.

import type { Box } from '../boxes';
import { isoInstant, parseInstant, type Instant } from '../time';
import type { Frame, SeenObject } from '../tracks';
import { cocoCategories, cocoCategory, cocoMeaning } from './classes';
import { isRecord } from '../problem';
import { readJson, refuse } from './limits';

/** A picture that boxes are on: its size in pixels, and when it was taken. */
export type CocoImage = { readonly id: number; readonly width: number; readonly height: number; readonly at: Instant };

/**
 * A list of results, `[{ image_id, category_id, bbox, score }]`.
 * @param images every picture that the results name
 * @throws Problem 'bad-input' with the place
 */
export function readCocoResults(text: string, images: readonly CocoImage[], camera: string): Frame[] {
  const value = readJson(text);
  if (!Array.isArray(value)) refuse('', 'is not a list', '[{ image_id, category_id, bbox, score }]');
  return framesOf(value, '', images, camera, (entry, path) => {
    const { score } = entry;
    if (typeof score !== 'number' || !(score >= 0 && score <= 1)) refuse(`${path}/score`, `is ${JSON.stringify(score)}`, '0 to 1');
    return score;
  });
}

/**
 * A file of annotations, `{ images, annotations, categories }`. Pictures without `date_captured` follow one another at the rate given.
 * @throws Problem 'bad-input' with the place
 */
export function readCocoAnnotations(text: string, camera: string, when: { readonly start: Instant; readonly fps: number }): Frame[] {
  const value = readJson(text);
  if (!isRecord(value) || !Array.isArray(value.images) || !Array.isArray(value.annotations))
    refuse('', 'has no images and annotations', '{ images: [...], annotations: [...] }');
  const images = value.images.map((image: unknown, i): CocoImage => {
    const path = `images/${i}`;
    if (!isRecord(image)) refuse(path, 'is not an object', '{ id, width, height }');
    const date = image.date_captured;
    const at = date === undefined ? when.start + Math.round((i * 1000) / when.fps) : instant(date, `${path}/date_captured`);
    return {
      id: whole(image.id, `${path}/id`),
      width: above0(image.width, `${path}/width`),
      height: above0(image.height, `${path}/height`),
      at,
    };
  });
  return framesOf(value.annotations, 'annotations/', images, camera, () => 1);
}

function framesOf(
  entries: readonly unknown[],
  root: string,
  images: readonly CocoImage[],
  camera: string,
  scoreOf: (entry: Record<string, unknown>, path: string) => number,
): Frame[] {
  const byId = new Map(images.map((image) => [image.id, { image, objects: [] as SeenObject[] }]));
  entries.forEach((entry, i) => {
    const path = `${root}${i}`;
    if (!isRecord(entry)) refuse(path, 'is not an object', '{ image_id, category_id, bbox }');
    const own = byId.get(whole(entry.image_id, `${path}/image_id`));
    if (!own) refuse(`${path}/image_id`, `is ${JSON.stringify(entry.image_id)}, which is not a picture here`, 'the id of a picture');
    const { width, height } = own.image;
    const track = entry.track_id;
    own.objects.push({
      ...cocoMeaning(whole(entry.category_id, `${path}/category_id`)),
      score: scoreOf(entry, path),
      box: pixelBox(entry.bbox, width, height, `${path}/bbox`),
      ...(track === undefined ? {} : { track: String(whole(track, `${path}/track_id`)) }),
    });
  });
  return [...byId.values()].sort((a, b) => a.image.at - b.image.at).map(({ image, objects }) => ({ at: image.at, camera, objects }));
}

/** Pixels to shares of the picture. */
function pixelBox(value: unknown, width: number, height: number, path: string): Box {
  const isSound = Array.isArray(value) && value.length === 4 && value.every((v) => typeof v === 'number' && Number.isFinite(v));
  if (!isSound || value[2] < 0 || value[3] < 0)
    refuse(path, `is ${JSON.stringify(value)?.slice(0, 60)}`, '[x, y, width, height] in pixels');
  const [x, y, w, h] = value as [number, number, number, number];
  return [x / width, y / height, w / width, h / height];
}

function whole(value: unknown, path: string): number {
  if (!Number.isInteger(value)) refuse(path, `is ${JSON.stringify(value)}`, 'a whole number');
  return value as number;
}

function above0(value: unknown, path: string): number {
  if (typeof value !== 'number' || !(value > 0)) refuse(path, `is ${JSON.stringify(value)}`, 'a number above 0');
  return value;
}

function instant(value: unknown, path: string): Instant {
  // The form of the published sets has neither offset nor `T`; it is taken as UTC.
  const text = typeof value === 'string' ? value.trim().replace(' ', 'T') : '';
  const at = parseInstant(text) ?? parseInstant(`${text}Z`);
  if (at === undefined) refuse(path, `is ${JSON.stringify(value)}`, 'a date and time');
  return at;
}

const pixels = ([x, y, w, h]: Box, width: number, height: number) =>
  [x * width, y * height, w * width, h * height].map((v) => Math.round(v * 100) / 100);

/** Frames as a list of results; things for which the list has no category are left out. Pictures are numbered from 1. */
export const writeCocoResults = (frames: readonly Frame[], width: number, height: number): string =>
  JSON.stringify(
    frames.flatMap((f, i) =>
      f.objects.flatMap((o) => {
        const category = cocoCategory(o);
        return category === undefined
          ? []
          : [{ image_id: i + 1, category_id: category, bbox: pixels(o.box, width, height), score: Math.round(o.score * 1e5) / 1e5 }];
      }),
    ),
  );

/** Frames as a file of annotations. */
export function writeCocoAnnotations(frames: readonly Frame[], width: number, height: number): string {
  let id = 0;
  const annotations = frames.flatMap((f, i) =>
    f.objects.flatMap((o) => {
      const category = cocoCategory(o);
      if (category === undefined) return [];
      const bbox = pixels(o.box, width, height);
      const track = o.track !== undefined && /^\d+$/.test(o.track) ? { track_id: Number(o.track) } : {};
      return [{ id: ++id, image_id: i + 1, category_id: category, bbox, area: bbox[2]! * bbox[3]!, iscrowd: 0, ...track }];
    }),
  );
  const images = frames.map((f, i) => ({ id: i + 1, width, height, file_name: `${i + 1}.jpg`, date_captured: isoInstant(f.at) }));
  return JSON.stringify({ images, annotations, categories: cocoCategories });
}
