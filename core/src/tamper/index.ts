// Whether someone has been at a camera: moved, covered, blinded, out of focus. Compare ONVIF tns1:VideoSource/GlobalSceneChange,
// ImageTooDark, ImageTooBright, ImageTooBlurry. A reducer over small grey pictures; each finding has the figures behind it.

import { numberText } from '../words';
import { sharpness, type Grey } from '../stills';
import type { Instant } from '../time';

export type TamperKind = 'moved' | 'covered' | 'blinded' | 'out-of-focus';

/** What was measured in one picture. Greys 0..255. */
export type Figures = {
  readonly mean: number;
  /** Standard deviation of the greys: how much there is to see. */
  readonly spread: number;
  readonly darkShare: number;
  readonly burntShare: number;
  /** Sharpness against the contrast of the picture, so that dusk is no blur. */
  readonly sharpness: number;
  /** What is usual for this camera; 0 while nothing is known. */
  readonly defaultSharpness: number;
  /** How like the usual edges its edges are where they fit best, -1..1, and how far that is from where they were, cells. */
  readonly likeness: number;
  readonly shift: readonly [x: number, y: number];
};

export type TamperSettings = {
  /** How long a thing must be so before it is said, ms. Common practice: some seconds, so that a moth is no cover. */
  readonly holdMs: number;
  readonly darkShare: number;
  readonly burntShare: number;
  /** Spread below which nothing can be seen. */
  readonly minSpread: number;
  /** Sharpness below this share of the usual is out of focus. */
  readonly focusShare: number;
  /** Edges less alike than this, wherever they are laid, are another place. */
  readonly minLikeness: number;
  /** A shift of more cells than this is a turned camera. */
  readonly maxShift: number;
};

export const defaultTamper: TamperSettings = {
  holdMs: 5000,
  darkShare: 0.95,
  burntShare: 0.7,
  minSpread: 6,
  focusShare: 0.3,
  minLikeness: 0.35,
  maxShift: 1.5,
};

/** Edges of the usual picture, by day and by infrared, which look unlike one another. */
type Usual = { edges: Float32Array; sharpness: number; seen: number };

/** Belongs to the caller; changed in place. */
export type TamperState = {
  readonly usual: { day: Usual | undefined; infrared: Usual | undefined };
  /** Since when each has been so, and whether it has been said. */
  readonly since: Map<TamperKind, { at: Instant; isSaid: boolean }>;
};

export const startTamper = (): TamperState => ({ usual: { day: undefined, infrared: undefined }, since: new Map() });

export type TamperOutcome = {
  readonly kind: TamperKind;
  readonly state: 'begins' | 'ends';
  readonly at: Instant;
  readonly figures: Figures;
};

const whole = [0, 0, 1, 1] as const;
const [columns, rows] = [48, 27];
const reach = 6;
/** Edges as alike as this are where they were; they are laid nowhere else. */
const plainlyAlike = 0.75;
/** Pictures after which what is usual is known. */
const enough = 5;
const learning = 0.05;

/**
 * Takes a picture in.
 * @param grey of any size, the same each time; 160×90 is plenty
 * @returns what begins and what ends with it
 */
export function watchTamper(
  state: TamperState,
  grey: Grey,
  isInfrared: boolean,
  at: Instant,
  settings: TamperSettings = defaultTamper,
): TamperOutcome[] {
  const edges = edgesOf(grey);
  const usual = state.usual[isInfrared ? 'infrared' : 'day'];
  const figures = measure(grey, edges, usual);
  const now = judge(figures, usual, settings);
  if (now === undefined) learn(state, isInfrared, edges, figures.sharpness);
  const outcomes: TamperOutcome[] = [];
  for (const [kind, known] of state.since)
    if (kind !== now) {
      state.since.delete(kind);
      if (known.isSaid) outcomes.push({ kind, state: 'ends', at, figures });
    }
  if (now !== undefined) {
    const known = state.since.get(now) ?? { at, isSaid: false };
    state.since.set(now, known);
    if (!known.isSaid && at - known.at >= settings.holdMs) {
      known.isSaid = true;
      outcomes.push({ kind: now, state: 'begins', at, figures });
    }
  }
  return outcomes;
}

/** The camera was moved on purpose: what it sees now is usual from now on. */
export function relearn(state: TamperState): void {
  state.usual.day = undefined;
  state.usual.infrared = undefined;
}

function judge(f: Figures, usual: Usual | undefined, s: TamperSettings): TamperKind | undefined {
  if (f.burntShare >= s.burntShare) return 'blinded';
  if (f.darkShare >= s.darkShare || f.spread < s.minSpread) return 'covered';
  if (!usual || usual.seen < enough) return undefined;
  const isElsewhere = Math.hypot(...f.shift) > s.maxShift && f.likeness >= s.minLikeness;
  // A blurred picture has no edges to compare; it is judged by its sharpness first.
  if (f.sharpness < s.focusShare * usual.sharpness && !isElsewhere) return 'out-of-focus';
  return isElsewhere || f.likeness < s.minLikeness ? 'moved' : undefined;
}

function learn(state: TamperState, isInfrared: boolean, edges: Float32Array, sharp: number): void {
  const key = isInfrared ? 'infrared' : 'day';
  const usual = state.usual[key];
  if (!usual) {
    state.usual[key] = { edges, sharpness: sharp, seen: 1 };
    return;
  }
  for (let i = 0; i < edges.length; i++) usual.edges[i]! += (edges[i]! - usual.edges[i]!) * learning;
  usual.sharpness += (sharp - usual.sharpness) * learning;
  usual.seen++;
}

const black = 12;
const burnt = 243;

function measure(grey: Grey, edges: Float32Array, usual: Usual | undefined): Figures {
  const { data } = grey;
  let [sum, squares, dark, bright] = [0, 0, 0, 0];
  for (let i = 0; i < data.length; i++) {
    const v = data[i]!;
    sum += v;
    squares += v * v;
    if (v <= black) dark++;
    else if (v >= burnt) bright++;
  }
  const mean = sum / data.length;
  const fit = usual && usual.seen >= enough ? bestFit(edges, usual.edges) : { likeness: 1, shift: [0, 0] as const };
  const variance = Math.max(0, squares / data.length - mean * mean);
  return {
    mean,
    spread: Math.sqrt(variance),
    darkShare: dark / data.length,
    burntShare: bright / data.length,
    sharpness: sharpness(grey, whole) / (variance + 1),
    defaultSharpness: usual?.sharpness ?? 0,
    ...fit,
  };
}

/** Strength of the edges on a coarse grid: what stays when the light changes. */
function edgesOf({ width, height, data }: Grey): Float32Array {
  const coarse = new Float32Array(columns * rows);
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      const [x0, x1] = [
        Math.floor((c * width) / columns),
        Math.max(Math.floor((c * width) / columns) + 1, Math.floor(((c + 1) * width) / columns)),
      ];
      const [y0, y1] = [
        Math.floor((r * height) / rows),
        Math.max(Math.floor((r * height) / rows) + 1, Math.floor(((r + 1) * height) / rows)),
      ];
      let sum = 0;
      for (let y = y0; y < y1; y++) for (let x = x0; x < x1; x++) sum += data[y * width + x]!;
      coarse[r * columns + c] = sum / ((x1 - x0) * (y1 - y0));
    }
  const edges = new Float32Array(columns * rows);
  for (let r = 1; r < rows - 1; r++)
    for (let c = 1; c < columns - 1; c++) {
      const i = r * columns + c;
      const strength = Math.hypot(coarse[i + 1]! - coarse[i - 1]!, coarse[i + columns]! - coarse[i - columns]!);
      // The square root keeps one lamp from outweighing everything else.
      edges[i] = Math.sqrt(strength);
    }
  return edges;
}

/** Where edges lie best upon the usual ones: normalised correlation over shifts of up to `reach` cells. Ties go to the smaller shift. */
function bestFit(edges: Float32Array, usual: Float32Array): { readonly likeness: number; readonly shift: readonly [number, number] } {
  let best: { likeness: number; shift: readonly [number, number] } = { likeness: correlation(edges, usual, 0, 0), shift: [0, 0] };
  if (best.likeness >= plainlyAlike) return best;
  for (let dy = -reach; dy <= reach; dy++)
    for (let dx = -reach; dx <= reach; dx++) {
      const likeness = correlation(edges, usual, dx, dy);
      if (likeness > best.likeness + 0.05) best = { likeness, shift: [dx, dy] };
    }
  return best;
}

function correlation(a: Float32Array, b: Float32Array, dx: number, dy: number): number {
  let [n, sa, sb, saa, sbb, sab] = [0, 0, 0, 0, 0, 0];
  for (let y = Math.max(0, -dy); y < Math.min(rows, rows - dy); y++)
    for (let x = Math.max(0, -dx); x < Math.min(columns, columns - dx); x++) {
      const va = a[(y + dy) * columns + x + dx]!;
      const vb = b[y * columns + x]!;
      n++;
      sa += va;
      sb += vb;
      saa += va * va;
      sbb += vb * vb;
      sab += va * vb;
    }
  const spread = Math.sqrt((saa - (sa * sa) / n) * (sbb - (sb * sb) / n));
  return spread > 0 ? (sab - (sa * sb) / n) / spread : 0;
}

/** A finding as a sentence, with the figures that it rests on. */
export function tamperWords({ kind, state, figures: f }: TamperOutcome): string {
  const per = (v: number) => `${Math.round(v * 100)} %`;
  if (state === 'ends') return `No longer ${kind.replaceAll('-', ' ')}`;
  switch (kind) {
    case 'moved':
      return `Moved: the view is ${Math.round(Math.hypot(...f.shift))} cells away from before, ${per(Math.max(0, f.likeness))} alike`;
    case 'covered':
      return `Covered: ${per(f.darkShare)} of the picture is black, the rest differs by ${Math.round(f.spread)} of 255`;
    case 'blinded':
      return `Blinded: ${per(f.burntShare)} of the picture is overexposed`;
    case 'out-of-focus':
      return `Out of focus: its sharpness is ${numberText(f.sharpness, 2)}, normally ${numberText(f.defaultSharpness, 2)}`;
  }
}
