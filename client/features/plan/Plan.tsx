// The plan of the site: cameras are put where they stand and turned to where they look; what they cover, share and miss is seen at once.

import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { levelNames, type Level } from '@nibber/core/aim';
import type { Point } from '@nibber/core/boxes';
import { blankPlan, planView, type PlanPoint, type PlanView } from '@nibber/core/plan';
import type { PlanFile } from '@nibber/core/site';
import { leastPoints, mostPoints, polygonFault } from '@nibber/core/zones';
import { Amount } from '../../ui/Amount';
import { capital } from '../../ui/capital';
import { Field } from '../../ui/Field';
import { Attention, Button, Row, Sheet } from '../../ui/Surface';
import { useIsWide } from '../../ui/look';
import { Words } from '../../ui/Words';
import { troubleWords } from '../api/api';
import { pickFile } from '../api/files';
import type { CameraAnswer } from '../api/types';
import { levelWords } from '../aim/words';
import { usePlanPictureMutation, usePlanQuery, useSetPlanMutation, type Place } from './api';
import { PlanDrawing } from './PlanDrawing';

/** `version`: of the site that it was made from. */
type Draft = { readonly plan: PlanFile; readonly places: readonly Place[]; readonly version: number };
const shownLevels: readonly Level[] = levelNames.filter((l) => l !== 'inspect' && l !== 'monitor');

export function Plan({ cameras, mayEdit }: { cameras: readonly CameraAnswer[]; mayEdit: boolean }) {
  const isWide = useIsWide();
  const { data } = usePlanQuery();
  const saved = useMemo(
    (): Draft => ({ plan: data?.plan ?? blankPlan, places: placesOf(cameras), version: data?.version ?? 0 }),
    [data, cameras],
  );
  const [past, setPast] = useState<readonly Draft[]>([]);
  const [draft, setDraft] = useState<Draft>();
  const [chosen, setChosen] = useState<string>();
  const [outline, setOutline] = useState<readonly Point[]>();
  const [level, setLevel] = useState<Level>('detect');
  const [isNight, setNight] = useState(false);
  const [save, saving] = useSetPlanMutation();
  const now = draft ?? saved;
  const { plan, places } = now;
  const view = useMemo(() => planView(plan, cameras.map((c) => placedAs(c, places)), level, isNight), [plan, cameras, places, level, isNight]); // prettier-ignore
  if (!data) return null;
  const change = (next: Draft, isOneDrag = false) => {
    if (!isOneDrag) setPast([...past, now]);
    setDraft(next);
  };
  const undo = () => {
    setDraft(past.at(-1));
    setPast(past.slice(0, -1));
  };
  const own = places.find((c) => c.camera === chosen);
  const move = (place: Place, isOneDrag: boolean) =>
    change({ ...now, places: [...places.filter((c) => c.camera !== place.camera), place] }, isOneDrag);
  const touch = (at: PlanPoint, isFirst: boolean) => {
    if (!mayEdit) return;
    if (outline) {
      if (isFirst && outline.length < mostPoints) setOutline([...outline, [at[0] / plan.widthMetres, 1 - at[1] / plan.heightMetres]]);
      return;
    }
    const target = isFirst ? (nearest(view, at, plan.widthMetres / 14) ?? chosen) : chosen;
    if (!target || !cameras.find((c) => c.id === target)?.aim) return;
    setChosen(target);
    const known = places.find((c) => c.camera === target);
    // A first touch on a camera only chooses it; dragging moves it, and so does touching where another place is.
    if (isFirst && known && target !== chosen) return;
    move({ camera: target, headingDegrees: known?.headingDegrees ?? 0, east: tenth(at[0]), north: tenth(at[1]) }, !isFirst);
  };
  const keep = async () => {
    if ('error' in (await save({ plan, places: [...places], version: now.version }))) return;
    setDraft(undefined);
    setPast([]);
  };
  const controls = (
    <View style={{ width: isWide ? 380 : '100%', gap: 12 }}>
      <Findings view={view} cameras={cameras} level={level} isNight={isNight} />
      {mayEdit && own && (
        <Sheet>
          <Words bold heading={2}>
            {cameras.find((c) => c.id === chosen)?.name ?? ''}
          </Words>
          <Words size="small" tone="second">{`Drag it on the plan. ${own.east} m from the left, ${own.north} m from below.`}</Words>
          <Amount
            name="Looks towards"
            says="clockwise from the plan’s up"
            value={own.headingDegrees}
            shown={`${own.headingDegrees}°`}
            least={0}
            most={359}
            step={1}
            put={(headingDegrees) => move({ ...own, headingDegrees }, true)}
            testID="plan-heading"
          />
          <Row>
            <Button
              words="Take it off the plan"
              onPress={() => (change({ ...now, places: places.filter((c) => c !== own) }), setChosen(undefined))}
            />
          </Row>
        </Sheet>
      )}
      {mayEdit && view.unplaced.length > 0 && (
        <Sheet>
          <Words bold heading={2}>
            Not on the plan yet
          </Words>
          <Row>
            {view.unplaced.map((c) =>
              c.lacks === 'place' ? (
                <Button key={c.id} words={c.name} pressed={c.id === chosen} onPress={() => setChosen(c.id)} testID={`place-${c.id}`} />
              ) : null,
            )}
          </Row>
          {view.unplaced.some((c) => c.lacks === 'aim') && (
            <Words size="small" tone="second">
              {`How they stand is not known: ${view.unplaced.flatMap((c) => (c.lacks === 'aim' ? [c.name] : [])).join(', ')}. Aim them first, on their own pages.`}
            </Words>
          )}
          {chosen && !own && <Words>Now touch the plan where it stands.</Words>}
        </Sheet>
      )}
      {mayEdit && <Ground now={now} change={change} outline={outline} setOutline={setOutline} />}
      {saving.isError && <Attention words={troubleWords(saving.error) ?? ''} />}
      {mayEdit && (
        <Row style={{ justifyContent: 'flex-end' }}>
          <Button glyph="undo" label="Undo" disabled={past.length === 0} onPress={undo} testID="plan-undo" />
          <Button words="Leave as it was" disabled={!draft} onPress={() => (setDraft(undefined), setPast([]))} />
          <Button
            words="Keep"
            label="Keep the plan"
            main
            disabled={!draft || saving.isLoading}
            onPress={() => void keep()}
            testID="keep-plan"
          />
        </Row>
      )}
    </View>
  );
  return (
    <View style={{ flexDirection: isWide ? 'row' : 'column', gap: 16 }}>
      <View style={{ flex: isWide ? 1 : undefined, gap: 8 }}>
        <PlanDrawing plan={plan} view={view} chosen={chosen} outline={outline} touch={touch} />
        <Row>
          {shownLevels.map((l) => (
            <Button key={l} words={capital(levelWords[l])} pressed={l === level} onPress={() => setLevel(l)} testID={`plan-${l}`} />
          ))}
          <Button words="By night" pressed={isNight} onPress={() => setNight(!isNight)} testID="plan-night" />
        </Row>
      </View>
      {controls}
    </View>
  );
}

function Findings({ view, cameras, level, isNight }: { view: PlanView; cameras: readonly CameraAnswer[]; level: Level; isNight: boolean }) {
  const name = (id: string) => cameras.find((c) => c.id === id)?.name ?? id;
  const task = `${levelWords[level].toLowerCase()} somebody${isNight ? ' by night' : ' by day'}`;
  return (
    <Sheet>
      <Words bold heading={2} testID="plan-covered">
        {`${Math.round(view.coveredShare * 100)} % covered, to ${task}`}
      </Words>
      <Words>{view.gapSquareMetres < 1 ? 'No gaps.' : `${Math.round(view.gapSquareMetres)} m² nobody covers: they are shaded.`}</Words>
      {view.overlaps.map((o) => (
        <Words key={o.cameras.join()} size="small" tone="second">
          {`${name(o.cameras[0])} and ${name(o.cameras[1])} share ${Math.round(o.squareMetres)} m².`}
        </Words>
      ))}
    </Sheet>
  );
}

/** The ground itself: its picture, its size, and what of it should be covered. */
function Ground({
  now,
  change,
  outline,
  setOutline,
}: {
  now: Draft;
  change: (next: Draft) => void;
  outline: readonly Point[] | undefined;
  setOutline: (points: readonly Point[] | undefined) => void;
}) {
  // prettier-ignore
  const { plan } = now;
  const [width, setWidth] = useState<string>();
  const [upload, uploading] = usePlanPictureMutation();
  const set = (next: Partial<PlanFile>) => change({ ...now, plan: { ...plan, ...next } });
  const setMetres = (text: string) => {
    setWidth(text);
    const metres = Number(text.replace(',', '.'));
    if (metres > 0 && metres <= 10_000) set({ widthMetres: metres, heightMetres: tenth((metres * plan.heightMetres) / plan.widthMetres) });
  };
  const choose = async () => {
    const file = await pickFile('image/*');
    if (!file) return;
    const { data } = await upload(file);
    if (data) set({ picture: data.picture, heightMetres: tenth((plan.widthMetres * data.height) / data.width) });
  };
  const isWhole = outline !== undefined && outline.length >= leastPoints && polygonFault(outline) === undefined;
  const drawn = () => {
    set({ covers: outline!.map((q) => q.map((v) => Math.round(v * 1000) / 1000)) as never });
    setOutline(undefined);
  };
  const everything = () => {
    const { covers: _covers, ...rest } = plan;
    change({ ...now, plan: rest });
  };
  return (
    <Sheet>
      <Words bold heading={2}>
        The ground
      </Words>
      <Field
        label="Width of the plan, m"
        value={width ?? String(plan.widthMetres)}
        onChangeText={setMetres}
        inputMode="decimal"
        testID="plan-width"
      />
      <Row>
        <Button
          words={plan.picture ? 'Another picture' : 'Put a picture under it'}
          disabled={uploading.isLoading}
          onPress={() => void choose()}
          testID="plan-picture"
        />
        {plan.picture !== undefined && (
          <Button
            words="Without a picture"
            onPress={() => {
              const { picture: _p, ...rest } = plan;
              change({ ...now, plan: rest });
            }}
          />
        )}
      </Row>
      {uploading.isError && <Attention words={troubleWords(uploading.error) ?? ''} />}
      {outline ? (
        <>
          <Words tone="second">{`Touch the plan at the corners of what should be covered: ${outline.length} so far.`}</Words>
          {outline.length >= leastPoints && !isWhole && <Words tone="attentionInk">Its edges cross.</Words>}
          <Row>
            <Button words="That is it" main disabled={!isWhole} onPress={drawn} testID="covers-done" />
            <Button
              glyph="undo"
              label="Without the last corner"
              disabled={outline.length === 0}
              onPress={() => setOutline(outline.slice(0, -1))}
            />
            <Button words="Leave it" onPress={() => setOutline(undefined)} />
          </Row>
        </>
      ) : (
        <Row>
          <Button words="Draw what should be covered" onPress={() => setOutline([])} testID="draw-covers" />
          {plan.covers && <Button words="All of the plan" onPress={everything} />}
        </Row>
      )}
    </Sheet>
  );
}

const tenth = (v: number) => Math.round(v * 10) / 10;

const placesOf = (cameras: readonly CameraAnswer[]): Place[] =>
  cameras.flatMap(({ id, aim }) => (aim?.east === undefined || aim.north === undefined ? [] : [{ camera: id, east: aim.east, north: aim.north, headingDegrees: aim.headingDegrees ?? 0 }])); // prettier-ignore

/** A camera as it stands in the draft. */
function placedAs({ id, name, aim }: CameraAnswer, places: readonly Place[]) {
  if (!aim) return { id, name };
  const { east: _east, north: _north, ...rest } = aim;
  const place = places.find((c) => c.camera === id);
  return { id, name, aim: place ? { ...rest, east: place.east, north: place.north, headingDegrees: place.headingDegrees } : rest };
}

/** The camera that a finger means. */
const nearest = ({ placed }: PlanView, [east, north]: PlanPoint, within: number): string | undefined =>
  placed
    .map((c) => ({ id: c.id, far: Math.hypot(c.at[0] - east, c.at[1] - north) }))
    .filter((c) => c.far <= within)
    .sort((a, b) => a.far - b.far)[0]?.id;
