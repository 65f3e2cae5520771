// The picture that is drawn on. While a point is dragged only what moves is drawn again: the rest of the page stands still.

import { memo, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { View } from 'react-native';
import type { Point } from '@nibber/core/boxes';
import { tracksInShape, type Path } from '@nibber/core/tracks-in-shape';
import { CameraPicture } from '../../picture/CameraPicture';
import { CornerShape, LineShape, WithoutCorner, ZoneShape } from '../../picture/drawings';
import { Zoomable } from '../../picture/Zoomable';
import { Button, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { usePathsQuery } from '../../state/api';
import type { CameraAnswer } from '../../state/api/types';
import type { Drawing } from '../../state/drawing';
import { fewest, isFull } from './edits';
import { Handles, Loupe, type Dragged } from './Handles';
import { Traces } from './Traces';
import { texts } from './words';

type Props = {
  camera: CameraAnswer;
  drawings: readonly Drawing[];
  /** The chosen one as it is kept in the draft. */
  stored: Drawing | undefined;
  isOpen: boolean;
  point: number | null;
  choose: (i: number | null) => void;
  apply: (points: readonly Point[]) => void;
  remove: ((i: number) => void) | undefined;
  close: () => void;
};

export function DrawnPicture({ camera, drawings, stored, isOpen, point, choose, apply, remove, close }: Props) {
  const [drag] = useState(startDrag);
  const { data: recorded } = usePathsQuery(camera.id);
  const handles = useMemo(
    () =>
      stored && (
        <Handles
          drawing={stored}
          isOpen={isOpen}
          chosen={point}
          choose={choose}
          drag={drag.set}
          drop={(next) => {
            drag.set(null);
            if (next) apply(next);
          }}
          remove={remove}
        />
      ),
    // What is done with a point depends on the drawing alone; the functions are made again at every turn.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [stored, drawings, isOpen, point, remove === undefined],
  );
  const chosenId = stored?.id;
  const held = useHeld(drag);
  const still = useMemo(
    () => (
      <>
        {recorded && <Traces paths={recorded.paths} />}
        {drawings.map((d) => d.id !== chosenId && <Shape key={d.id} drawing={d} isChosen={false} />)}
        {held && stored && <WithoutCorner points={held.points} index={held.index} purpose={purposeOf(stored)} />}
      </>
    ),
    [recorded, drawings, chosenId, held, stored],
  );
  return (
    <View style={{ gap: 8 }}>
      <Zoomable>
        <CameraPicture
          camera={camera}
          words={texts.withZonesAndLines(camera.name)}
          still={still}
          over={
            <>
              {handles}
              <UnderFinger camera={camera.id} drag={drag} />
            </>
          }
        >
          {stored && (held ? <MovingCorner purpose={purposeOf(stored)} drag={drag} /> : <Shape drawing={stored} isChosen />)}
        </CameraPicture>
      </Zoomable>
      {stored && recorded && <Catch stored={stored} drag={drag} paths={recorded.paths} days={recorded.days} />}
      {isOpen && stored && <Opened drawing={stored} close={close} />}
    </View>
  );
}

const Shape = memo(function Shape({ drawing, isChosen }: { drawing: Drawing; isChosen: boolean }) {
  return drawing.kind === 'zone' ? (
    <ZoneShape zone={{ ...drawing, polygon: drawing.points }} chosen={isChosen} />
  ) : (
    <LineShape line={drawing} chosen={isChosen} />
  );
});

/** What is under the finger, beside the page: only what shows it is drawn again for each of its places. */
type Drag = { get(): Dragged | null; set(dragged: Dragged | null): void; subscribe(heard: () => void): () => void };

function startDrag(): Drag {
  let now: Dragged | null = null;
  const listeners = new Set<() => void>();
  return {
    get: () => now,
    set(dragged) {
      now = dragged;
      listeners.forEach((heard) => heard());
    },
    subscribe(heard) {
      listeners.add(heard);
      return () => listeners.delete(heard);
    },
  };
}

const useDragged = (drag: Drag) => useSyncExternalStore(drag.subscribe, drag.get);

/** A drawing as it is while one of its points is under the finger. */
function useMoved(stored: Drawing, drag: Drag): Drawing {
  const dragged = useDragged(drag);
  return useMemo(() => (dragged ? { ...stored, points: dragged.points } : stored), [stored, dragged]);
}

const purposeOf = (drawing: Drawing) => (drawing.kind === 'zone' ? drawing.purpose : ('line' as const));

/** What was taken hold of: the same from the first move of the finger to its last. */
function useHeld(drag: Drag): Dragged | null {
  const first = useRef<Dragged | null>(null);
  return useSyncExternalStore(drag.subscribe, () => (first.current = drag.get() ? (first.current ?? drag.get()) : null));
}

const MovingCorner = memo(function MovingCorner({ purpose, drag }: { purpose: ReturnType<typeof purposeOf>; drag: Drag }) {
  const dragged = useDragged(drag);
  return dragged && <CornerShape points={dragged.points} index={dragged.index} purpose={purpose} />;
});

const UnderFinger = memo(function UnderFinger({ camera, drag }: { camera: string; drag: Drag }) {
  const dragged = useDragged(drag);
  return dragged && <Loupe camera={camera} at={dragged.points[dragged.index]!} />;
});

/** What the shape would have caught, as it is just now. */
function Catch({ stored, drag, paths, days }: { stored: Drawing; drag: Drag; paths: readonly Path[]; days: number }) {
  const drawing = useMoved(stored, drag);
  // The finger comes first; the count follows some times a second.
  const later = useSometimes(drawing, countEveryMs);
  const caught = useMemo(() => tracksInShape(later, paths), [later, paths]);
  const ofDays = texts.ofTheLastDays(days);
  if (drawing.points.length < fewest(drawing.kind)) return null;
  const words =
    paths.length === 0
      ? texts.noTracksToTestIt(ofDays)
      : drawing.kind === 'line'
        ? texts.ofTracksCrossedItForward(caught.forward, paths.length, ofDays, caught.back)
        : texts.ofTracksEnteredIt(caught.tracks, paths.length, ofDays);
  return (
    <Words bold testID="caught">
      {words}
    </Words>
  );
}

const countEveryMs = 250;

/** A value that is taken up at most so often, the last one always. */
function useSometimes<T>(value: T, everyMs: number): T {
  const [taken, setTaken] = useState(value);
  const newest = useRef(value);
  newest.current = value;
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => {
    if (value === taken || timer.current !== undefined) return;
    timer.current = setTimeout(() => {
      timer.current = undefined;
      setTaken(newest.current);
    }, everyMs);
  }, [value, taken, everyMs]);
  useEffect(() => () => clearTimeout(timer.current), []);
  return taken;
}

function Opened({ drawing: { kind, points }, close }: { drawing: Drawing; close: () => void }) {
  const left = fewest(kind) - points.length;
  const words = left > 0 ? texts.tapThePictureToAdd(left) : isFull(points) ? texts.itHasTheMaximumNumber : texts.tapThePictureToAdd2;
  return (
    <Row style={{ justifyContent: 'space-between' }}>
      <Words tone="second">{words}</Words>
      <Button words={texts.finish} main={left <= 0} disabled={left > 0} onPress={close} testID="close-shape" />
    </Row>
  );
}
