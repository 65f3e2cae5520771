// The newest picture of a camera that sleeps, and asking it for a fresh one.

import { useState } from 'react';
import { View } from 'react-native';
import { ActivityIndicator } from 'react-native-paper';
import { drawnZone, ZoneShape } from '../../picture/drawings';
import { RecentPicture } from '../../picture/Picture';
import { Attention, Button, Row } from '../../ui/Surface';
import { usePalette } from '../../ui/theme';
import { ago } from '../../ui/times';
import { Words } from '../../ui/Words';
import { problemWords, useSiteQuery } from '../../state/api';
import type { CameraAnswer } from '../../state/api/types';
import { useNow } from '../../state/useNow';
import { useFreshStillMutation } from '../../state/api/connect';
import { texts } from './words';

export function Latest({ camera }: { camera: CameraAnswer }) {
  const p = usePalette();
  const now = useNow();
  const { data: site } = useSiteQuery();
  const [ask, asking] = useFreshStillMutation();
  const [round, setRound] = useState(0);
  const zone = site?.settings.timezone ?? 'UTC';
  const go = () => void ask(camera.id).then(() => setRound(round + 1));
  const taken = asking.data;
  return (
    <View style={{ gap: 8 }}>
      <RecentPicture key={round} camera={camera.id} isThere={camera.hasPicture} words={texts.latestSnapshot(camera.name)}>
        {camera.zones.map((z) => (
          <ZoneShape key={z.id} zone={drawnZone(z)} />
        ))}
      </RecentPicture>
      <Row style={{ justifyContent: 'space-between' }}>
        <Words size="small" tone="second" style={{ flexShrink: 1 }}>
          {taken ? texts.taken(ago(taken.at, now, zone)) : texts.itSendsSnapshotsWithIts}
        </Words>
        {camera.hasStill && <Button words={texts.newSnapshot} onPress={go} disabled={asking.isLoading} testID="fresh-still" />}
      </Row>
      {asking.isLoading && (
        <Row>
          <ActivityIndicator size={16} color={p.work} />
          <Words tone="second">{texts.wakingTheCameraThisTakes}</Words>
        </Row>
      )}
      {taken && !taken.isFresh && !asking.isLoading && <Attention words={texts.noNewerSnapshotCameThe} />}
      {asking.isError && <Attention words={problemWords(asking.error) ?? ''} />}
    </View>
  );
}
