// Cameras: the wall.

import { useRouter } from 'expo-router';
import { View } from 'react-native';
import { Button, Empty, Page, Row, Waiting } from '../../ui/Surface';
import { useIsWide } from '../../ui/look';
import { Words } from '../../ui/Words';
import { useCamerasQuery, useSessionQuery } from '../api/api';
import { PutBack } from '../camera-settings/PutBack';
import { CameraTile } from '../now/CameraTile';

export function CamerasScreen() {
  const isWide = useIsWide();
  const router = useRouter();
  const { data: session } = useSessionQuery();
  const mayEdit = session?.visitor?.role !== 'member';
  const { data: cameras } = useCamerasQuery(undefined, { pollingInterval: 15_000 });
  if (!cameras) return <Waiting words="Looking" />;
  return (
    <Page>
      <Row style={{ justifyContent: 'space-between' }}>
        <Words size="title" bold heading={1}>
          Cameras
        </Words>
        {mayEdit && (
          <Button
            glyph="add"
            words="Connect a camera"
            main={cameras.length === 0}
            onPress={() => router.navigate('/cameras/new')}
            testID="connect"
          />
        )}
      </Row>
      <PutBack />
      {cameras.length === 0 && (
        <Empty
          words="No camera yet."
          next={
            mayEdit ? 'Connect the first one; its picture is seen before anything is kept.' : 'Whoever sets the place up connects them.'
          }
        />
      )}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 16 }}>
        {cameras.map((c) => (
          <View key={c.id} style={{ width: isWide ? '48%' : '100%', minWidth: 280, flexGrow: 1 }}>
            <CameraTile camera={c} />
          </View>
        ))}
      </View>
    </Page>
  );
}
