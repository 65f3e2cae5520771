// The plan of the site: cameras are put where they stand and turned to where they look; what they cover, share and miss is seen at once.

import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { levelNames, type Level } from '@nibber/core/aim';
import type { Point } from '@nibber/core/boxes';
import { planView, type PlanPoint } from '@nibber/core/plan';
import { maxPoints } from '@nibber/core/zones';
import { Columns } from '../../ui/Columns';
import { Amount } from '../../ui/Amount';
import { capital } from '../../ui/capital';
import { OneOf } from '../../ui/Choices';
import { Footer } from '../../ui/Footer';
import { Attention, Button, Card, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { problemWords } from '../../state/api';
import type { CameraAnswer } from '../../state/api/types';
import type { Standing } from '../../state/plan';
import { LightChoice } from '../aim/LightChoice';
import { levelWords } from '../aim/words';
import { Findings } from './Findings';
import { Ground } from './Ground';
import { nearest, placedAs, pressed, tenth } from './placing';
import { PlanDrawing } from './PlanDrawing';
import { usePlanDraft } from './usePlanDraft';
import { texts } from './words';

const shownLevels: readonly Level[] = levelNames.filter((l) => l !== 'inspect' && l !== 'monitor');

export function Plan({ cameras, mayEdit }: { cameras: readonly CameraAnswer[]; mayEdit: boolean }) {
  const draft = usePlanDraft(cameras);
  const { now, change } = draft;
  const [chosen, setChosen] = useState<string>();
  const [outline, setOutline] = useState<readonly Point[]>();
  const [level, setLevel] = useState<Level>('detect');
  const [isNight, setNight] = useState(false);
  const { plan, places } = now;
  const view = useMemo(
    () =>
      planView(
        plan,
        cameras.map((c) => placedAs(c, places)),
        level,
        isNight,
      ),
    [plan, cameras, places, level, isNight],
  );
  if (!draft.isThere) return null;
  const own = places.find((c) => c.camera === chosen);
  const move = (place: Standing, isDrag: boolean) =>
    change({ ...now, places: [...places.filter((c) => c.camera !== place.camera), place] }, isDrag);
  const touch = (at: PlanPoint, isFirst: boolean) => {
    if (!mayEdit) return;
    if (isFirst) draft.startDrag();
    if (outline) {
      if (isFirst && outline.length < maxPoints) setOutline([...outline, [at[0] / plan.widthMetres, 1 - at[1] / plan.heightMetres]]);
      return;
    }
    const target = isFirst ? (nearest(view, at, plan.widthMetres / 14) ?? chosen) : chosen;
    if (!target || !cameras.find((c) => c.id === target)?.aim) return;
    setChosen(target);
    const known = places.find((c) => c.camera === target);
    // A first touch on a camera only chooses it; dragging moves it, and so does touching where another place is.
    if (isFirst && known && target !== chosen) return;
    move({ camera: target, headingDegrees: known?.headingDegrees ?? 0, east: tenth(at[0]), north: tenth(at[1]) }, true);
  };
  const press = (key: string): boolean => {
    const moved = mayEdit && own ? pressed(own, key) : undefined;
    if (moved) move(moved, false);
    return moved !== undefined;
  };
  const controls = (
    <View style={{ gap: 12 }}>
      <Findings view={view} cameras={cameras} level={level} isNight={isNight} />
      {mayEdit && places.length > 0 && (
        <OneOf
          label={texts.camerasOnThePlan}
          choices={places.map(({ camera }) => ({
            value: camera,
            words: cameras.find((c) => c.id === camera)?.name ?? camera,
            testID: `placed-${camera}`,
          }))}
          value={chosen}
          choose={setChosen}
        />
      )}
      {mayEdit && own && (
        <Card>
          <Words bold heading={2}>
            {cameras.find((c) => c.id === chosen)?.name ?? ''}
          </Words>
          <Words size="small" tone="second">
            {texts.dragItOnThePlan(own.east, own.north)}
          </Words>
          <Amount
            name={texts.direction}
            says={texts.clockwiseFromTheTopOf}
            value={own.headingDegrees}
            shown={`${own.headingDegrees}°`}
            min={0}
            max={359}
            step={1}
            put={(headingDegrees) => move({ ...own, headingDegrees }, true)}
            testID="plan-heading"
          />
          <Row>
            <Button
              words={texts.removeFromThePlan}
              onPress={() => (change({ ...now, places: places.filter((c) => c !== own) }), setChosen(undefined))}
            />
          </Row>
        </Card>
      )}
      {mayEdit && view.unplaced.length > 0 && (
        <Card>
          <Words bold heading={2}>
            {texts.notOnThePlanYet}
          </Words>
          {view.unplaced.some((c) => c.lacks === 'place') && (
            <OneOf
              label={texts.camerasNotPlaced}
              choices={view.unplaced.flatMap((c) => (c.lacks === 'place' ? [{ value: c.id, words: c.name, testID: `place-${c.id}` }] : []))}
              value={chosen}
              choose={setChosen}
            />
          )}
          {view.unplaced.some((c) => c.lacks === 'aim') && (
            <Words size="small" tone="second">
              {texts.mountingUnknownSetTheirAim(view.unplaced.flatMap((c) => (c.lacks === 'aim' ? [c.name] : [])).join(', '))}
            </Words>
          )}
          {chosen && !own && <Words>{texts.nowTapItsPositionOn}</Words>}
        </Card>
      )}
      {mayEdit && <Ground now={now} change={change} outline={outline} setOutline={setOutline} />}
      {draft.saving.isError && <Attention words={problemWords(draft.saving.error) ?? ''} />}
      {mayEdit && (
        <Row style={{ justifyContent: 'flex-end' }}>
          <Button glyph="undo" label={texts.undo} disabled={!draft.isChanged} onPress={draft.undo} testID="plan-undo" />
          <Button glyph="redo" label={texts.redo} disabled={!draft.canRedo} onPress={draft.redo} testID="plan-redo" />
          <Footer
            save={() => void draft.save()}
            canSave={draft.isChanged && !draft.saving.isLoading}
            cancel={draft.isChanged ? draft.end : undefined}
            testID="keep-plan"
          />
        </Row>
      )}
    </View>
  );
  return (
    <Columns
      main={
        <View style={{ gap: 8 }}>
          <PlanDrawing plan={plan} view={view} chosen={chosen} outline={outline} touch={touch} press={press} />
          <Row>
            <OneOf
              label={texts.requiredLevelOfDetail}
              choices={shownLevels.map((l) => ({ value: l, words: capital(levelWords[l]), testID: `plan-${l}` }))}
              value={level}
              choose={setLevel}
            />
            <LightChoice isNight={isNight} choose={setNight} testID="plan" />
          </Row>
        </View>
      }
      side={controls}
    />
  );
}
