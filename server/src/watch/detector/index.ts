// The detector: a JPEG and the part of it to look at → detections in shares of the whole picture.

import sharp from 'sharp';
import { area, classOf, onPicture, overlap, type Box, type Detection, type TypeName } from '@nibber/core/boxes';
import { looksIn, pictureScore, toGrey } from '@nibber/core/stills';
import { builtInModel, readModelFolder, type Manifest } from './manifest';
import { loadModel, type Model, type Row } from './model';

export { builtInModel, readModelFolder } from './manifest';
export { loadModel, type Model } from './model';

/** A detection with how well this picture shows the thing (core's `pictureScore`). */
export type Sighting = Detection & { readonly shows: number };

export type Look = { readonly jpeg: Uint8Array; readonly region: Box; readonly brighten: boolean };

export type Detector = { readonly model: Model; detect(look: Look): Promise<Sighting[]> };

const infraredGamma = 1 / 0.65;
const padGrey = 128;
const sameThing = 0.55;

export async function loadDetector(folder: string = builtInModel): Promise<Detector> {
  const read = readModelFolder(folder);
  const model = await loadModel(read);
  return {
    model,
    async detect(look) {
      const whole = sharp(look.jpeg);
      const { width, height } = await whole.metadata();
      const cut = pixelsOf(look.region, width, height);
      const square = letterbox(cut, model.size);
      const rgb = await pixels(look, cut, square, model.size);
      const rows = await model.run(rgb);
      const found = rows.flatMap((row) => toDetection(row, read.manifest, cut, square, model.size, width, height));
      if (found.length === 0) return [];
      // Judged on the pixels that the model saw, whose scale is that of the part looked at.
      const grey = toGrey(rgb, model.size, model.size);
      const scale = square.width / cut.width / model.size;
      const inSquare = ([x, y, w, h]: Box): Box => [
        (x * width - cut.left) * scale + square.left / model.size,
        (y * height - cut.top) * scale + square.top / model.size,
        w * width * scale,
        h * height * scale,
      ];
      // Infrared pictures have no colours to tell.
      const looks = (d: Detection) => (look.brighten ? {} : { looks: looksIn(rgb, model.size, model.size, inSquare(d.box), d.class) });
      return best(found).map((d) => ({
        ...d,
        ...looks(d),
        shows: (pictureScore(grey, inSquare(d.box), d.score) * area(d.box)) / area(inSquare(d.box)),
      }));
    },
  };
}

type Cut = { left: number; top: number; width: number; height: number };
type Square = { left: number; top: number; width: number; height: number };

function pixelsOf(region: Box, width: number, height: number): Cut {
  const [x, y, w, h] = onPicture(region);
  const left = Math.min(width - 1, Math.floor(x * width));
  const top = Math.min(height - 1, Math.floor(y * height));
  return {
    left,
    top,
    width: Math.max(1, Math.min(width - left, Math.round(w * width))),
    height: Math.max(1, Math.min(height - top, Math.round(h * height))),
  };
}

/** Where a cut lies in the model's square, its aspect kept. */
function letterbox(cut: Cut, size: number): Square {
  const scale = size / Math.max(cut.width, cut.height);
  const [width, height] = [Math.max(1, Math.round(cut.width * scale)), Math.max(1, Math.round(cut.height * scale))];
  return { width, height, left: Math.floor((size - width) / 2), top: Math.floor((size - height) / 2) };
}

async function pixels(look: Look, cut: Cut, square: Square, size: number): Promise<Uint8Array> {
  let image = sharp(look.jpeg).extract(cut).resize(square.width, square.height, { fit: 'fill' }).removeAlpha().toColourspace('srgb');
  if (look.brighten) image = image.gamma(1, infraredGamma);
  const { data } = await image.raw().toBuffer({ resolveWithObject: true });
  const out = new Uint8Array(size * size * 3).fill(padGrey);
  for (let y = 0; y < square.height; y++) {
    const from = y * square.width * 3;
    out.set(data.subarray(from, from + square.width * 3), ((y + square.top) * size + square.left) * 3);
  }
  return out;
}

function toDetection(row: Row, manifest: Manifest, cut: Cut, square: Square, size: number, width: number, height: number): Detection[] {
  const name = manifest.classes[String(row.classId)] as string | undefined;
  const cls = name === undefined ? undefined : classOf(name);
  if (!cls || row.score < (manifest.leastScore ?? 0.25)) return [];
  const x = (share: number) => (((share * size - square.left) / square.width) * cut.width + cut.left) / width;
  const y = (share: number) => (((share * size - square.top) / square.height) * cut.height + cut.top) / height;
  const box = onPicture([x(row.x1), y(row.y1), x(row.x2) - x(row.x1), y(row.y2) - y(row.y1)]);
  if (box[2] <= 0 || box[3] <= 0) return [];
  return [{ class: cls, ...(name === cls ? {} : { type: name as TypeName }), score: Math.min(1, row.score), box }];
}

/** Of boxes on the same spot the surest stays, whatever their classes: one thing is one thing. */
function best(found: readonly Detection[]): Detection[] {
  const kept: Detection[] = [];
  for (const d of [...found].sort((a, b) => b.score - a.score)) if (kept.every((k) => overlap(k.box, d.box) < sameThing)) kept.push(d);
  return kept;
}
