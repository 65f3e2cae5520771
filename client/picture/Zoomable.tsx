// A picture that is made larger under the fingers: by pinch, wheel or keys, and pushed about while it is. What stands on it keeps its size.

import { useGesture } from '@use-gesture/react';
import { createContext, useContext, useEffect, useRef, useState, type ReactNode, type RefObject } from 'react';
import { View } from 'react-native';
import { corner } from '../ui/look';
import { Button, Row } from '../ui/Surface';

/** When two fingers were last on the picture: what one of them does alone then is no tap. Time of `performance.now()`. */
const LastPinch = createContext<RefObject<number>>({ current: -Infinity });
const pinchRestMs = 300;

/** Asks whether a touch belongs to a pinch. */
export function useIsPinch(): () => boolean {
  const last = useContext(LastPinch);
  return () => performance.now() - last.current < pinchRestMs;
}

/** `x` and `y`: the upper left corner of what is seen, as shares of the picture. */
export type Seen = { readonly zoom: number; readonly x: number; readonly y: number };
const whole: Seen = { zoom: 1, x: 0, y: 0 };
const most = 6;

const within = ({ zoom, x, y }: Seen): Seen => {
  const far = 1 - 1 / zoom;
  return { zoom, x: Math.min(far, Math.max(0, x)), y: Math.min(far, Math.max(0, y)) };
};

/**
 * What is seen after zooming, with a place of the picture staying under the fingers.
 * @param from where the fingers were on the frame when what was seen was `before`, shares of the frame; `to` where they are now
 */
export function zoomed(before: Seen, factor: number, from: readonly [number, number], to: readonly [number, number] = from): Seen {
  const zoom = Math.min(most, Math.max(1, before.zoom * factor));
  const at = (i: 0 | 1) => (i === 0 ? before.x : before.y) + from[i] / before.zoom - to[i] / zoom;
  return within({ zoom, x: at(0), y: at(1) });
}

/** @param isHeld whether one finger on the picture itself does something else than push it about */
export function Zoomable({ children, isHeld }: { children: ReactNode; isHeld: boolean }) {
  const frame = useRef<HTMLElement>(null);
  const lastPinch = useRef(-Infinity);
  const [seen, setSeen] = useState(whole);
  const [aspect, setAspect] = useState(16 / 9);
  const share = ([x, y]: readonly [number, number]): [number, number] => {
    const { left, top, width, height } = frame.current!.getBoundingClientRect();
    return [(x - left) / width, (y - top) / height];
  };
  useGesture(
    {
      onPinch: ({ origin, movement: [factor], memo = { seen, from: share(origin) } }) => {
        lastPinch.current = performance.now();
        setSeen(zoomed(memo.seen, factor, memo.from, share(origin)));
        return memo;
      },
      onWheel: ({ event, delta: [, dy] }) => {
        if (event.ctrlKey) return;
        event.preventDefault();
        setSeen((now) => zoomed(now, Math.exp(-dy / 300), share([event.clientX, event.clientY])));
      },
      onDrag: ({ delta: [dx, dy], pinching, event, cancel, tap }) => {
        const isHandle = (event.target as HTMLElement).closest('[role=button]') !== null;
        if (pinching || isHeld || isHandle || tap) return isHandle ? cancel() : undefined;
        const { width, height } = frame.current!.getBoundingClientRect();
        setSeen((now) => within({ ...now, x: now.x - dx / width / now.zoom, y: now.y - dy / height / now.zoom }));
      },
    },
    { target: frame, eventOptions: { passive: false }, drag: { filterTaps: true, enabled: seen.zoom > 1 }, pinch: { pinchOnWheel: true } },
  );
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if ((event.target as HTMLElement).closest('input, textarea') || event.ctrlKey || event.metaKey) return;
      if (event.key === '+' || event.key === '=') setSeen((now) => zoomed(now, 1.5, [0.5, 0.5]));
      else if (event.key === '-') setSeen((now) => zoomed(now, 1 / 1.5, [0.5, 0.5]));
      else if (event.key === '0') setSeen(whole);
    };
    document.addEventListener('keydown', onKey);
    return () => document.removeEventListener('keydown', onKey);
  }, []);
  return (
    <View>
      <View
        ref={frame as never}
        testID="zoomable"
        style={{ width: '100%', aspectRatio: aspect, overflow: 'hidden', borderRadius: corner, touchAction: seen.zoom > 1 || isHeld ? 'none' : 'pan-y' } as object} // prettier-ignore
      >
        <View
          onLayout={({ nativeEvent: { layout } }) => layout.height > 0 && setAspect(layout.width / layout.height)}
          style={{
            position: 'absolute',
            width: `${100 * seen.zoom}%`,
            left: `${-100 * seen.x * seen.zoom}%`,
            top: `${-100 * seen.y * seen.zoom}%`,
          }}
        >
          <LastPinch.Provider value={lastPinch}>{children}</LastPinch.Provider>
        </View>
      </View>
      {seen.zoom > 1 && (
        <Row style={{ position: 'absolute', right: 8, bottom: 8 }}>
          <Button words={`${seen.zoom.toFixed(1)} ×`} label="Show the whole picture" onPress={() => setSeen(whole)} testID="zoom-whole" />
        </Row>
      )}
    </View>
  );
}
