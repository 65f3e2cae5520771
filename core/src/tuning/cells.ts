// The cells of a picture that differ from its background, packed: most of them are still, and minutes of them are kept.

import type { Differences } from '../motion';

/** No threshold can be set below this: what differs by no more is not kept. */
export const cellFloor = 8;

const farthest = 255;
const entry = 3;

/**
 * For each cell that differs by more than `cellFloor`, in order: how many cells lie before it since the last, how far it differs as the
 * picture is, and how far with its greys drawn out. A gap of 255 stands alone and says that 255 cells are passed over.
 */
export function packCells({ plain, drawn }: Differences): Uint8Array {
  const out: number[] = [];
  let before = 0;
  for (let i = 0; i < plain.length; i++) {
    const [p, d] = [plain[i]!, drawn ? drawn[i]! : plain[i]!];
    if (p <= cellFloor && d <= cellFloor) continue;
    let gap = i - before;
    for (; gap >= farthest; gap -= farthest) out.push(farthest);
    out.push(gap, p, d);
    before = i + 1;
  }
  return Uint8Array.from(out);
}

/** @throws Error where the bytes are not what `packCells` makes of so many cells */
export function unpackCells(packed: Uint8Array, cells: number): Differences & { readonly drawn: Uint8Array } {
  const [plain, drawn] = [new Uint8Array(cells), new Uint8Array(cells)];
  let cell = 0;
  for (let at = 0; at < packed.length;) {
    const gap = packed[at]!;
    cell += gap;
    if (gap === farthest) {
      at++;
      continue;
    }
    if (cell >= cells || at + entry > packed.length) throw new Error('These are not the cells of such a picture.');
    plain[cell] = packed[at + 1]!;
    drawn[cell] = packed[at + 2]!;
    cell++;
    at += entry;
  }
  return { plain, drawn };
}
