// A camera's newest picture with what is in it; a touch opens the camera.

import { useRouter } from 'expo-router';
import { Pressable, View } from 'react-native';
import { BoxMark } from '../../picture/drawings';
import { RecentPicture } from '../../picture/Picture';
import { Words } from '../../ui/Words';
import { useAppSelector } from '../api/store';
import type { CameraAnswer } from '../api/types';

const nothing: never[] = [];

export function CameraTile({ camera }: { camera: CameraAnswer }) {
  const router = useRouter();
  const tracks = useAppSelector((s) => s.seen.tracks[camera.id] ?? nothing);
  const seen = tracks.map((t) => t.type ?? t.class);
  const words = `${camera.name}: ${seen.length ? seen.join(', ') : 'nothing moving'}`;
  return (
    <Pressable
      onPress={() => router.navigate(`/cameras/${camera.id}`)}
      role="link"
      aria-label={words}
      testID={`camera-${camera.id}`}
      style={{ gap: 4 }}
    >
      <RecentPicture camera={camera.id} words={words}>
        {tracks.map((t) => (
          <BoxMark key={t.key} box={t.box} cls={t.class} />
        ))}
      </RecentPicture>
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', paddingHorizontal: 2 }}>
        <Words bold>{camera.name}</Words>
        <Words tone={camera.health?.state === 'silent' ? 'attentionInk' : 'second'} size="small">
          {camera.health?.state === 'silent' ? 'silent' : seen.length ? seen.join(', ') : 'nothing moving'}
        </Words>
      </View>
    </Pressable>
  );
}
