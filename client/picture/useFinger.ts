// A finger that is put on something and moves over it. The gesture stays the same while what it does changes under it.

import { useMemo, useRef } from 'react';
import { Gesture, PointerType, type PanGesture } from 'react-native-gesture-handler';

/** @param touch where the finger is, pixels from the upper left corner; whether it was just put there */
export function useFinger(name: string, touch: (at: { readonly x: number; readonly y: number }, isFirst: boolean) => void): PanGesture {
  const latest = useRef(touch);
  latest.current = touch;
  return useMemo(
    () =>
      Gesture.Pan()
        .withTestId(name)
        .minDistance(0)
        .maxPointers(1)
        // Space and enter come as a finger in the middle; what is touched has keys of its own.
        .onBegin((at) => at.pointerType !== PointerType.KEY && latest.current(at, true))
        .onUpdate((at) => at.pointerType !== PointerType.KEY && latest.current(at, false))
        .runOnJS(true),
    [name],
  );
}
