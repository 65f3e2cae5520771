// A picture that is made larger under the fingers: by pinch, wheel or keys, and pushed about while it is. What stands on it keeps its size.

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
  const latest = useRef({ isHeld, zoom: seen.zoom });
  latest.current = { isHeld, zoom: seen.zoom };
  useEffect(() => {
    const element = frame.current!;
    const share = ([x, y]: readonly [number, number]): [number, number] => {
      const { left, top, width, height } = element.getBoundingClientRect();
      return [(x - left) / width, (y - top) / height];
    };
    let pinch: { readonly before: Seen; readonly from: readonly [number, number]; readonly apart: number } | undefined;
    let pushed: { x: number; y: number } | undefined;
    const between = ([a, b]: readonly Touch[]) => ({
      at: share([(a!.clientX + b!.clientX) / 2, (a!.clientY + b!.clientY) / 2]),
      apart: Math.hypot(a!.clientX - b!.clientX, a!.clientY - b!.clientY),
    });
    const onTouch = (event: TouchEvent) => {
      if (event.touches.length !== 2) return void (pinch = undefined);
      event.preventDefault();
      lastPinch.current = performance.now();
      const { at, apart } = between([...event.touches]);
      setSeen((now) => {
        pinch ??= { before: now, from: at, apart };
        return zoomed(pinch.before, apart / pinch.apart, pinch.from, at);
      });
    };
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      setSeen((now) => zoomed(now, Math.exp(-event.deltaY / 300), share([event.clientX, event.clientY])));
    };
    const onDown = (event: PointerEvent) => {
      const isHandle = (event.target as HTMLElement).closest('[role=button]') !== null;
      pushed = event.isPrimary && !isHandle && !latest.current.isHeld && latest.current.zoom > 1 ? event : undefined;
    };
    const onMove = (event: PointerEvent) => {
      if (!pushed || !event.isPrimary || pinch) return;
      const { width, height } = element.getBoundingClientRect();
      const [dx, dy] = [(event.clientX - pushed.x) / width, (event.clientY - pushed.y) / height];
      pushed = event;
      setSeen((now) => within({ ...now, x: now.x - dx / now.zoom, y: now.y - dy / now.zoom }));
    };
    const onUp = () => (pushed = undefined);
    const touches = ['touchstart', 'touchmove', 'touchend', 'touchcancel'] as const;
    // The browser would scroll or enlarge the page: that can only be kept from it by listeners that are not passive.
    touches.forEach((t) => element.addEventListener(t, onTouch, { passive: false }));
    element.addEventListener('wheel', onWheel, { passive: false });
    element.addEventListener('pointerdown', onDown);
    window.addEventListener('pointermove', onMove);
    window.addEventListener('pointerup', onUp);
    window.addEventListener('pointercancel', onUp);
    return () => {
      touches.forEach((t) => element.removeEventListener(t, onTouch));
      element.removeEventListener('wheel', onWheel);
      element.removeEventListener('pointerdown', onDown);
      window.removeEventListener('pointermove', onMove);
      window.removeEventListener('pointerup', onUp);
      window.removeEventListener('pointercancel', onUp);
    };
  }, []);
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
