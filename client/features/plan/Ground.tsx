// The ground that the plan shows: its picture, its size, and what of it should be covered.

import { useState } from 'react';
import type { Point } from '@nibber/core/boxes';
import type { PlanFile } from '@nibber/core/site';
import { minPoints, polygonProblem } from '@nibber/core/zones';
import { Field } from '../../ui/Field';
import { Attention, Button, Card, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { problemWords } from '../../state/api';
import { pickFile } from '../../state/api/files';
import { usePlanPictureMutation } from '../../state/api/plan';
import type { PlanContent } from '../../state/plan';
import { tenth } from './placing';
import { texts } from './words';

export function Ground({
  now,
  change,
  outline,
  setOutline,
}: {
  now: PlanContent;
  change: (next: PlanContent) => void;
  outline: readonly Point[] | undefined;
  setOutline: (points: readonly Point[] | undefined) => void;
}) {
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
  const isWhole = outline !== undefined && outline.length >= minPoints && polygonProblem(outline) === undefined;
  const drawn = () => {
    set({ covers: outline!.map((q) => q.map((v) => Math.round(v * 1000) / 1000)) as never });
    setOutline(undefined);
  };
  const everything = () => {
    const { covers: _covers, ...rest } = plan;
    change({ ...now, plan: rest });
  };
  return (
    <Card>
      <Words bold heading={2}>
        {texts.theGround}
      </Words>
      <Field
        label={texts.widthOfThePlanM}
        value={width ?? String(plan.widthMetres)}
        onChangeText={setMetres}
        inputMode="decimal"
        testID="plan-width"
      />
      <Row>
        <Button
          words={plan.picture ? texts.changePicture : texts.addABackgroundPicture}
          disabled={uploading.isLoading}
          onPress={() => void choose()}
          testID="plan-picture"
        />
        {plan.picture !== undefined && (
          <Button
            words={texts.removePicture}
            onPress={() => {
              const { picture: _p, ...rest } = plan;
              change({ ...now, plan: rest });
            }}
          />
        )}
      </Row>
      {uploading.isError && <Attention words={problemWords(uploading.error) ?? ''} />}
      {outline ? (
        <>
          <Words tone="second">{texts.tapTheCornersOfThe(outline.length)}</Words>
          {outline.length >= minPoints && !isWhole && <Words tone="attentionInk">{texts.theEdgesCross}</Words>}
          <Row>
            <Button words={texts.finish} main disabled={!isWhole} onPress={drawn} testID="covers-done" />
            <Button
              glyph="undo"
              label={texts.removeLastCorner}
              disabled={outline.length === 0}
              onPress={() => setOutline(outline.slice(0, -1))}
            />
            <Button words={texts.cancel} onPress={() => setOutline(undefined)} />
          </Row>
        </>
      ) : (
        <Row>
          <Button words={texts.drawAreaToCover} onPress={() => setOutline([])} testID="draw-covers" />
          {plan.covers && <Button words={texts.wholePlan} onPress={everything} />}
        </Row>
      )}
    </Card>
  );
}
