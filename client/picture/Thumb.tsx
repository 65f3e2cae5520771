// A small picture of a thing, in rows of many.

import { createElement } from 'react';
import { View } from 'react-native';
import type { Box } from '@nibber/core/boxes';
import { usePalette } from '../ui/theme';

const aspect = 16 / 9;
type Size = { readonly width: number; readonly height: number };

/** The part of the picture around the thing, at one size whatever its own. */
export function Thumb({ source, box, size: { width, height } }: { source: string; box: Box | null; size: Size }) {
  const { rule } = usePalette();
  // The whole picture is drawn so large that the thing fills most of the frame, then moved to it.
  const [x, y, w, h] = box ?? [0, 0, 1, 1];
  const pictureHeight = Math.min((height * 0.7) / h, (width * 0.7) / (w * aspect), height * 5);
  const drawn = Math.max(height, pictureHeight);
  const place = (middle: number, all: number, frame: number) => Math.min(0, Math.max(frame - all, frame / 2 - middle * all));
  return (
    <View style={{ width, height, borderRadius: 4, overflow: 'hidden', backgroundColor: rule }}>
      {createElement('img', {
        src: source,
        alt: '',
        loading: 'lazy',
        style: {
          position: 'absolute',
          height: drawn,
          width: drawn * aspect,
          maxWidth: 'none',
          // A part of a picture may have another shape.
          objectFit: 'cover',
          left: place(x + w / 2, drawn * aspect, width),
          top: place(y + h / 2, drawn, height),
        },
      })}
    </View>
  );
}
