// Drawing on the live picture: zones, ignored parts, privacy masks and lines, by touch, mouse, keyboard or list. What the shape would
// have caught of the last days is said while it changes.

import { useEffect, useMemo, useState } from 'react';
import { View } from 'react-native';
import { List } from 'react-native-paper';
import type { Point } from '@nibber/core/boxes';
import { Columns } from '../../ui/Columns';
import { Sheet } from '../../ui/Sheet';
import { Attention, Button, Row } from '../../ui/Surface';
import { OneOf } from '../../ui/Choices';
import { Footer } from '../../ui/Footer';
import { useSay } from '../../ui/Messages';
import { ChangedElsewhere, Unsaved } from '../../ui/Unsaved';
import { Words } from '../../ui/Words';
import { problemWords, useSetDrawingsMutation } from '../../state/api';
import { useAppDispatch, useAppSelector } from '../../state/store';
import type { CameraAnswer } from '../../state/api/types';
import { DrawingPanel } from './DrawingPanel';
import { DrawnPicture } from './DrawnPicture';
import { asSaved, drawing, drawingsOf, type Drawing } from '../../state/drawing';
import { drawingProblemWords, fewest, newDrawing, replaced, withoutPoint, type NewKind } from './edits';
import { PointList } from './PointList';
import { useKeys } from './useKeys';
import { texts } from './words';

const { begin, change, draftOf, end, goOn, redo, undo } = drawing;

const kinds: readonly [NewKind, string, string][] = [
  ['watch', texts.aWatchedZone, texts.usedByRulesSomeoneAppears],
  ['line', texts.aLine, texts.crossedInOneDirectionOr],
  ['ignore', texts.anIgnoredArea, texts.aFlagARoadWhere],
  ['privacy', texts.aPrivacyMask, texts.blackedOutBeforeAnythingIs],
];

/** @param done called with whether privacy masks were changed */
export function Draw({ camera, done }: { camera: CameraAnswer; done: (masksChanged: boolean) => void }) {
  const dispatch = useAppDispatch();
  const say = useSay();
  const state = useAppSelector((s) => s.drawing);
  const mine = useMemo(() => draftOf(state, camera.id), [state, camera.id]);
  const drawings = mine?.content ?? [];
  const [chosenId, setChosenId] = useState(camera.zones[0]?.id ?? camera.lines?.[0]?.id ?? '');
  const [point, setPoint] = useState<number | null>(null);
  const [isOpen, setOpen] = useState(false);
  const [isAdding, setAdding] = useState(false);
  const [isLeaving, setLeaving] = useState(false);
  const [save, saving] = useSetDrawingsMutation();
  const standing = useMemo(() => drawingsOf(camera.zones, camera.lines ?? []), [camera.zones, camera.lines]);
  useEffect(() => {
    if (!mine) dispatch(begin({ of: camera.id, version: camera.version, content: standing }));
  }, [mine, camera, standing, dispatch]);
  const isChanged = mine?.canUndo ?? false;
  const isOlder = mine !== null && !saving.isLoading && JSON.stringify(mine.from.content) !== JSON.stringify(standing);
  // A draft in which nothing was changed yet follows what is there.
  useEffect(() => {
    if (isOlder && !isChanged) dispatch(begin({ of: camera.id, version: camera.version, content: standing }));
  }, [isOlder, isChanged, camera, standing, dispatch]);

  const stored = drawings.find((d) => d.id === chosenId);
  const problems = drawings.flatMap((d) => drawingProblemWords(d) ?? []);
  const set = (next: Drawing) => dispatch(change({ content: replaced(drawings, next) }));
  const apply = (points: readonly Point[]) => stored && set({ ...stored, points });
  const choose = (id: string) => (setChosenId(id), setPoint(null), setOpen(false));
  const mayRemove = stored !== undefined && stored.points.length > fewest(stored.kind);
  const remove = (i: number) => {
    if (!stored || !mayRemove) return;
    apply(withoutPoint(stored.points, i));
    setPoint(null);
  };
  const removePoint = () => point !== null && remove(point);
  const add = (kind: NewKind) => {
    const made = newDrawing(kind, drawings);
    dispatch(change({ content: [...drawings, made] }));
    setAdding(false);
    choose(made.id);
    setOpen(true);
  };
  const removeDrawing = () => {
    dispatch(change({ content: drawings.filter((d) => d.id !== chosenId) }));
    choose(drawings.find((d) => d.id !== chosenId)?.id ?? '');
  };
  useKeys({ point, points: stored?.points ?? [], apply, remove: removePoint, undo: () => dispatch(undo()), redo: () => dispatch(redo()) });

  const keep = async () => {
    const answer = await save({ camera: camera.id, version: mine!.from.version, ...asSaved(drawings) });
    if (answer.error) return say(problemWords(answer.error) ?? '');
    dispatch(end());
    done(masksOf(drawings) !== masksOf(standing));
  };
  const leave = () => (dispatch(end()), done(false));
  const picture = (
    <DrawnPicture
      camera={camera}
      drawings={drawings}
      stored={stored}
      isOpen={isOpen}
      point={point}
      choose={setPoint}
      apply={apply}
      remove={mayRemove ? remove : undefined}
      close={() => setOpen(false)}
    />
  );
  const controls = (
    <View style={{ gap: 12 }}>
      <Row>
        <OneOf
          label={texts.whatIsDrawn}
          choices={drawings.map((d) => ({ value: d.id, words: d.name || texts.noName, testID: `${d.kind}-${d.id}` }))}
          value={chosenId}
          choose={choose}
        />
        <Button glyph="add" words={texts.draw} label={texts.drawANewShape} onPress={() => setAdding(true)} testID="draw-new" />
      </Row>
      {!isOpen && problems.map((words) => <Attention key={words} words={texts.correctThisBeforeSaving(words)} />)}
      <Row style={{ justifyContent: 'space-between' }}>
        <Row>
          <Button glyph="undo" label={texts.undo} disabled={!mine?.canUndo} onPress={() => dispatch(undo())} testID="undo" />
          <Button glyph="redo" label={texts.redo} disabled={!mine?.canRedo} onPress={() => dispatch(redo())} testID="redo" />
          <Button
            glyph="remove"
            words={texts.point}
            label={texts.removeSelectedPoint}
            disabled={point === null || !mayRemove}
            onPress={removePoint}
          />
        </Row>
        <Row>
          <Footer
            save={() => void keep()}
            canSave={isChanged && !isOlder && problems.length === 0 && !saving.isLoading}
            cancel={() => (isChanged ? setLeaving(true) : leave())}
            testID="keep-drawings"
            cancelTestID="leave-drawing"
          />
        </Row>
      </Row>
      {isOlder && isChanged && (
        <ChangedElsewhere
          what={texts.zonesAndLinesOf(camera.name)}
          drop={() => dispatch(begin({ of: camera.id, version: camera.version, content: standing }))}
          goOn={() => dispatch(goOn({ version: camera.version, content: standing }))}
        />
      )}
      {isLeaving && <Unsaved discard={leave} goOn={() => setLeaving(false)} />}
      {stored && <DrawingPanel drawing={stored} set={set} remove={removeDrawing} />}
      {stored && <PointList drawing={stored} chosen={point} choose={setPoint} apply={apply} />}
      <Words size="small" tone="second">
        {texts.dragAPointToMove}
      </Words>
    </View>
  );
  return (
    <>
      <Columns main={picture} side={controls} />
      <Sheet title={texts.draw} open={isAdding} close={() => setAdding(false)}>
        {kinds.map(([kind, words, detail]) => (
          <List.Item
            key={kind}
            title={words}
            description={detail}
            descriptionNumberOfLines={3}
            onPress={() => add(kind)}
            testID={`new-${kind}`}
            role="button"
          />
        ))}
      </Sheet>
    </>
  );
}

const masksOf = (drawings: readonly Drawing[]) =>
  JSON.stringify(drawings.flatMap((d) => (d.kind === 'zone' && d.purpose === 'privacy' ? [d.points] : [])));
