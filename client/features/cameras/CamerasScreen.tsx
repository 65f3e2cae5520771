// Cameras: the wall of their pictures, the plan they stand on, and what is open before all are in service.

import { useRouter } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { Loading } from '../shell/Loading';
import { Button, Empty, Page, Row } from '../../ui/Surface';
import { useIsWide } from '../../ui/theme';
import { OneOf } from '../../ui/Choices';
import { Words } from '../../ui/Words';
import { useCamerasQuery, useSessionQuery } from '../../state/api';
import { PutBack } from '../camera-settings/PutBack';
import { ToFinish } from '../commissioning/ToFinish';
import { Plan } from '../plan/Plan';
import { CameraTile } from '../now/CameraTile';

export function CamerasScreen() {
  const isWide = useIsWide();
  const router = useRouter();
  const { data: session } = useSessionQuery();
  const mayEdit = session?.visitor?.role !== 'member';
  const asked = useCamerasQuery(undefined, { pollingInterval: 15_000 });
  const { data: cameras } = asked;
  const [view, setView] = useState<'wall' | 'plan' | 'to finish'>('wall');
  if (!cameras) return <Loading words="Looking" of={[asked]} />;
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
      {cameras.length > 0 && (
        <OneOf
          label="How the cameras are shown"
          choices={[
            { value: 'wall', words: 'Wall', testID: 'cameras-wall' },
            { value: 'plan', words: 'Plan', testID: 'cameras-plan' },
            ...(mayEdit ? [{ value: 'to finish', words: 'To finish', testID: 'cameras-to-finish' } as const] : []),
          ]}
          value={view}
          choose={setView}
        />
      )}
      {view === 'plan' && <Plan cameras={cameras} mayEdit={mayEdit} />}
      {view === 'to finish' && <ToFinish />}
      {cameras.length === 0 && (
        <Empty
          words="No camera yet."
          next={
            mayEdit ? 'Connect the first one; its picture is seen before anything is saved.' : 'Whoever sets the place up connects them.'
          }
        />
      )}
      {view === 'wall' && (
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 16 }}>
          {cameras.map((c) => (
            <View key={c.id} style={{ width: isWide ? '48%' : '100%', minWidth: 280, flexGrow: 1 }}>
              <CameraTile camera={c} />
            </View>
          ))}
        </View>
      )}
    </Page>
  );
}
