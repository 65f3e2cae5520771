// The detector: a JPEG and the part of it to look at → detections in shares of the whole picture.

import sharp from 'sharp';
import { area, classOf, inPixels, onPicture, overlap, type Box, type Detection, type TypeName } from '@nibber/core/boxes';
import { looksIn, pictureScore, toGrey } from '@nibber/core/stills';
import { builtInModel, inputSizes, readModelFolder, sizeFor, trackScores, type Manifest } from './manifest';
import type { InputSize, Sighting } from '../../base/picture';
import { loadModel, type Engine, type EngineChoice, type Model, type Row } from './model';

export { builtInModel, readModelFolder, sizeFor } from './manifest';
export { loadModel, type Engine, type EngineChoice, type Model } from './model';

/** `fine`: at a finer input, which costs more. */
export type Look = { readonly jpeg: Uint8Array; readonly region: Box; readonly brighten: boolean; readonly fine?: boolean };

/** What is known of a detector before it looks: the shapes of its inputs, which scores begin a track and go on with it, and what it runs on. */
export type DetectorNature = {
  readonly usual: readonly InputSize[];
  readonly fine: readonly InputSize[];
  readonly begin: number;
  readonly goOn: number;
  readonly engine: Engine;
};

export type Detector = {
  readonly model: Model;
  readonly nature: DetectorNature;
  detect(look: Look): Promise<Sighting[]>;
  /** The input that a part of a picture is looked at in. */
  inputOf(aspect: number, fine?: boolean): InputSize;
};

const infraredGamma = 1 / 0.65;
const padGrey = 128;
const sameThing = 0.55;

export async function loadDetector(folder: string = builtInModel, choice?: EngineChoice): Promise<Detector> {
  const read = readModelFolder(folder);
  const { model, engine } = await loadModel(read, choice);
  const sizes = inputSizes(read.manifest);
  const scores = trackScores(read.manifest);
  const inputOf = (aspect: number, fine = false) => sizeFor(fine ? sizes.fine : sizes.usual, aspect);
  return {
    model,
    nature: { ...sizes, ...scores, engine },
    inputOf,
    async detect(look) {
      const whole = sharp(look.jpeg);
      const { width, height } = await whole.metadata();
      const cut = inPixels(look.region, width, height);
      const size = inputOf(cut.width / cut.height, look.fine);
      const placed = letterbox(cut, size);
      const rgb = await pixels(look, cut, placed, size);
      const rows = await model.run(rgb, size);
      const found = rows.flatMap((row) => toDetection(row, read.manifest, scores.goOn, cut, placed, size, width, height));
      if (found.length === 0) return [];
      // Judged on the pixels that the model saw, whose scale is that of the part looked at.
      const grey = toGrey(rgb, size.width, size.height);
      const scale = placed.width / cut.width;
      const inInput = ([x, y, w, h]: Box): Box => [
        ((x * width - cut.left) * scale + placed.left) / size.width,
        ((y * height - cut.top) * scale + placed.top) / size.height,
        (w * width * scale) / size.width,
        (h * height * scale) / size.height,
      ];
      // Infrared pictures have no colours.
      const looks = (d: Detection) => (look.brighten ? {} : { looks: looksIn(rgb, size.width, size.height, inInput(d.box), d.class) });
      return best(found).map((d) => ({
        ...d,
        ...looks(d),
        quality: (pictureScore(grey, inInput(d.box), d.score) * area(d.box)) / area(inInput(d.box)),
      }));
    },
  };
}

type Cut = { left: number; top: number; width: number; height: number };

/** Where a cut lies in the model's input, its aspect kept. */
function letterbox(cut: Cut, size: InputSize): Cut {
  const scale = Math.min(size.width / cut.width, size.height / cut.height);
  const [width, height] = [Math.max(1, Math.round(cut.width * scale)), Math.max(1, Math.round(cut.height * scale))];
  return { width, height, left: Math.floor((size.width - width) / 2), top: Math.floor((size.height - height) / 2) };
}

async function pixels(look: Look, cut: Cut, placed: Cut, size: InputSize): Promise<Uint8Array> {
  let image = sharp(look.jpeg).extract(cut).resize(placed.width, placed.height, { fit: 'fill' }).removeAlpha().toColourspace('srgb');
  if (look.brighten) image = image.gamma(1, infraredGamma);
  const { data } = await image.raw().toBuffer({ resolveWithObject: true });
  const out = new Uint8Array(size.width * size.height * 3).fill(padGrey);
  for (let y = 0; y < placed.height; y++) {
    const from = y * placed.width * 3;
    out.set(data.subarray(from, from + placed.width * 3), ((y + placed.top) * size.width + placed.left) * 3);
  }
  return out;
}

function toDetection(
  row: Row,
  manifest: Manifest,
  min: number,
  cut: Cut,
  placed: Cut,
  size: InputSize,
  width: number,
  height: number,
): Detection[] {
  const name = manifest.classes[String(row.classId)] as string | undefined;
  const cls = name === undefined ? undefined : classOf(name);
  if (!cls || row.score < min) return [];
  const x = (share: number) => (((share * size.width - placed.left) / placed.width) * cut.width + cut.left) / width;
  const y = (share: number) => (((share * size.height - placed.top) / placed.height) * cut.height + cut.top) / height;
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
