// One camera: its live picture with everything drawn on it, how it does, and reshaping its zones.

import { useRouter } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { Loading } from '../shell/Loading';
import { Columns } from '../../ui/Columns';
import { Attention, Button, Card, Empty, Page, Row } from '../../ui/Surface';
import { useIsWide } from '../../ui/theme';
import { Words } from '../../ui/Words';
import { useCamerasQuery } from '../../state/api';
import { every } from '../../state/api/every';
import { AimCamera } from '../aim/AimCamera';
import { drawing } from '../../state/drawing';
import { useAppSelector } from '../../state/store';
import type { CameraAnswer } from '../../state/api/types';
import { Capabilities } from '../camera-settings/Capabilities';
import { Chain } from '../camera-settings/Chain';
import { Latest } from '../camera-settings/Latest';
import { Pairing } from '../camera-settings/Pairing';
import { CommissioningList, type StepLinks } from '../commissioning/CommissioningList';
import { Settings } from '../camera-settings/Settings';
import { Draw } from '../draw/Draw';
import { Tune } from '../tune/Tune';
import { OlderPictures } from '../draw/OlderPictures';
import { Behind, LiveCamera } from './LiveCamera';
import { LiveStream } from './LiveStream';
import { takeNewest } from './takePicture';
import { useMaySetUp } from '../session/may';
import { texts } from './words';

const purposes = { watch: 'watched', ignore: texts.ignoredArea, privacy: texts.privacyMask } as const;

/** @param isDrawn it opens on drawing */
export function CameraScreen({ id, isDrawn = false }: { id: string; isDrawn?: boolean }) {
  const router = useRouter();
  const mayEdit = useMaySetUp();
  const asked = useCamerasQuery(undefined, every(5000));
  const { data: cameras } = asked;
  const hasDraft = useAppSelector((s) => drawing.draftOf(s.drawing, id)?.canUndo ?? false);
  const isTuned = useAppSelector((s) => s.tuningDraft.draft?.camera === id);
  const [doing, setDoing] = useState<'looking' | 'drawing' | 'aiming' | 'tuning'>(
    hasDraft || isDrawn ? 'drawing' : isTuned ? 'tuning' : 'looking',
  );
  const [hasNewMask, setNewMask] = useState(false);
  const [isHeard, setHeard] = useState(false);
  const isWide = useIsWide();
  const camera = cameras?.find((c) => c.id === id);
  if (!cameras) return <Loading of={[asked]} />;
  if (!camera) return <Page>{<Empty words={texts.cameraNotFound} next={texts.goBackToCameras} />}</Page>;
  const unwell = (camera.says ?? []).flatMap((s) => (s.isActive && s.words ? [s.words] : []));
  // On a wide page these stand below the picture, on a phone at the end.
  const rest = (
    <>
      {mayEdit && <Settings key={camera.id} camera={camera} />}
      <Health camera={camera} />
    </>
  );
  const places: StepLinks = {
    aim: { testID: 'aim', go: () => setDoing('aiming') },
    zones: { testID: 'reshape', go: () => setDoing('drawing') },
    sensitivity: { testID: 'tune', go: () => setDoing('tuning') },
    rule: { testID: 'to-rules', go: () => router.navigate('/rules') },
    'walk test': { testID: 'walk', go: () => router.navigate(`/rules/walk?camera=${camera.id}`) },
  };
  return (
    <Page>
      <Row style={{ justifyContent: 'space-between' }}>
        <Row>
          <Button glyph="back" label={texts.cameras} onPress={() => router.navigate('/cameras')} />
          <Words size="title" bold heading={1}>
            {camera.name}
          </Words>
        </Row>
      </Row>
      {camera.health?.state === 'silent' && <Attention words={texts.isSilentItCannotSend(camera.name, camera.health.problem ?? '')} />}
      {unwell.length > 0 && <Attention words={texts.reportsThatItMayMiss(camera.name, unwell.join(texts.andThat))} />}
      {hasNewMask && doing === 'looking' && <OlderPictures camera={camera} done={() => setNewMask(false)} />}
      {doing === 'aiming' ? (
        <AimCamera camera={camera} done={() => setDoing('looking')} />
      ) : doing === 'tuning' ? (
        <Tune camera={camera} done={() => setDoing('looking')} />
      ) : doing === 'drawing' ? (
        <Draw camera={camera} done={(masksChanged) => (setDoing('looking'), setNewMask(masksChanged))} />
      ) : (
        <Columns
          main={
            <>
              {camera.kind === 'paired' ? (
                <Latest camera={camera} />
              ) : isHeard ? (
                <LiveStream camera={camera} close={() => setHeard(false)} />
              ) : (
                <>
                  <LiveCamera camera={camera} />
                  <Row>
                    {camera.live.length > 0 && (
                      <Button words={texts.watchWithSound} glyph="play" onPress={() => setHeard(true)} testID="live-open" />
                    )}
                    <Button words={texts.takeAPicture} onPress={() => void takeNewest(camera.id, camera.name)} testID="take-picture" />
                    <Behind camera={camera.id} />
                  </Row>
                </>
              )}
              {isWide && rest}
            </>
          }
          side={
            <>
              {mayEdit && <CommissioningList camera={camera.id} places={places} />}
              {camera.kind === 'paired' && mayEdit && <Pairing camera={camera.id} />}
              <Chain camera={camera} mayEdit={mayEdit} />
              <DrawnList camera={camera} />
              <Capabilities camera={camera} mayEdit={mayEdit} />
              {!isWide && rest}
            </>
          }
        />
      )}
    </Page>
  );
}

function DrawnList({ camera }: { camera: CameraAnswer }) {
  return (
    <Card>
      <Words bold heading={2}>
        {texts.zonesAndLines}
      </Words>
      {camera.zones.length + (camera.lines?.length ?? 0) === 0 && <Words tone="second">{texts.nothingYet}</Words>}
      {(camera.lines ?? []).map((l) => (
        <View key={l.id} style={{ flexDirection: 'row', justifyContent: 'space-between' }}>
          <Words>{l.name}</Words>
          <Words tone="second" size="small">
            {texts.line}
          </Words>
        </View>
      ))}
      {camera.zones.map((z) => (
        <View key={z.id} style={{ flexDirection: 'row', justifyContent: 'space-between' }}>
          <Words>{z.name}</Words>
          <Words tone="second" size="small">
            {purposes[z.purpose]}
            {z.classes ? texts.forLabel(z.classes.join(', ')) : ''}
          </Words>
        </View>
      ))}
    </Card>
  );
}

function Health({ camera }: { camera: CameraAnswer }) {
  const h = camera.health;
  if (!h) return null;
  const lines: [string, string][] = [
    [texts.framesPerSecond, String(h.picturesASecond)],
    [texts.framesReceived, String(h.framesReceived)],
    [texts.framesAnalysed, String(h.framesAnalysed)],
    [texts.framesSkippedBusy, String(h.dropped)],
    [texts.analysedAt, h.input ? `${h.input.width} × ${h.input.height}` : '–'],
    [texts.timePerAnalysis, h.framesAnalysed ? `${Math.round(h.analysisMs / h.framesAnalysed)} ms` : '–'],
  ];
  return (
    <Card>
      <Words bold heading={2}>
        {texts.performance}
      </Words>
      {lines.map(([name, value]) => (
        <View key={name} style={{ flexDirection: 'row', justifyContent: 'space-between' }}>
          <Words tone="second">{name}</Words>
          <Words>{value}</Words>
        </View>
      ))}
    </Card>
  );
}
