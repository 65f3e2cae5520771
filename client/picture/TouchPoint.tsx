// Where a picture is touched, or where the mouse is on it.

import { useState } from 'react';
import { View } from 'react-native';
import { GestureDetector } from 'react-native-gesture-handler';
import type { Point } from '@nibber/core/boxes';
import { useFinger } from './useFinger';
import { texts } from './texts';

/** @param put the point as shares of the picture */
export function TouchPoint({ name, put }: { name: string; put: (point: Point) => void }) {
  const [size, setSize] = useState({ width: 1, height: 1 });
  const finger = useFinger(name, ({ x, y }) => put([Math.min(1, Math.max(0, x / size.width)), Math.min(1, Math.max(0, y / size.height))]));
  return (
    <GestureDetector gesture={finger} touchAction="none">
      <View
        testID={name}
        role="img"
        aria-label={texts.tapToMeasure}
        onLayout={({ nativeEvent: { layout } }) => setSize(layout)}
        style={{ position: 'absolute', inset: 0, cursor: 'crosshair' } as object}
      />
    </GestureDetector>
  );
}
