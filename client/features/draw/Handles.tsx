// Over the picture: points that can be dragged, middles of edges that make new ones, and taps that add points to what is begun.

import { createElement, useEffect, useRef, useState, type RefObject } from 'react';
import { PanResponder, View, type GestureResponderEvent, type LayoutChangeEvent } from 'react-native';
import type { Point } from '@nibber/core/boxes';
import { useIsPinch } from '../../picture/Zoomable';
import { corner } from '../../ui/look';
import type { Drawing } from './drawing.slice';
import { isFull, moved, withPoint } from './edits';

const handleSize = 44;
/** A finger that moves no farther is still. */
const stillPixels = 2;
const holdMs = 600;

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
  const isPinch = useIsPinch();
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
      : points.slice(0, Math.max(0, edges)).map((p, i): Point => {
          const next = points[(i + 1) % points.length]!;
          return [(p[0] + next[0]) / 2, (p[1] + next[1]) / 2];
        });
  const tap = ({ nativeEvent: e }: GestureResponderEvent) =>
    !isPinch() && drop(withPoint(points, points.length, [e.locationX / size.current.width, e.locationY / size.current.height]));
  return (
    <View style={{ position: 'absolute', inset: 0 }} onLayout={onLayout}>
      {isOpen && !isFull(points) && (
        <View
          testID="add-by-tap"
          role="button"
          aria-label="Add a point where the picture is touched"
          onStartShouldSetResponder={() => true}
          onResponderRelease={tap}
          style={{ position: 'absolute', inset: 0, cursor: 'crosshair', touchAction: 'none' } as object}
        />
      )}
      {middles.map((at, i) => (
        <Handle
          key={`middle ${i}`}
          at={at}
          size={size}
          small
          label={`Add a point on edge ${i + 1}`}
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
          label={`Point ${i + 1}`}
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
  const holding = useRef<ReturnType<typeof setTimeout>>(undefined);
  const isGone = useRef(false);
  useEffect(() => () => clearTimeout(holding.current), []);
  const base = useRef<{ points: readonly Point[]; index: number }>({ points: [], index: 0 });
  const after = (_event: GestureResponderEvent, { dx, dy }: { dx: number; dy: number }) =>
    moved(base.current.points, base.current.index, dx / size.current.width, dy / size.current.height);
  const responder = useRef(
    PanResponder.create({
      onStartShouldSetPanResponder: () => true,
      onPanResponderTerminationRequest: () => false,
      onPanResponderGrant: () => {
        base.current = { points: latest.current.start(), index: latest.current.index };
        isGone.current = false;
        clearTimeout(holding.current);
        if (latest.current.hold)
          holding.current = setTimeout(() => {
            isGone.current = true;
            navigator.vibrate?.(40);
            latest.current.drop(undefined);
            latest.current.hold?.();
          }, holdMs);
      },
      onPanResponderMove: (event, gesture) => {
        if (isGone.current || Math.hypot(gesture.dx, gesture.dy) <= stillPixels) return;
        clearTimeout(holding.current);
        latest.current.drag({ points: after(event, gesture), index: base.current.index });
      },
      onPanResponderRelease: (event, gesture) => {
        clearTimeout(holding.current);
        if (isGone.current) return;
        latest.current.drop(Math.hypot(gesture.dx, gesture.dy) > stillPixels ? after(event, gesture) : undefined);
      },
    }),
  ).current;
  const dot = small ? 10 : chosen ? 22 : 16;
  return (
    <View
      {...responder.panHandlers}
      aria-label={label}
      role="button"
      testID={small ? undefined : `handle-${index}`}
      style={
        {
          position: 'absolute',
          left: at[0] * size.current.width - handleSize / 2,
          top: at[1] * size.current.height - handleSize / 2,
          width: handleSize,
          height: handleSize,
          alignItems: 'center',
          justifyContent: 'center',
          touchAction: 'none',
          cursor: 'grab',
          zIndex: small ? 1 : 2,
        } as object
      }
    >
      <View
        style={{
          width: dot,
          height: dot,
          borderRadius: dot / 2,
          backgroundColor: small ? '#FFFDF7CC' : chosen ? '#8CC7AE' : '#FFFDF7',
          borderWidth: small ? 1 : 2,
          borderColor: '#20251F',
        }}
      />
    </View>
  );
}

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
            // Moved by the compositor: it is not painted anew for each place of the finger.
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
