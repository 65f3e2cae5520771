// The tracks of the last days laid over the picture: fine lines where feet went.

import { memo } from 'react';
import { G, Path } from 'react-native-svg';
import type { Path as Trace } from '@nibber/core/tracks-in-shape';
import { classLooks } from '../../ui/theme';
import { useSpace } from '../../picture/Picture';

export const Traces = memo(function Traces({ paths }: { paths: readonly Trace[] }) {
  const { width, height } = useSpace();
  const byClass = new Map<Trace['class'], string>();
  for (const { class: cls, feet } of paths) {
    const line = feet.map(([x, y], i) => `${i ? 'L' : 'M'}${Math.round(x * width)} ${Math.round(y * height)}`).join('');
    byClass.set(cls, (byClass.get(cls) ?? '') + line);
  }
  return (
    <G>
      {[...byClass].map(([cls, d]) => (
        <Path
          key={cls}
          d={d}
          fill="none"
          stroke={classLooks[cls].onDark}
          strokeOpacity={0.55}
          strokeWidth={2.5}
          strokeDasharray={classLooks[cls].dash}
        />
      ))}
    </G>
  );
});
