// How a camera stands and looks, and so what it can show how far away: bands of ground on the picture, by day and by night.

import { useMemo, useState } from 'react';
import { View, type GestureResponderEvent } from 'react-native';
import { bandsOf, deadMetres, groundModel, levelNames, levels, reach, type Aim } from '@nibber/core/aim';
import type { Point } from '@nibber/core/boxes';
import { CameraPicture } from '../../picture/CameraPicture';
import { drawnZone, GroundBands, GroundSpot, ZoneShape } from '../../picture/drawings';
import { Field } from '../../ui/Field';
import { Attention, Button, Row, Sheet } from '../../ui/Surface';
import { useIsWide, usePalette } from '../../ui/look';
import { Words } from '../../ui/Words';
import { troubleWords } from '../api/api';
import type { CameraAnswer } from '../api/types';
import { useSetSettingsMutation } from '../connect/api';
import { aimOf, draftOf, type AimDraft } from './aimDraft';
import { Marks, type Mark } from './Marks';
import { levelWords, metresWords, underFinger } from './words';

export function AimCamera({ camera, done }: { camera: CameraAnswer; done: () => void }) {
  const isWide = useIsWide();
  const before = camera.aim as Aim | null;
  // What is set here is made from the camera as it was when this was opened.
  const [opened] = useState(camera);
  const [draft, setDraft] = useState<AimDraft>(() => draftOf(before));
  const [isNight, setNight] = useState(false);
  const [finger, setFinger] = useState<Point>();
  const [marks, setMarks] = useState<readonly Mark[]>([]);
  const [save, saving] = useSetSettingsMutation();
  const result = useMemo(() => aimOf(draft, before), [draft, before]);
  const aim = 'aim' in result ? result.aim : undefined;
  const set = (change: Partial<AimDraft>) => setDraft({ ...draft, ...change });
  const keep = async () => {
    if (aim && !('error' in (await save({ of: opened, settings: { aim: aim as never } })))) done();
  };
  const bands = useMemo(() => (aim ? bandsOf(groundModel(aim), isNight) : []), [aim, isNight]);
  return (
    <View style={{ flexDirection: isWide ? 'row' : 'column', gap: 16 }}>
      <View style={{ flex: isWide ? 1 : undefined, gap: 8 }}>
        <CameraPicture camera={camera} words={`${camera.name}, with what can be seen how far away`} over={<Touch put={setFinger} />}>
          <GroundBands bands={bands.map((b) => ({ name: `${levelWords[b.level]} to ${metresWords(b.farthest)}`, polygon: b.polygon }))} />
          {camera.zones.map((z) => (
            <ZoneShape key={z.id} zone={drawnZone(z)} />
          ))}
          {marks.map((m, i) => (
            <GroundSpot key={i} at={m.at} words={`${i + 1}`} />
          ))}
          {finger && <GroundSpot at={finger} words="" />}
        </CameraPicture>
        <Row>
          <Button words="By day" pressed={!isNight} onPress={() => setNight(false)} />
          <Button words="By night" pressed={isNight} onPress={() => setNight(true)} testID="by-night" />
        </Row>
        {isNight && aim && bands.length === 0 && (
          <Words tone="second">Without its infrared light or a lamp there, nothing is seen by night. Say how far the light reaches.</Words>
        )}
        {aim && finger ? (
          <View testID="under-finger">
            {underFinger(aim, finger).map((words) => (
              <Words key={words}>{words}</Words>
            ))}
          </View>
        ) : (
          <Words tone="second">Touch the picture to see how far away a place is, and what can be made out there.</Words>
        )}
      </View>
      <View style={{ width: isWide ? 380 : '100%', gap: 12 }}>
        <Fields draft={draft} set={set} />
        {'missing' in result && <Words tone="attentionInk">{result.missing}</Words>}
        {aim && (
          <Marks
            aim={aim}
            marks={marks}
            setMarks={setMarks}
            finger={finger}
            take={(solved) => set({ heightMetres: fixed(solved.heightMetres), tiltDegrees: fixed(solved.tiltDegrees) })}
          />
        )}
        {aim && <Reach aim={aim} />}
        {saving.isError && <Attention words={troubleWords(saving.error) ?? ''} />}
        <Row style={{ justifyContent: 'flex-end' }}>
          <Button words="Leave" onPress={done} />
          <Button
            words="Keep"
            label="Keep the aim"
            main
            disabled={!aim || saving.isLoading}
            onPress={() => void keep()}
            testID="keep-aim"
          />
        </Row>
      </View>
    </View>
  );
}

const fixed = (v: number) => String(Math.round(v * 100) / 100);

/** Where the picture is touched, or where the mouse is. */
function Touch({ put }: { put: (point: Point) => void }) {
  const [size, setSize] = useState({ width: 1, height: 1 });
  const at = ({ nativeEvent: e }: GestureResponderEvent) =>
    put([Math.min(1, Math.max(0, e.locationX / size.width)), Math.min(1, Math.max(0, e.locationY / size.height))]);
  return (
    <View
      testID="aim-picture"
      role="img"
      aria-label="Touch to measure"
      onLayout={({ nativeEvent: { layout } }) => setSize(layout)}
      onStartShouldSetResponder={() => true}
      onResponderGrant={at}
      onResponderMove={at}
      style={{ position: 'absolute', inset: 0, cursor: 'crosshair', touchAction: 'none' } as object}
    />
  );
}

function Fields({ draft, set }: { draft: AimDraft; set: (change: Partial<AimDraft>) => void }) {
  const field = (key: Exclude<keyof AimDraft, 'lens'>, label: string) => (
    <View style={{ flex: 1, minWidth: 140 }}>
      <Field label={label} value={draft[key]} onChangeText={(v) => set({ [key]: v })} inputMode="decimal" testID={`aim-${key}`} />
    </View>
  );
  return (
    <Sheet>
      <Words bold heading={2}>
        How it stands
      </Words>
      <Row>
        {field('heightMetres', 'Height, m')}
        {field('tiltDegrees', 'Looks down, °')}
      </Row>
      <Row>
        <Words tone="second">Lens by</Words>
        <Button words="angle" pressed={draft.lens === 'angle'} onPress={() => set({ lens: 'angle' })} />
        <Button words="focal length" pressed={draft.lens === 'focal'} onPress={() => set({ lens: 'focal' })} />
      </Row>
      {draft.lens === 'angle' ? (
        <Row>{field('horizontalDegrees', 'Sees across, °')}</Row>
      ) : (
        <Row>
          {field('focalMillimetres', 'Focal length, mm')}
          {field('sensorWidthMillimetres', 'Sensor width, mm')}
        </Row>
      )}
      <Row>
        {field('pictureWidth', 'Picture width, px')}
        {field('pictureHeight', 'Picture height, px')}
      </Row>
      <Row>
        {field('infraredMetres', 'Infrared, m')}
        {field('lampMetres', 'Lamp, m')}
      </Row>
    </Sheet>
  );
}

/** How far each level reaches, as a table; and the ground nobody sees. */
function Reach({ aim }: { aim: Aim }) {
  const p = usePalette();
  const hasLight = aim.infraredMetres !== undefined || aim.lampMetres !== undefined;
  const dead = deadMetres(groundModel(aim));
  const cell = { width: 72, textAlign: 'right' } as const;
  return (
    <Sheet>
      <Words bold heading={2}>
        How far it reaches
      </Words>
      <Row style={{ flexWrap: 'nowrap' }}>
        <Words size="small" tone="second" style={{ flex: 1 }}>
          px/m
        </Words>
        <Words size="small" tone="second" style={cell}>
          by day
        </Words>
        <Words size="small" tone="second" style={cell}>
          by night
        </Words>
      </Row>
      {levelNames.map((level) => (
        <Row key={level} style={{ flexWrap: 'nowrap', borderTopWidth: 1, borderTopColor: p.rule }}>
          <Words style={{ flex: 1 }}>{`${levelWords[level]}, ${levels[level]}`}</Words>
          <Words style={cell}>{metresWords(reach(aim, level, false))}</Words>
          <Words style={cell}>{hasLight ? metresWords(reach(aim, level, true)) : '–'}</Words>
        </Row>
      ))}
      <Words size="small" tone="second">
        {Number.isFinite(dead) ? `Nearer than ${metresWords(dead)} it sees no ground.` : 'Its picture shows no ground.'}
      </Words>
    </Sheet>
  );
}
