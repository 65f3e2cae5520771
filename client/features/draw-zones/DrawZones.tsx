// Reshaping zones on the live picture: drag a point, drag an edge's middle to add one, remove it; the same by keyboard and by list.

import { useEffect, useRef, useState } from 'react';
import { PanResponder, Pressable, View, type GestureResponderEvent, type LayoutChangeEvent } from 'react-native';
import { Snackbar } from 'react-native-paper';
import type { Point } from '@nibber/core/boxes';
import type { Zone } from '@nibber/core/site';
import { leastPoints, mostPoints, polygonFault, polygonFaultWords } from '@nibber/core/zones';
import { LivePicture } from '../../picture/Picture';
import { ZoneShape } from '../../picture/drawings';
import { Attention, Button, Row, Sheet } from '../../ui/Surface';
import { usePalette } from '../../ui/look';
import { Words } from '../../ui/Words';
import { troubleWords, useSetZonesMutation } from '../api/api';
import { useAppDispatch, useAppSelector } from '../api/store';
import type { CameraAnswer } from '../api/types';
import { begin, change, end, redo, undo } from './drawing.slice';
import { moved, withoutPoint, withPoint } from './edits';

const handleSize = 44;
const nudge = 0.005;

export function DrawZones({ camera, done }: { camera: CameraAnswer; done: () => void }) {
  const dispatch = useAppDispatch();
  const draft = useAppSelector((s) => s.drawing.draft);
  const mine = draft?.camera === camera.id ? draft : null;
  const [zoneId, setZoneId] = useState(camera.zones[0]?.id ?? '');
  const [point, setPoint] = useState<number | null>(null);
  const [dragged, setDragged] = useState<readonly Point[] | null>(null);
  const [save, saving] = useSetZonesMutation();
  useEffect(() => {
    if (!mine) dispatch(begin({ camera: camera.id, zones: camera.zones }));
  }, [mine, camera, dispatch]);

  const shape = (z: Zone) => (z.id === zoneId && dragged) || mine?.shapes[z.id] || (z.polygon as unknown as Point[]);
  const zone = camera.zones.find((z) => z.id === zoneId);
  const polygon = zone ? shape(zone) : [];
  const fault = zone && polygonFault(polygon);
  const faults = camera.zones.flatMap((z) => {
    const found = polygonFault(shape(z));
    return found ? [`${z.name} ${polygonFaultWords(found)}.`] : [];
  });
  const apply = (next: readonly Point[]) => dispatch(change({ zone: zoneId, polygon: next }));
  const remove = () => {
    if (point === null || polygon.length <= leastPoints) return;
    apply(withoutPoint(polygon, point));
    setPoint(null);
  };
  useKeys({ point, polygon, apply, remove, undo: () => dispatch(undo()), redo: () => dispatch(redo()) });

  const keep = async () => {
    const zones = camera.zones.map((z) => ({ ...z, polygon: shape(z).map((p) => [...p]) }));
    if (!('error' in (await save({ camera: camera.id, zones })))) {
      dispatch(end());
      done();
    }
  };
  const leave = () => {
    dispatch(end());
    done();
  };
  const isChanged = (mine?.past.length ?? 0) > 0;

  return (
    <View style={{ gap: 12 }}>
      <LivePicture
        camera={camera.id}
        words={`${camera.name}, live, with its zones`}
        over={
          zone && (
            <Handles
              polygon={polygon}
              chosen={point}
              choose={setPoint}
              drag={setDragged}
              drop={(next) => (setDragged(null), apply(next))}
            />
          )
        }
      >
        {camera.zones.map((z) => (
          <ZoneShape key={z.id} zone={{ ...z, polygon: shape(z) }} chosen={z.id === zoneId} />
        ))}
      </LivePicture>
      <Row>
        {camera.zones.map((z) => (
          <Button
            key={z.id}
            words={z.name}
            pressed={z.id === zoneId}
            onPress={() => (setZoneId(z.id), setPoint(null))}
            testID={`zone-${z.id}`}
          />
        ))}
      </Row>
      {faults.map((words) => (
        <Attention key={words} words={`${words} It cannot be kept like this.`} />
      ))}
      <Row style={{ justifyContent: 'space-between' }}>
        <Row>
          <Button glyph="undo" label="Undo" disabled={!mine?.past.length} onPress={() => dispatch(undo())} />
          <Button glyph="redo" label="Redo" disabled={!mine?.future.length} onPress={() => dispatch(redo())} />
          <Button
            glyph="remove"
            words="Point"
            label="Remove the chosen point"
            disabled={point === null || polygon.length <= leastPoints}
            onPress={remove}
          />
        </Row>
        <Row>
          <Button words="Leave as it was" onPress={leave} />
          <Button words="Keep" main disabled={!isChanged || faults.length > 0 || saving.isLoading} onPress={keep} testID="keep-zones" />
        </Row>
      </Row>
      <Words size="small" tone="second">
        Drag a point to move it, or the middle of an edge to add one. Arrow keys move the chosen point, Backspace removes it.
      </Words>
      {zone && <PointList zone={zone} polygon={polygon} chosen={point} choose={setPoint} apply={apply} hasFault={fault !== undefined} />}
      <Snackbar visible={saving.isError} onDismiss={saving.reset}>
        {troubleWords(saving.error)}
      </Snackbar>
    </View>
  );
}

type HandlesProps = {
  polygon: readonly Point[];
  chosen: number | null;
  choose: (i: number | null) => void;
  drag: (p: readonly Point[]) => void;
  drop: (p: readonly Point[]) => void;
};

function Handles({ polygon, chosen, choose, drag, drop }: HandlesProps) {
  const size = useRef({ width: 1, height: 1 });
  const [, redraw] = useState(0);
  const onLayout = ({ nativeEvent: { layout } }: LayoutChangeEvent) => {
    size.current = layout;
    redraw((n) => n + 1);
  };
  const middles =
    polygon.length < mostPoints
      ? polygon.map((p, i): Point => [
          (p[0] + polygon[(i + 1) % polygon.length]![0]) / 2,
          (p[1] + polygon[(i + 1) % polygon.length]![1]) / 2,
        ])
      : [];
  return (
    <View style={{ position: 'absolute', inset: 0 }} onLayout={onLayout}>
      {middles.map((at, i) => (
        <Handle
          key={`middle ${i}`}
          at={at}
          size={size}
          small
          label={`Add a point on edge ${i + 1}`}
          start={() => (choose(i + 1), withPoint(polygon, i + 1, at))}
          index={i + 1}
          drag={drag}
          drop={drop}
        />
      ))}
      {polygon.map((at, i) => (
        <Handle
          key={`point ${i}`}
          at={at}
          size={size}
          chosen={chosen === i}
          label={`Point ${i + 1}`}
          start={() => (choose(i), polygon)}
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
  size: { current: { width: number; height: number } };
  label: string;
  index: number;
  small?: boolean;
  chosen?: boolean;
  start: () => readonly Point[];
  drag: HandlesProps['drag'];
  drop: HandlesProps['drop'];
};

function Handle({ at, size, label, index, small = false, chosen = false, start, drag, drop }: HandleProps) {
  const latest = useRef({ start, index, drag, drop });
  latest.current = { start, index, drag, drop };
  const base = useRef<{ polygon: readonly Point[]; index: number }>({ polygon: [], index: 0 });
  const after = (_event: GestureResponderEvent, { dx, dy }: { dx: number; dy: number }) =>
    moved(base.current.polygon, base.current.index, dx / size.current.width, dy / size.current.height);
  const responder = useRef(
    PanResponder.create({
      onStartShouldSetPanResponder: () => true,
      onPanResponderTerminationRequest: () => false,
      onPanResponderGrant: () => {
        base.current = { polygon: latest.current.start(), index: latest.current.index };
      },
      onPanResponderMove: (event, gesture) => latest.current.drag(after(event, gesture)),
      onPanResponderRelease: (event, gesture) => {
        if (Math.hypot(gesture.dx, gesture.dy) > 2) latest.current.drop(after(event, gesture));
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

type ListProps = {
  zone: Zone;
  polygon: readonly Point[];
  chosen: number | null;
  choose: (i: number) => void;
  apply: (p: readonly Point[]) => void;
  hasFault: boolean;
};

/** The same as a list: each point with its place in hundredths of the picture, and buttons to move it. */
function PointList({ zone, polygon, chosen, choose, apply }: ListProps) {
  const { rule, wash } = usePalette();
  const [open, setOpen] = useState(false);
  return (
    <Sheet>
      <Button words={open ? 'Hide the points' : `Points of ${zone.name} as a list`} onPress={() => setOpen(!open)} />
      {open &&
        polygon.map((p, i) => (
          <Row
            key={i}
            style={{
              borderTopWidth: 1,
              borderTopColor: rule,
              paddingTop: 6,
              justifyContent: 'space-between',
              backgroundColor: chosen === i ? wash : undefined,
            }}
          >
            <Pressable
              onPress={() => choose(i)}
              style={{ minHeight: 44, justifyContent: 'center' }}
              role="button"
              aria-label={`Choose point ${i + 1}`}
            >
              <Words>
                {i + 1}. {Math.round(p[0] * 100)} across, {Math.round(p[1] * 100)} down
              </Words>
            </Pressable>
            <Row>
              {(
                [
                  ['←', -0.01, 0, 'left'],
                  ['→', 0.01, 0, 'right'],
                  ['↑', 0, -0.01, 'up'],
                  ['↓', 0, 0.01, 'down'],
                ] as const
              ).map(([words, dx, dy, way]) => (
                <Button key={way} words={words} label={`Move point ${i + 1} ${way}`} onPress={() => apply(moved(polygon, i, dx, dy))} />
              ))}
            </Row>
          </Row>
        ))}
    </Sheet>
  );
}

type Keys = {
  point: number | null;
  polygon: readonly Point[];
  apply: (p: readonly Point[]) => void;
  remove: () => void;
  undo: () => void;
  redo: () => void;
};

function useKeys(keys: Keys): void {
  const latest = useRef(keys);
  latest.current = keys;
  useEffect(() => {
    const arrows: Record<string, Point> = { ArrowLeft: [-nudge, 0], ArrowRight: [nudge, 0], ArrowUp: [0, -nudge], ArrowDown: [0, nudge] };
    const onKey = (event: KeyboardEvent) => {
      const { point, polygon, apply, remove, undo: back, redo: forth } = latest.current;
      if ((event.target as HTMLElement).closest('input, textarea')) return;
      const arrow = arrows[event.key];
      if (arrow && point !== null) apply(moved(polygon, point, ...arrow));
      else if (event.key === 'Backspace' || event.key === 'Delete') remove();
      else if (event.key.toLowerCase() === 'z' && (event.ctrlKey || event.metaKey)) (event.shiftKey ? forth : back)();
      else return;
      event.preventDefault();
    };
    document.addEventListener('keydown', onKey);
    return () => document.removeEventListener('keydown', onKey);
  }, []);
}
