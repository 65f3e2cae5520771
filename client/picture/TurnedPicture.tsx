// A picture shown turned and mirrored, before the server does so.

import { createElement } from 'react';
import { View } from 'react-native';
import type { Orientation } from '@nibber/core/site';
import { corner, usePalette } from '../ui/theme';

type Props = { source: string; words: string; orientation: Orientation; width: number; height: number };

export function TurnedPicture({ source, words, orientation: { turnDegrees = 0, mirrored = false }, width, height }: Props) {
  const isUpright = turnDegrees % 180 === 0;
  const aspect = (isUpright ? width / height : height / width) || 16 / 9;
  // Before it is turned the picture is as wide as the frame is high.
  const { rule } = usePalette();
  const size = isUpright ? ['100%', '100%'] : [`${100 / aspect}%`, `${100 * aspect}%`];
  return (
    <View
      style={{
        width: '100%',
        aspectRatio: aspect,
        maxHeight: 480,
        backgroundColor: rule,
        borderRadius: corner,
        overflow: 'hidden',
        alignSelf: 'center',
        alignItems: 'center',
        justifyContent: 'center',
      }}
    >
      {createElement('img', {
        src: source,
        alt: words,
        draggable: false,
        style: {
          width: size[0],
          height: size[1],
          flexShrink: 0,
          objectFit: 'contain',
          transform: `${mirrored ? 'scaleX(-1) ' : ''}rotate(${turnDegrees}deg)`,
        },
      })}
    </View>
  );
}
