// A picture that is made larger under the fingers: by pinch, wheel or keys, and pushed about while it is. What stands on it keeps its size.

import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { Gesture, GestureDetector } from 'react-native-gesture-handler';
import { corner } from '../ui/theme';
import { Button, Row } from '../ui/Surface';
import { texts } from './texts';

/** `x` and `y`: the upper left corner of what is seen, as shares of the picture. */
export type Framing = { readonly zoom: number; readonly x: number; readonly y: number };
const whole: Framing = { zoom: 1, x: 0, y: 0 };
const max = 6;

const within = ({ zoom, x, y }: Framing): Framing => {
  const far = 1 - 1 / zoom;
  return { zoom, x: Math.min(far, Math.max(0, x)), y: Math.min(far, Math.max(0, y)) };
};

/**
 * What is framed after zooming, with a place of the picture staying under the fingers.
 * @param from where the fingers were on the frame when what was framed was `before`, shares of the frame; `to` where they are now
 */
export function zoomed(before: Framing, factor: number, from: readonly [number, number], to: readonly [number, number] = from): Framing {
  const zoom = Math.min(max, Math.max(1, before.zoom * factor));
  const at = (i: 0 | 1) => (i === 0 ? before.x : before.y) + from[i] / before.zoom - to[i] / zoom;
  return within({ zoom, x: at(0), y: at(1) });
}

export function Zoomable({ children }: { children: ReactNode }) {
  const frame = useRef<View>(null);
  const [framed, show] = useState(whole);
  const [aspect, setAspect] = useState(16 / 9);
  const latest = useRef(framed);
  latest.current = framed;
  const gesture = useMemo(() => gestures(frame, () => latest.current, show), []);
  useEffect(() => {
    const element = frame.current as unknown as HTMLElement;
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      show((now) => zoomed(now, Math.exp(-event.deltaY / 300), shareOf(element, event.clientX, event.clientY)));
    };
    // With two fingers the browser would scroll the page: that can only be kept from it by listeners that are not passive.
    const onTouch = (event: TouchEvent) => event.touches.length > 1 && event.preventDefault();
    const onKey = (event: KeyboardEvent) => {
      if ((event.target as HTMLElement).closest('input, textarea') || event.ctrlKey || event.metaKey) return;
      if (event.key === '+' || event.key === '=') show((now) => zoomed(now, 1.5, [0.5, 0.5]));
      else if (event.key === '-') show((now) => zoomed(now, 1 / 1.5, [0.5, 0.5]));
      else if (event.key === '0') show(whole);
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    element.addEventListener('touchmove', onTouch, { passive: false });
    document.addEventListener('keydown', onKey);
    return () => {
      element.removeEventListener('wheel', onWheel);
      element.removeEventListener('touchmove', onTouch);
      document.removeEventListener('keydown', onKey);
    };
  }, []);
  const { zoom, x, y } = framed;
  return (
    <View>
      <GestureDetector gesture={gesture} touchAction={zoom > 1 ? 'none' : 'pan-y'}>
        <View ref={frame} testID="zoomable" style={{ width: '100%', aspectRatio: aspect, overflow: 'hidden', borderRadius: corner }}>
          <View
            onLayout={({ nativeEvent: { layout } }) => layout.height > 0 && setAspect(layout.width / layout.height)}
            style={{ position: 'absolute', width: `${100 * zoom}%`, left: `${-100 * x * zoom}%`, top: `${-100 * y * zoom}%` }}
          >
            {children}
          </View>
        </View>
      </GestureDetector>
      {zoom > 1 && (
        <Row style={{ position: 'absolute', right: 8, bottom: 8 }}>
          <Button words={`${zoom.toFixed(1)} ×`} label={texts.resetZoom} onPress={() => show(whole)} testID="zoom-whole" />
        </Row>
      )}
    </View>
  );
}

/** Two fingers make it larger and push it along; one pushes what is larger than its frame. */
function gestures(frame: { readonly current: View | null }, framed: () => Framing, show: (next: Framing) => void) {
  const share = (x: number, y: number) => shareOf(frame.current as unknown as HTMLElement, x, y);
  let [before, from]: [Framing, readonly [number, number]] = [whole, [0, 0]];
  const pinch = Gesture.Pinch()
    .onStart(({ focalX, focalY }) => {
      [before, from] = [framed(), share(focalX, focalY)];
    })
    .onUpdate(({ scale, focalX, focalY }) => show(zoomed(before, scale, from, share(focalX, focalY))));
  const push = Gesture.Pan()
    .maxPointers(1)
    .onStart(() => (before = framed()))
    .onUpdate(({ translationX, translationY }) => {
      if (before.zoom === 1) return;
      const { width, height } = (frame.current as unknown as HTMLElement).getBoundingClientRect();
      show(within({ ...before, x: before.x - translationX / width / before.zoom, y: before.y - translationY / height / before.zoom }));
    });
  return Gesture.Race(pinch.runOnJS(true), push.runOnJS(true));
}

/** @param x,y on the page, pixels @returns shares of the frame */
function shareOf(frame: HTMLElement, x: number, y: number): [number, number] {
  const { left, top, width, height } = frame.getBoundingClientRect();
  return [(x - left) / width, (y - top) / height];
}
