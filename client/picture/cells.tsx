// What the machine sees move, over the picture: cells over the threshold, and the parts they make.

import { memo } from 'react';
import { G, Path, Rect } from 'react-native-svg';
import type { Part } from '@nibber/core/motion';
import { useSpace } from './Picture';

const light = '#FFFDF7';
const dark = '#20251F';
const green = '#8CC7AE';

/** Runs of cells as one path, row by row. `isSet` is asked for each of width × height cells. */
export const MovedCells = memo(function MovedCells({ cells, width, height }: { cells: Uint8Array; width: number; height: number }) {
  const space = useSpace();
  const [across, down] = [space.width / width, space.height / height];
  let d = '';
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (!cells[y * width + x]) continue;
      const from = x;
      while (x < width && cells[y * width + x]) x++;
      d += `M${(from * across).toFixed(1)} ${(y * down).toFixed(1)}h${((x - from) * across).toFixed(1)}v${down.toFixed(1)}h${(-(x - from) * across).toFixed(1)}z`;
    }
  return <Path d={d} fill={green} fillOpacity={0.7} />;
});

/** Parts that count have corners drawn strong; those too small a thin broken outline. */
export function MovedParts({ parts }: { parts: readonly Part[] }) {
  const { width, height } = useSpace();
  return (
    <G>
      {parts.map(({ box: [x, y, w, h], counts }, i) => {
        const shape = { x: x * width, y: y * height, width: w * width, height: h * height, fill: 'none' };
        return counts ? (
          <G key={i}>
            <Rect {...shape} stroke={dark} strokeOpacity={0.6} strokeWidth={6} />
            <Rect {...shape} stroke={light} strokeWidth={2.5} />
          </G>
        ) : (
          <Rect key={i} {...shape} stroke={light} strokeWidth={1.5} strokeDasharray="5 7" strokeOpacity={0.8} />
        );
      })}
    </G>
  );
}
