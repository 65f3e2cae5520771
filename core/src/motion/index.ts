// What moves: a grey picture against a running average of the pictures before it.

import type { Box } from '../boxes';

export type MotionSettings = {
  /** What a difference of grey must be above to count, 1..255. Common practice: 30. */
  readonly threshold: number;
  /** Smallest connected part that counts, cells. Common practice: 10. */
  readonly smallestPart: number;
  /** Share of the new picture that goes into the background each time. */
  readonly learning: number;
  /** Change of more than this share of the picture at once is light, not motion. */
  readonly lightShare: number;
  /** How far the greys of dark pictures are drawn out first, 0..1. */
  readonly contrast: number;
};

export const defaultMotion: MotionSettings = { threshold: 30, smallestPart: 10, learning: 0.05, lightShare: 0.5, contrast: 0 };

/** Owned by the caller; `look` changes it in place. `drawn` is of the pictures with their greys drawn out, where those are asked for. */
export type Background = {
  readonly width: number;
  readonly height: number;
  readonly average: Float32Array;
  readonly drawn: Float32Array | undefined;
  ready: boolean;
};

export type Motion = {
  /** Boxes of the parts that count, 0..1 of the picture, largest first. */
  readonly parts: readonly Box[];
  /** Share of the picture that changed. */
  readonly share: number;
  readonly isLightChange: boolean;
};

/** Of a picture that is not compared with any before it. */
export const nothingMoves: Motion = { parts: [], share: 0, isLightChange: false };

/** @param drawsOut whether any contrast will be asked for */
export const newBackground = (width: number, height: number, drawsOut = false): Background => ({
  width,
  height,
  average: new Float32Array(width * height),
  drawn: drawsOut ? new Float32Array(width * height) : undefined,
  ready: false,
});

/** How far each cell lies from the background, in whole steps of grey, rounded up: as the picture is, and with its greys drawn out. */
export type Differences = { readonly plain: Uint8Array; readonly drawn: Uint8Array | undefined };

/**
 * Compares a picture with the background, then lets the background learn from it.
 * @param grey width × height cells, 0..255
 * @param counts 1 where a cell counts, 0 where it is masked
 */
export const look = (
  background: Background,
  grey: Uint8Array,
  counts: Uint8Array | undefined,
  settings: MotionSettings = defaultMotion,
): Motion => lookClosely(background, grey, counts, settings).motion;

/** As `look`, with how far each cell lies from the background, and how many cells count; `differences` is undefined for the first picture. */
export function lookClosely(
  background: Background,
  grey: Uint8Array,
  counts: Uint8Array | undefined,
  settings: MotionSettings = defaultMotion,
): { motion: Motion; differences: Differences | undefined; counted: number } {
  const drawn = background.drawn && stretched(grey);
  if (!background.ready) {
    learnAnew(background, grey, drawn);
    background.ready = true;
    return { motion: nothingMoves, differences: undefined, counted: 0 };
  }
  const differences: Differences = {
    plain: differ(background.average, grey, settings.learning),
    drawn: drawn && differ(background.drawn!, drawn, settings.learning),
  };
  const counted = counts ? leaveOut(differences.plain, counts) : grey.length;
  if (counts && differences.drawn) leaveOut(differences.drawn, counts);
  const { parts, share, isLightChange } = judge(differences, background.width, background.height, counted, settings);
  if (isLightChange) learnAnew(background, grey, drawn);
  const motion = { parts: parts.filter((p) => p.counts).map((p) => p.box), share, isLightChange };
  return { motion, differences, counted };
}

function learnAnew(background: Background, grey: Uint8Array, drawn: Uint8Array | undefined): void {
  background.average.set(grey);
  if (drawn) background.drawn!.set(drawn);
}

/** Rounding up keeps the question whether a whole threshold is passed as it was. */
function differ(average: Float32Array, cells: Uint8Array, learning: number): Uint8Array {
  const out = new Uint8Array(cells.length);
  for (let i = 0; i < out.length; i++) {
    const before = average[i]!;
    const difference = cells[i]! - before;
    average[i] = before + difference * learning;
    const far = difference < 0 ? -difference : difference;
    const whole = far | 0;
    out[i] = whole < far ? whole + 1 : whole;
  }
  return out;
}

/** Masked cells never count. @returns how many of the others there are */
function leaveOut(cells: Uint8Array, counts: Uint8Array): number {
  let counted = 0;
  for (let i = 0; i < cells.length; i++)
    if (counts[i] === 0) cells[i] = 0;
    else counted++;
  return counted;
}

export type Part = { readonly box: Box; readonly cells: number; readonly counts: boolean };
export type Judged = {
  /** Every part that moved, largest first, and whether it is large enough to count. */
  readonly parts: readonly Part[];
  readonly share: number;
  readonly isLightChange: boolean;
};

/**
 * What differences mean under settings: the part of motion detection that has no memory.
 * @param counted how many cells there are that are not masked; all, if absent
 */
export function judge(
  { plain, drawn }: Differences,
  width: number,
  height: number,
  counted: number = width * height,
  { threshold, contrast, lightShare, smallestPart }: MotionSettings = defaultMotion,
): Judged {
  const changed = new Uint8Array(width * height);
  let total = 0;
  if (drawn && contrast > 0) {
    for (let i = 0; i < changed.length; i++)
      if (plain[i]! + (drawn[i]! - plain[i]!) * contrast > threshold) {
        changed[i] = 1;
        total++;
      }
  } else {
    for (let i = 0; i < changed.length; i++)
      if (plain[i]! > threshold) {
        changed[i] = 1;
        total++;
      }
  }
  const share = counted ? total / counted : 0;
  if (share > lightShare) return { parts: [], share, isLightChange: true };
  if (total === 0) return { parts: [], share: 0, isLightChange: false };
  const parts = connectedParts(dilate(changed, width, height), width, height);
  return { parts: parts.map((p) => ({ ...p, counts: p.cells >= smallestPart })), share, isLightChange: false };
}

/** The middle 96 % of a picture's greys drawn out over 0..255, for dark pictures. A picture of one grey stays as it is. */
export function stretched(grey: Uint8Array): Uint8Array {
  const histogram = new Uint32Array(256);
  for (let i = 0; i < grey.length; i++) histogram[grey[i]!]!++;
  const at = (share: number) => {
    let sum = 0;
    for (let v = 0; v < 256; v++) if ((sum += histogram[v]!) > share * grey.length) return v;
    return 255;
  };
  const [low, high] = [at(0.02), at(0.98)];
  if (high <= low) return grey;
  const table = Uint8Array.from({ length: 256 }, (_, v) => Math.min(255, Math.max(0, Math.round(((v - low) * 255) / (high - low)))));
  const out = new Uint8Array(grey.length);
  for (let i = 0; i < grey.length; i++) out[i] = table[grey[i]!]!;
  return out;
}

/** Every cell next to a set one, corners included, is set too (3×3). Cells are 0 or 1. */
export function dilate(cells: Uint8Array, width: number, height: number): Uint8Array {
  const out = new Uint8Array(cells.length);
  // Most cells are still: from each that moves its neighbours are set.
  for (let i = cells.indexOf(1); i >= 0; i = cells.indexOf(1, i + 1)) {
    const x = i % width;
    const from = x > 0 ? i - 1 : i;
    const to = x < width - 1 ? i + 2 : i + 1;
    for (let j = from; j < to; j++) {
      out[j] = 1;
      if (i >= width) out[j - width] = 1;
      if (i < width * (height - 1)) out[j + width] = 1;
    }
  }
  return out;
}

type Growing = { cells: number; x0: number; y0: number; x1: number; y1: number; within: Growing | undefined };

/** The part that a part was joined to, the way to it shortened. */
function root(part: Growing): Growing {
  let top = part;
  while (top.within) top = top.within;
  for (let p: Growing = part; p.within;) {
    const next: Growing = p.within;
    p.within = top;
    p = next;
  }
  return top;
}

/** The parts that hang together (also by corners) with their boxes, largest part first. Cells are 0 or 1. */
export function connectedParts(cells: Uint8Array, width: number, height: number): { box: Box; cells: number }[] {
  const parts: Growing[] = [];
  let above: { from: number; to: number; part: Growing }[] = [];
  let aboveRow = -2;
  // Row by row in runs of set cells; a run belongs to every part that a run above it touches.
  for (let i = cells.indexOf(1); i >= 0;) {
    const y = Math.floor(i / width);
    if (y !== aboveRow + 1) above = [];
    const runs: typeof above = [];
    let next = 0;
    const end = (y + 1) * width;
    while (i >= 0 && i < end) {
      let stop = cells.indexOf(0, i);
      if (stop < 0 || stop > end) stop = end;
      const [from, to] = [i - y * width, stop - y * width];
      let part: Growing | undefined;
      while (next < above.length && above[next]!.to < from) next++;
      for (let k = next; k < above.length && above[k]!.from <= to; k++) part = join(part, root(above[k]!.part));
      if (!part) parts.push((part = { cells: 0, x0: from, y0: y, x1: to, y1: y + 1, within: undefined }));
      part.cells += to - from;
      part.x0 = Math.min(part.x0, from);
      part.x1 = Math.max(part.x1, to);
      part.y1 = y + 1;
      runs.push({ from, to, part });
      i = cells.indexOf(1, stop);
    }
    above = runs;
    aboveRow = y;
  }
  return parts
    .filter((p) => !p.within)
    .sort((a, b) => b.cells - a.cells)
    .map((p) => ({ box: [p.x0 / width, p.y0 / height, (p.x1 - p.x0) / width, (p.y1 - p.y0) / height], cells: p.cells }));
}

function join(a: Growing | undefined, b: Growing): Growing {
  if (!a || a === b) return b;
  a.cells += b.cells;
  a.x0 = Math.min(a.x0, b.x0);
  a.y0 = Math.min(a.y0, b.y0);
  a.x1 = Math.max(a.x1, b.x1);
  a.y1 = Math.max(a.y1, b.y1);
  b.within = a;
  return a;
}
