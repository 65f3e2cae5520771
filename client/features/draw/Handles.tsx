// Over the picture: points that can be dragged, middles of edges that make new ones, and taps that add points to what is begun.

import { createElement, useMemo, useRef, useState, type RefObject } from 'react';
import { Vibration, View, type LayoutChangeEvent } from 'react-native';
import { Gesture, GestureDetector } from 'react-native-gesture-handler';
import type { Point } from '@nibber/core/boxes';
import { corner } from '../../ui/theme';
import type { Drawing } from '../../state/drawing';
import { isFull, moved, withPoint } from './edits';
import { texts } from './words';

const handleSize = 44;
/** A finger that moves no farther is still. */
const stillPixels = 2;
/** A touch that moves farther pushes the picture. */
const slopPixels = 10;
const holdMs = 600;
const maxTapMs = 5000;

/** Points while one of them is under the finger. */
export type Dragged = { readonly points: readonly Point[]; readonly index: number };

type Props = {
  drawing: Drawing;
  /** Taps on the picture add points at the end. */
  isOpen: boolean;
  chosen: number | null;
  choose: (i: number | null) => void;
  drag: (dragged: Dragged) => void;
  /** Undefined where nothing was moved. */
  drop: (p: readonly Point[] | undefined) => void;
  /** Takes a point away; undefined while there are too few to do so. */
  remove: ((i: number) => void) | undefined;
};

export function Handles({ drawing: { kind, points }, isOpen, chosen, choose, drag, drop, remove }: Props) {
  const size = useRef({ width: 1, height: 1 });
  const [, redraw] = useState(0);
  const onLayout = ({ nativeEvent: { layout } }: LayoutChangeEvent) => {
    size.current = layout;
    redraw((n) => n + 1);
  };
  const edges = kind === 'zone' ? points.length : points.length - 1;
  const middles =
    isFull(points) || isOpen
      ? []
      : points.slice(0, Math.max(0, edges)).flatMap((p, i): { readonly at: Point; readonly edge: number }[] => {
          const next = points[(i + 1) % points.length]!;
          const length = Math.hypot((next[0] - p[0]) * size.current.width, (next[1] - p[1]) * size.current.height);
          // On a short edge the two points leave no room between them; the list adds one there.
          return length >= roomBetween || size.current.width === 1 ? [{ at: [(p[0] + next[0]) / 2, (p[1] + next[1]) / 2], edge: i }] : [];
        });
  // What two fingers do is no touch of one.
  const tap = Gesture.Tap()
    .withTestId('add-by-tap')
    .maxDistance(slopPixels)
    // A finger that rests while it aims adds its point too.
    .maxDuration(maxTapMs)
    .onTouchesDown(({ numberOfTouches }, state) => numberOfTouches > 1 && state.fail())
    .onEnd(({ x, y }) => drop(withPoint(points, points.length, [x / size.current.width, y / size.current.height])))
    .runOnJS(true);
  return (
    <View style={{ position: 'absolute', inset: 0 }} onLayout={onLayout}>
      {isOpen && !isFull(points) && (
        <GestureDetector gesture={tap} touchAction="inherit">
          <View
            testID="add-by-tap"
            role="button"
            aria-label={texts.tapThePictureToAdd3}
            style={{ position: 'absolute', inset: 0, cursor: 'crosshair' } as object}
          />
        </GestureDetector>
      )}
      {middles.map(({ at, edge: i }) => (
        <Handle
          key={`middle ${i}`}
          at={at}
          size={size}
          small
          label={texts.addPointOnEdge(i + 1)}
          start={() => (choose(i + 1), withPoint(points, i + 1, at))}
          index={i + 1}
          drag={drag}
          drop={drop}
        />
      ))}
      {points.map((at, i) => (
        <Handle
          key={`point ${i}`}
          at={at}
          size={size}
          chosen={chosen === i}
          label={texts.point2(i + 1)}
          start={() => (choose(i), points)}
          hold={remove && (() => remove(i))}
          index={i}
          drag={drag}
          drop={drop}
        />
      ))}
    </View>
  );
}

type HandleProps = {
  at: Point;
  size: RefObject<{ width: number; height: number }>;
  label: string;
  index: number;
  small?: boolean;
  chosen?: boolean;
  start: () => readonly Point[];
  /** Held without moving. */
  hold?: (() => void) | undefined;
  drag: (dragged: Dragged) => void;
  drop: (p: readonly Point[] | undefined) => void;
};

function Handle({ at, size, label, index, small = false, chosen = false, start, hold, drag, drop }: HandleProps) {
  const latest = useRef({ start, index, hold, drag, drop });
  latest.current = { start, index, hold, drag, drop };
  // The gesture is the same for as long as the point is there: it goes on while what is drawn changes under it.
  const gesture = useMemo(() => {
    type Finger = { readonly absoluteX: number; readonly absoluteY: number };
    let base: Dragged & { from: Finger } = { points: [], index: 0, from: { absoluteX: 0, absoluteY: 0 } };
    // From where the finger was put down, not from where its moving was first taken for one.
    const after = ({ absoluteX, absoluteY }: Finger) =>
      moved(
        base.points,
        base.index,
        (absoluteX - base.from.absoluteX) / size.current.width,
        (absoluteY - base.from.absoluteY) / size.current.height,
      );
    const move = Gesture.Pan()
      .withTestId(small ? `middle-${index}` : `handle-${index}`)
      .minDistance(stillPixels)
      .maxPointers(1)
      .onBegin((from) => (base = { points: latest.current.start(), index: latest.current.index, from }))
      .onUpdate((event) => latest.current.drag({ points: after(event), index: base.index }))
      .onEnd((event, isWhole) => latest.current.drop(isWhole ? after(event) : undefined));
    const remove = Gesture.LongPress()
      .withTestId(`hold-${index}`)
      .enabled(!small)
      .minDuration(holdMs)
      .maxDistance(stillPixels)
      .onStart(() => {
        if (!latest.current.hold) return;
        Vibration.vibrate(40);
        latest.current.hold();
      });
    return Gesture.Race(move.runOnJS(true), remove.runOnJS(true));
  }, [index, small, size]);
  const dot = small ? 10 : chosen ? 22 : 16;
  const [x, y] = [at[0] * size.current.width, at[1] * size.current.height];
  const [left, top] = [within(x - handleSize / 2, size.current.width), within(y - handleSize / 2, size.current.height)];
  /** By keys: Enter does what a touch does. */
  const onKey = (event: { key: string; preventDefault(): void }) => {
    if (event.key !== 'Enter' && event.key !== ' ') return;
    event.preventDefault();
    const points = start();
    if (small) drop(points);
  };
  return (
    <GestureDetector gesture={gesture} touchAction="none">
      <View
        {...({ tabIndex: 0, onKeyDown: onKey, onFocus: small ? undefined : () => void start() } as object)}
        aria-label={label}
        role="button"
        testID={small ? undefined : `handle-${index}`}
        style={
          {
            position: 'absolute',
            left,
            top,
            width: handleSize,
            height: handleSize,
            cursor: 'grab',
            zIndex: small ? 1 : 2,
          } as object
        }
      >
        <View
          style={{
            position: 'absolute',
            left: x - left - dot / 2,
            top: y - top - dot / 2,
            width: dot,
            height: dot,
            borderRadius: dot / 2,
            backgroundColor: small ? '#FFFDF7CC' : chosen ? '#8CC7AE' : '#FFFDF7',
            borderWidth: small ? 1 : 2,
            borderColor: '#20251F',
          }}
        />
      </View>
    </GestureDetector>
  );
}

/** What lies on the border can be touched all the same: enough of it stays on the picture. */
const within = (place: number, all: number) => Math.min(all - handleSize + reach, Math.max(-reach, place));
const reach = 14;
/** Two points of this size, and a finger's between them. */
const roomBetween = 68;

const loupeSize = 112;
const loupeTimes = 3;

/** The point under the finger, and what lies there three times as large, in the corner the finger is not in. */
export function Loupe({ camera, at }: { camera: string; at: Point }) {
  const [taken] = useState(Date.now);
  const [{ width, height }, setSize] = useState({ width: 1, height: 1 });
  const isLeft = at[0] < 0.5;
  return (
    <View pointerEvents="none" style={{ position: 'absolute', inset: 0 }} onLayout={({ nativeEvent: { layout } }) => setSize(layout)}>
      <View
        style={{
          position: 'absolute',
          transform: [{ translateX: at[0] * width - 11 }, { translateY: at[1] * height - 11 }],
          width: 22,
          height: 22,
          borderRadius: 11,
          backgroundColor: '#8CC7AE',
          borderWidth: 2,
          borderColor: '#20251F',
        }}
      />
      <View
        style={{
          position: 'absolute',
          top: 8,
          ...(isLeft ? { right: 8 } : { left: 8 }),
          width: loupeSize,
          height: loupeSize,
          borderRadius: corner,
          borderWidth: 2,
          borderColor: '#FFFDF7',
          overflow: 'hidden',
          backgroundColor: '#000',
        }}
      >
        {createElement('img', {
          src: `/api/cameras/${camera}/picture.jpg?at=${taken}`,
          alt: '',
          style: {
            position: 'absolute',
            width: width * loupeTimes,
            height: height * loupeTimes,
            // Moved by the compositor: it is not painted again for each place of the finger.
            willChange: 'transform',
            transform: `translate(${loupeSize / 2 - at[0] * width * loupeTimes}px, ${loupeSize / 2 - at[1] * height * loupeTimes}px)`,
          },
        })}
        <View style={{ position: 'absolute', left: loupeSize / 2 - 1, top: 0, width: 1, height: loupeSize, backgroundColor: '#FFFDF7' }} />
        <View style={{ position: 'absolute', top: loupeSize / 2 - 1, left: 0, height: 1, width: loupeSize, backgroundColor: '#FFFDF7' }} />
      </View>
    </View>
  );
}
