// Cameras: the wall.

import { View } from 'react-native';
import { Empty, Page, Waiting } from '../../ui/Surface';
import { useIsWide } from '../../ui/look';
import { Words } from '../../ui/Words';
import { useCamerasQuery } from '../api/api';
import { CameraTile } from '../now/CameraTile';

export function CamerasScreen() {
  const isWide = useIsWide();
  const { data: cameras } = useCamerasQuery(undefined, { pollingInterval: 15_000 });
  if (!cameras) return <Waiting words="Looking" />;
  return (
    <Page>
      <Words size="title" bold heading={1}>
        Cameras
      </Words>
      {cameras.length === 0 && <Empty words="No camera yet." next="Cameras are named in the site file; see docs/site.schema.json." />}
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
