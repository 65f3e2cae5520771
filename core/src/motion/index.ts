// What moves: a grey picture against a running average of the pictures before it.

import type { Box } from '../boxes';

export type MotionSettings = {
  /** Least difference of grey, 0..255. Common practice: 30. */
  readonly threshold: number;
  /** Smallest connected part that counts, cells. Common practice: 10. */
  readonly smallestPart: number;
  /** Share of the new picture that goes into the background each time. */
  readonly learning: number;
  /** Change of more than this share of the picture at once is light, not motion. */
  readonly lightShare: number;
};

export const usualMotion: MotionSettings = { threshold: 30, smallestPart: 10, learning: 0.05, lightShare: 0.5 };

/** Owned by the caller; `look` changes it in place. */
export type Background = { readonly width: number; readonly height: number; readonly average: Float32Array; ready: boolean };

export type Motion = {
  /** Boxes of the parts that count, 0..1 of the picture, largest first. */
  readonly parts: readonly Box[];
  /** Share of the picture that changed. */
  readonly share: number;
  readonly isLightChange: boolean;
};

export const newBackground = (width: number, height: number): Background => ({
  width,
  height,
  average: new Float32Array(width * height),
  ready: false,
});

const still: Motion = { parts: [], share: 0, isLightChange: false };

/**
 * Compares a picture with the background, then lets the background learn from it.
 * @param grey width × height cells, 0..255
 * @param counts 1 where a cell counts, 0 where it is masked
 */
export function look(
  background: Background,
  grey: Uint8Array,
  counts: Uint8Array | undefined,
  settings: MotionSettings = usualMotion,
): Motion {
  const { width, height, average } = background;
  if (!background.ready) {
    average.set(grey);
    background.ready = true;
    return still;
  }
  const changed = new Uint8Array(width * height);
  let [total, counted] = [0, 0];
  for (let i = 0; i < changed.length; i++) {
    if (counts && counts[i] === 0) continue;
    counted++;
    if (Math.abs(grey[i]! - average[i]!) >= settings.threshold) {
      changed[i] = 1;
      total++;
    }
  }
  const share = counted ? total / counted : 0;
  if (share > settings.lightShare) {
    average.set(grey);
    return { parts: [], share, isLightChange: true };
  }
  for (let i = 0; i < average.length; i++) average[i]! += (grey[i]! - average[i]!) * settings.learning;
  if (total === 0) return still;
  const parts = connectedParts(dilate(changed, width, height), width, height, settings.smallestPart);
  return { parts, share, isLightChange: false };
}

/** Every cell next to a set one, corners included, is set too (3×3). */
export function dilate(cells: Uint8Array, width: number, height: number): Uint8Array {
  const across = new Uint8Array(cells.length);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) across[i] = cells[i]! | (x > 0 ? cells[i - 1]! : 0) | (x < width - 1 ? cells[i + 1]! : 0);
  const both = new Uint8Array(cells.length);
  for (let i = 0; i < cells.length; i++)
    both[i] = across[i]! | (i >= width ? across[i - width]! : 0) | (i < cells.length - width ? across[i + width]! : 0);
  return both;
}

/** Boxes of the parts that hang together (also by corners) and have at least `least` cells, largest part first. */
export function connectedParts(cells: Uint8Array, width: number, height: number, least: number): Box[] {
  const left = cells.slice();
  const stack: number[] = [];
  const found: { cells: number; box: Box }[] = [];
  for (let start = 0; start < left.length; start++) {
    if (!left[start]) continue;
    let [count, x0, x1, y0, y1] = [0, width, 0, height, 0];
    stack.push(start);
    left[start] = 0;
    while (stack.length) {
      const i = stack.pop()!;
      const [x, y] = [i % width, Math.floor(i / width)];
      count++;
      x0 = Math.min(x0, x);
      x1 = Math.max(x1, x);
      y0 = Math.min(y0, y);
      y1 = Math.max(y1, y);
      for (let dy = y > 0 ? -1 : 0; dy <= (y < height - 1 ? 1 : 0); dy++)
        for (let dx = x > 0 ? -1 : 0; dx <= (x < width - 1 ? 1 : 0); dx++) {
          const j = i + dy * width + dx;
          if (left[j]) {
            left[j] = 0;
            stack.push(j);
          }
        }
    }
    if (count >= least) found.push({ cells: count, box: [x0 / width, y0 / height, (x1 - x0 + 1) / width, (y1 - y0 + 1) / height] });
  }
  return found.sort((a, b) => b.cells - a.cells).map((p) => p.box);
}
