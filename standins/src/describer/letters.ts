// Words in a picture: what is written on a thing, and its number plate, read by a general reader of print.

import sharp from 'sharp';
import { createWorker, OEM, PSM, type Page, type Worker } from 'tesseract.js';
import { code, gzip, langPath } from '@tesseract.js-data/eng';
import { onPicture, type Box } from '@nibber/core/boxes';
import { platesTogether } from '@nibber/core/describing';

/** A sign that it is less sure of than this, 0..100, is written as `?`. */
const sureOfSign = 96;
/** Whole things are read at these heights, pixels, and so many times as wide: print that is seen at an angle stands closer. */
const pictureForms = [
  { high: 400, wider: 1.3 },
  { high: 560, wider: 1 },
  { high: 560, wider: 1.5 },
] as const;
/** A word that it is less sure of than this is none. */
const sureOfWord = 65;
const sureOfShort = 92;
const plateLengths = [5, 8] as const;
/** Print is read best at about these heights of its line, pixels. */
const linesHigh = [64, 54];
/** With fewer signs made out it may be anything. */
const minSure = 2;
/** A row of signs as it is read best: so many times as long as they are high. */
const defaultLong = 6.6;
/** How high the signs of a plate are, shares of a vehicle's height. */
const strokesHigh = [0.045, 0.055, 0.068];
/** Of the places that look like a plate so many are read. */
const maxTried = 3;

type Grey = { readonly width: number; readonly height: number; readonly data: Uint8Array };

let reading: Promise<Worker> | undefined;
const reader = () =>
  (reading ??= createWorker(code, OEM.LSTM_ONLY, { langPath, gzip, cacheMethod: 'none' }, {
    debug_file: '/dev/null',
    user_defined_dpi: '300',
  } as object));
export const closeReader = async (): Promise<void> => {
  await (await reading)?.terminate();
  reading = undefined;
};

const linesOf = ({ blocks }: Page) => (blocks ?? []).flatMap((b) => b.paragraphs.flatMap((p) => p.lines.map((l) => l.words)));

/** What is written on a thing, left to right and line by line; undefined where nothing is. */
export async function lettersIn(jpeg: Uint8Array, box: Box): Promise<string | undefined> {
  let longest: string | undefined;
  // In another form another word may be read.
  for (const { high, wider } of pictureForms) {
    const words = await wordsAt(jpeg, box, high, wider);
    if ((words?.length ?? 0) > (longest?.length ?? 0)) longest = words;
    if (longest && / /.test(longest) && !/^&|&$/.test(longest)) break;
  }
  return longest?.replace(/^& | &$/g, '');
}

/** All that can be read in a picture at one size of it, `high` pixels. */
export async function wordsAt(jpeg: Uint8Array, box: Box, high: number, wider = 1): Promise<string | undefined> {
  const { png } = await cut(jpeg, box, high, wider);
  const worker = await reader();
  await worker.setParameters({ tessedit_pageseg_mode: PSM.SPARSE_TEXT });
  const { data } = await worker.recognize(png, {}, { blocks: true });
  const words = linesOf(data)
    // What has figures in it is a plate.
    .filter((line) => !line.some((w) => /\d/.test(w.text)))
    .flat()
    .filter(
      (w) => w.confidence >= (w.text.length === 2 ? sureOfShort : sureOfWord) && (/^[\p{L}\p{N}'’-]{2,}$/u.test(w.text) || w.text === '&'),
    )
    .map((w) => w.text);
  return words.some((w) => /\p{L}{3}/u.test(w)) ? words.join(' ') : undefined;
}

/** A number plate, in capitals without spaces, `?` for each sign that is not sure; undefined where none can be made out. */
export async function plateIn(jpeg: Uint8Array, box: Box): Promise<string | undefined> {
  const { grey } = await cut(jpeg, box, 640);
  const worker = await reader();
  await worker.setParameters({ tessedit_pageseg_mode: PSM.SINGLE_LINE });
  for (const row of rowsOfStrokes(grey)) {
    // Read twice, larger and smaller: what both do not agree on no one knows.
    const readings = [];
    for (const high of linesHigh)
      readings.push(signsOf((await worker.recognize(await straightened(grey, row, high), {}, { blocks: true })).data));
    const [first, second] = readings;
    if (first === undefined || second === undefined || first.length !== second.length) continue;
    const plate = platesTogether(first, second);
    if ([...plate].filter((c) => c !== '?').length >= minSure) return plate;
  }
  return undefined;
}

/** The signs of a line where there are as many as on a plate. */
function signsOf(data: Page): string | undefined {
  const signs = linesOf(data)
    .flat()
    .flatMap((w) => w.symbols.filter((s) => /[\p{L}\p{N}]/u.test(s.text)));
  if (signs.length < plateLengths[0] || signs.length > plateLengths[1]) return undefined;
  const read = signs.map((s) => (s.confidence >= sureOfSign && /[A-Z0-9]/.test(s.text) ? s.text : '?'));
  return read.map((sign, i) => (isTold(sign, [read[i - 1], read[i + 1]]) ? sign : '?')).join('');
}

/** A character that may be a letter or a digit is decided by its neighbours, where both are one or the other. */
function isTold(sign: string, beside: readonly (string | undefined)[]): boolean {
  if (!/[01568OISGB]/.test(sign)) return true;
  const kind = /\d/.test(sign) ? /\d/ : /[A-Z]/;
  return beside.every((s) => s === undefined || kind.test(s));
}

/** A row of strokes: its middle line rises by `slope`; pixels. */
type Row = { readonly left: number; readonly right: number; readonly y: number; readonly slope: number; readonly high: number };

/** Where strokes stand side by side in a row as long as a plate, the closest first. */
function rowsOfStrokes({ width, height, data }: Grey): Row[] {
  // Sums of upright strokes over every corner, so that a window costs four reads.
  const across = width + 1;
  const sums = new Float64Array(across * (height + 1));
  for (let y = 0; y < height; y++) {
    let row = 0;
    for (let x = 0; x < width; x++) {
      if (x > 0) row += Math.min(80, Math.abs(data[y * width + x]! - data[y * width + x - 1]!));
      sums[(y + 1) * across + x + 1] = sums[y * across + x + 1]! + row;
    }
  }
  const within = (x: number, y: number, w: number, h: number) =>
    sums[(y + h) * across + x + w]! - sums[y * across + x + w]! - sums[(y + h) * across + x]! + sums[y * across + x]!;
  type Place = { readonly x: number; readonly y: number; readonly weight: number };
  const rows: { row: Row; weight: number }[] = [];
  for (const share of strokesHigh) {
    const h = Math.max(8, Math.round(height * share));
    const w = Math.round(h * 1.3);
    const rim = Math.max(2, Math.round(h * 0.35));
    const places: Place[] = [];
    for (let y = Math.round(height * 0.4) + rim; y + h + rim < height; y += Math.max(1, h >> 3))
      for (let x = 0; x + w < width; x += Math.max(1, w >> 3)) {
        // Above and below a row of signs there are none.
        const beside = Math.max(within(x, y - rim, w, rim), within(x, y + h, w, rim)) / (w * rim);
        places.push({ x: x + w / 2, y: y + h / 2, weight: within(x, y, w, h) / (w * h) - beside });
      }
    places.sort((a, b) => b.weight - a.weight);
    const free = new Set(places.slice(0, 4000));
    for (let n = 0; n < 2; n++) {
      const seed = [...free][0];
      if (!seed || seed.weight <= 4) break;
      const good = [...free].filter((p) => p.weight >= seed.weight * 0.55);
      const row = [seed];
      for (let grows = true; grows;) {
        const [leftmost, rightmost] = [row.reduce((a, b) => (b.x < a.x ? b : a)), row.reduce((a, b) => (b.x > a.x ? b : a))];
        const next = good.find((p) => {
          const end = p.x < leftmost.x ? leftmost : p.x > rightmost.x ? rightmost : undefined;
          return end !== undefined && Math.abs(p.x - end.x) <= w * 0.9 && Math.abs(p.y - end.y) <= Math.abs(p.x - end.x) * 0.4 + 2;
        });
        grows = next !== undefined;
        if (next) row.push(next);
      }
      const near = good.filter((p) => row.some((r) => Math.abs(r.x - p.x) <= w / 2 && Math.abs(r.y - p.y) <= h));
      near.forEach((p) => free.delete(p));
      const [mx, my] = [mean(row.map((p) => p.x)), mean(row.map((p) => p.y))];
      const spread = row.reduce((sum, p) => sum + (p.x - mx) ** 2, 0);
      const slope = spread ? row.reduce((sum, p) => sum + (p.x - mx) * (p.y - my), 0) / spread : 0;
      const [left, right] = [Math.min(...row.map((p) => p.x)) - w / 2, Math.max(...row.map((p) => p.x)) + w / 2];
      const long = (right - left) / h;
      if (long < 2.2 || long > 9) continue;
      rows.push({
        row: { left, right, y: my + slope * ((left + right) / 2 - mx), slope, high: h },
        weight: mean(row.map((p) => p.weight)),
      });
    }
  }
  const apart: typeof rows = [];
  for (const one of rows.sort((a, b) => b.weight - a.weight))
    if (
      apart.length < maxTried &&
      apart.every(({ row }) => Math.abs(row.y - one.row.y) > row.high || row.right < one.row.left || row.left > one.row.right)
    )
      apart.push(one);
  return apart.map(({ row }) => row);
}

const mean = (all: readonly number[]) => all.reduce((sum, v) => sum + v, 0) / all.length;

/** A row laid level, as high as print is read best, with a white rim. */
async function straightened({ width, height, data }: Grey, { left, right, y, slope, high }: Row, lineHigh: number): Promise<Buffer> {
  const scale = lineHigh / (high * 1.5);
  const [from, to] = [left - high * 0.7, right + high * 0.7];
  // Seen at an angle a plate is as high as ever, but shorter.
  const wider = Math.max(1, defaultLong / ((right - left) / high));
  const [w, h] = [Math.round((to - from) * scale * wider), lineHigh];
  const out = new Uint8Array(w * h);
  for (let v = 0; v < h; v++)
    for (let u = 0; u < w; u++) {
      const x = from + u / scale / wider;
      const sy = y + (v - h / 2) / scale + slope * (x - (left + right) / 2);
      const [ix, iy] = [Math.max(0, Math.min(width - 2, Math.floor(x))), Math.max(0, Math.min(height - 2, Math.floor(sy)))];
      const [fx, fy] = [Math.max(0, Math.min(1, x - ix)), Math.max(0, Math.min(1, sy - iy))];
      const at = (i: number, j: number) => data[(iy + j) * width + ix + i]!;
      out[v * w + u] = (at(0, 0) * (1 - fx) + at(1, 0) * fx) * (1 - fy) + (at(0, 1) * (1 - fx) + at(1, 1) * fx) * fy;
    }
  withoutSurroundings(out, w, h);
  flatten(out, w, h);
  return sharp(out, { raw: { width: w, height: h, channels: 1 } })
    .normalise()
    .extend({ top: 10, bottom: 10, left: 10, right: 10, background: '#fff' })
    .png()
    .toBuffer();
}

/** What is dark and reaches the rim is beside the plate, not on it: it is made as bright as the plate. */
function withoutSurroundings(grey: Uint8Array, w: number, h: number): void {
  const sorted = Uint8Array.from(grey).sort();
  const [dark, bright] = [sorted[Math.floor(grey.length * 0.03)]!, sorted[Math.floor(grey.length * 0.9)]!];
  const limit = dark + (bright - dark) * 0.5;
  const stack: number[] = [];
  const outside = new Uint8Array(grey.length);
  const meet = (at: number) => {
    if (outside[at] || grey[at]! >= limit) return;
    outside[at] = 1;
    stack.push(at);
  };
  for (let x = 0; x < w; x++) [x, (h - 1) * w + x].forEach(meet);
  for (let y = 0; y < h; y++) [y * w, y * w + w - 1].forEach(meet);
  while (stack.length) {
    const at = stack.pop()!;
    const x = at % w;
    for (const next of [x > 0 ? at - 1 : -1, x < w - 1 ? at + 1 : -1, at - w, at + w]) if (next >= 0 && next < grey.length) meet(next);
  }
  // Its edge is neither dark nor bright.
  for (let at = 0; at < grey.length; at++)
    if (outside[at]) for (const dy of [-2, -1, 0, 1, 2]) grey.fill(bright, Math.max(0, at + dy * w - 2), Math.max(0, at + dy * w + 3));
}

/** Whatever is under the strokes is made white: each point is held against the brightest near it. */
function flatten(grey: Uint8Array, w: number, h: number): void {
  const reach = Math.round(h / 6);
  const brightest = (from: Uint8Array, across: boolean) => {
    const to = new Uint8Array(from.length);
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++) {
        let max = 0;
        for (let d = -reach; d <= reach; d++) {
          const [u, v] = across ? [x + d, y] : [x, y + d];
          if (u >= 0 && u < w && v >= 0 && v < h) max = Math.max(max, from[v * w + u]!);
        }
        to[y * w + x] = max;
      }
    return to;
  };
  const ground = brightest(brightest(grey, true), false);
  for (let i = 0; i < grey.length; i++) grey[i] = Math.min(255, (grey[i]! * 275) / Math.max(1, ground[i]!));
}

async function cut(jpeg: Uint8Array, box: Box, high: number, wider = 1): Promise<{ readonly png: Buffer; readonly grey: Grey }> {
  const { width, height } = await sharp(jpeg).metadata();
  const [x, y, w, h] = onPicture(box);
  const [left, top] = [Math.floor(x * width), Math.floor(y * height)];
  const part = {
    left,
    top,
    width: Math.max(8, Math.min(width - left, Math.round(w * width))),
    height: Math.max(8, Math.min(height - top, Math.round(h * height))),
  };
  const { data, info } = await sharp(jpeg)
    .extract(part)
    .greyscale()
    .resize({ height: high, width: Math.round((high * part.width * wider) / part.height), fit: 'fill', kernel: 'cubic' })
    .raw()
    .toBuffer({ resolveWithObject: true });
  const grey = { width: info.width, height: info.height, data };
  const png = await sharp(data, { raw: { width: info.width, height: info.height, channels: 1 } })
    .png()
    .toBuffer();
  return { png, grey };
}
