// A camera's newest picture with what is in it; a touch opens the camera.

import { useRouter } from 'expo-router';
import { View } from 'react-native';
import { BoxMark } from '../../picture/drawings';
import { RecentPicture } from '../../picture/Picture';
import { Touch } from '../../ui/Touch';
import { Words } from '../../ui/Words';
import { useSeen } from '../../state/useSeen';
import type { CameraAnswer } from '../../state/api/types';
import { texts } from './words';

export function CameraTile({ camera }: { camera: CameraAnswer }) {
  const router = useRouter();
  const tracks = useSeen(camera.id);
  const seen = tracks.map((t) => t.type ?? t.class);
  const words = `${camera.name}: ${stateWords(camera, seen)}`;
  return (
    <Touch press={() => router.navigate(`/cameras/${camera.id}`)} role="link" testID={`camera-${camera.id}`} style={{ gap: 4 }}>
      <RecentPicture camera={camera.id} isThere={camera.hasPicture} words={words}>
        {tracks.map((t) => (
          <BoxMark key={t.key} box={t.box} cls={t.class} opacity={t.opacity} />
        ))}
      </RecentPicture>
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', paddingHorizontal: 2 }}>
        <Words bold>{camera.name}</Words>
        <Words tone={camera.health?.state === 'silent' ? 'attentionInk' : 'second'} size="small">
          {stateWords(camera, seen)}
        </Words>
      </View>
    </Touch>
  );
}

function stateWords(camera: CameraAnswer, seen: readonly string[]): string {
  if (camera.health?.state === 'silent') return 'silent';
  if (seen.length) return seen.join(', ');
  return camera.kind === 'paired' ? texts.latestSnapshot : texts.noMotion;
}
