// Ids that follow from what a thing is made of, so that what is fed twice, as after a kill, is kept once.

import { createHash } from 'node:crypto';

/** An id that the same thing is given again, so that what is fed twice is kept once. */
export function sameId(...of: readonly (string | number)[]): string {
  const hex = createHash('sha256').update(JSON.stringify(of)).digest('hex');
  return [hex.slice(0, 8), hex.slice(8, 12), `8${hex.slice(13, 16)}`, `a${hex.slice(17, 20)}`, hex.slice(20, 32)].join('-');
}
