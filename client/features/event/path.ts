// Where a track was at a time between two pictures it was seen in.

import type { Box } from '@nibber/core/boxes';

/** Beyond this before its first and after its last picture nothing is drawn, ms. */
const lingerMs = 400;

export function boxAt(path: readonly (readonly [at: number, box: Box])[], at: number): Box | undefined {
  const after = path.findIndex(([t]) => t >= at);
  if (after === 0) return path[0]![0] - at <= lingerMs ? path[0]![1] : undefined;
  if (after < 0) {
    const last = path.at(-1);
    return last && at - last[0] <= lingerMs ? last[1] : undefined;
  }
  const [t0, a] = path[after - 1]!;
  const [t1, b] = path[after]!;
  const share = t1 === t0 ? 1 : (at - t0) / (t1 - t0);
  return a.map((v, i) => v + (b[i]! - v) * share) as unknown as Box;
}
