// How a camera stands and looks, and so what it can show how far away: bands of ground on the picture, by day and by night.

import { useMemo, useState } from 'react';
import type { Control } from 'react-hook-form';
import { View } from 'react-native';
import { bandsOf, deadMetres, groundModel, levelNames, levels, reach, type Aim, type Level } from '@nibber/core/aim';
import type { Point } from '@nibber/core/boxes';
import { CameraPicture } from '../../picture/CameraPicture';
import { drawnZone, GroundBands, GroundSpot, ZoneShape } from '../../picture/drawings';
import { TouchPoint } from '../../picture/TouchPoint';
import { Columns } from '../../ui/Columns';
import { FormChoice, FormField, useForm } from '../../ui/Form';
import { Attention, Card, Row } from '../../ui/Surface';
import { Table, type Column } from '../../ui/Table';
import { capital } from '../../ui/capital';
import { Footer } from '../../ui/Footer';
import { Words } from '../../ui/Words';
import { problemWords } from '../../state/api';
import type { CameraAnswer } from '../../state/api/types';
import { useSetSettingsMutation } from '../../state/api/connect';
import { aimOf, draftOf, type AimDraft } from './aimDraft';
import { LightChoice } from './LightChoice';
import { Marks, type Mark } from './Marks';
import { texts, levelWords, metresWords, underFinger } from './words';

export function AimCamera({ camera, done }: { camera: CameraAnswer; done: () => void }) {
  const before = camera.aim as Aim | null;
  // What is set here is made from the camera as it was when this was opened.
  const [opened] = useState(camera);
  const { control, watch, setValue } = useForm<AimDraft>(draftOf(before), (filled) => {
    const result = aimOf(filled, before);
    return 'problems' in result ? result.problems : {};
  });
  const draft = watch();
  const [isNight, setNight] = useState(false);
  const [finger, setFinger] = useState<Point>();
  const [marks, setMarks] = useState<readonly Mark[]>([]);
  const [save, saving] = useSetSettingsMutation();
  const aim = useMemo(() => {
    const result = aimOf(draft, before);
    return 'aim' in result ? result.aim : undefined;
    // The form returns a new object each time.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [JSON.stringify(draft), before]);
  const take = (solved: Aim) => {
    for (const key of ['heightMetres', 'tiltDegrees'] as const)
      setValue(key, String(Math.round(solved[key] * 100) / 100), { shouldValidate: true });
  };
  const keep = async () => {
    if (aim && !('error' in (await save({ of: opened, settings: { aim: aim as never } })))) done();
  };
  const bands = useMemo(() => (aim ? bandsOf(groundModel(aim), isNight) : []), [aim, isNight]);
  return (
    <Columns
      main={
        <View style={{ gap: 8 }}>
          <CameraPicture
            camera={camera}
            words={texts.withTheRangeAtEach(camera.name)}
            over={<TouchPoint name="aim-picture" put={setFinger} />}
          >
            <GroundBands bands={bands.map((b) => ({ name: texts.to(levelWords[b.level], metresWords(b.farthest)), polygon: b.polygon }))} />
            {camera.zones.map((z) => (
              <ZoneShape key={z.id} zone={drawnZone(z)} />
            ))}
            {marks.map((m, i) => (
              <GroundSpot key={i} at={m.at} words={`${i + 1}`} />
            ))}
            {finger && <GroundSpot at={finger} words="" />}
          </CameraPicture>
          <LightChoice isNight={isNight} choose={setNight} testID="by" />
          {isNight && aim && bands.length === 0 && <Words tone="second">{texts.nothingIsDetectedAtNight}</Words>}
          {aim && finger ? (
            <View testID="under-finger">
              {underFinger(aim, finger).map((words) => (
                <Words key={words}>{words}</Words>
              ))}
            </View>
          ) : (
            <Words tone="second">{texts.tapThePictureToSee}</Words>
          )}
        </View>
      }
      side={
        <View style={{ gap: 12 }}>
          <Fields control={control} lens={draft.lens} />
          {aim && <Marks aim={aim} marks={marks} setMarks={setMarks} finger={finger} take={take} />}
          {aim && <Reach aim={aim} />}
          {saving.isError && <Attention words={problemWords(saving.error) ?? ''} />}
          <Footer save={() => void keep()} canSave={aim !== undefined && !saving.isLoading} cancel={done} testID="keep-aim" />
        </View>
      }
    />
  );
}

function Fields({ control, lens }: { control: Control<AimDraft>; lens: AimDraft['lens'] }) {
  const field = (key: Exclude<keyof AimDraft, 'lens'>, label: string) => (
    <View style={{ flex: 1, minWidth: 140 }}>
      <FormField control={control} name={key} label={label} inputMode="decimal" testID={`aim-${key}`} />
    </View>
  );
  return (
    <Card>
      <Words bold heading={2}>
        {texts.mounting}
      </Words>
      <Row>
        {field('heightMetres', texts.heightM)}
        {field('tiltDegrees', texts.tiltDown)}
      </Row>
      <Row>
        <Words tone="second">{texts.lensBy}</Words>
        <FormChoice
          control={control}
          name="lens"
          label={texts.lensBy}
          choices={[
            { value: 'angle', words: texts.angle },
            { value: 'focal', words: texts.focalLength },
          ]}
        />
      </Row>
      {lens === 'angle' ? (
        <Row>{field('horizontalDegrees', texts.fieldOfView)}</Row>
      ) : (
        <Row>
          {field('focalMillimetres', texts.focalLengthMm)}
          {field('sensorWidthMillimetres', texts.sensorWidthMm)}
        </Row>
      )}
      <Row>
        {field('pictureWidth', texts.pictureWidthPx)}
        {field('pictureHeight', texts.pictureHeightPx)}
      </Row>
      <Row>
        {field('infraredMetres', texts.infraredM)}
        {field('lampMetres', texts.lampM)}
      </Row>
    </Card>
  );
}

/** How far each level reaches, as a table; and the ground no one sees. */
function Reach({ aim }: { aim: Aim }) {
  const hasLight = aim.infraredMetres !== undefined || aim.lampMetres !== undefined;
  const dead = deadMetres(groundModel(aim));
  const metres = (level: Level, isNight: boolean) => (isNight && !hasLight ? '–' : metresWords(reach(aim, level, isNight)));
  const columns: readonly Column<Level>[] = [
    { id: 'level', name: texts.pxM, words: (l) => `${capital(levelWords[l])}, ${levels[l]}`, by: (l) => levels[l] },
    { id: 'day', name: texts.byDay, width: 72, isFigure: true, words: (l) => metres(l, false), by: (l) => reach(aim, l, false) },
    {
      id: 'night',
      name: texts.byNight,
      width: 80,
      isFigure: true,
      words: (l) => metres(l, true),
      by: (l) => (hasLight ? reach(aim, l, true) : 0),
    },
  ];
  return (
    <Card>
      <Words bold heading={2}>
        {texts.range}
      </Words>
      <View style={{ marginHorizontal: -16 }}>
        <Table
          label={texts.range}
          columns={columns}
          rows={levelNames}
          keyOf={(l) => l}
          start={{ by: 'level', down: false }}
          press={() => false}
        />
      </View>
      <Words size="small" tone="second">
        {Number.isFinite(dead) ? texts.theGroundCloserThanIs(metresWords(dead)) : texts.noGroundInView}
      </Words>
    </Card>
  );
}
