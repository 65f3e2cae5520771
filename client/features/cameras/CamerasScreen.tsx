// Cameras: the wall of their pictures, the plan they stand on, and what is open before all are in service.

import { useRouter } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { Loading } from '../shell/Loading';
import { Button, Empty, Page, Row } from '../../ui/Surface';
import { useIsWide } from '../../ui/theme';
import { OneOf } from '../../ui/Choices';
import { Words } from '../../ui/Words';
import type { Person } from '@nibber/core/site';
import { useCamerasQuery } from '../../state/api';
import { every } from '../../state/api/every';
import { useMeQuery } from '../../state/api/people';
import { Revert } from '../camera-settings/Revert';
import { ToFinish } from '../commissioning/ToFinish';
import { Plan } from '../plan/Plan';
import { CameraTile } from '../now/CameraTile';
import { everything, CameraGroups } from './CameraGroups';
import { useMaySetUp } from '../session/may';
import { texts } from './words';

export function CamerasScreen() {
  const isWide = useIsWide();
  const router = useRouter();
  const mayEdit = useMaySetUp();
  const asked = useCamerasQuery(undefined, every(15_000));
  const { data: cameras } = asked;
  const [view, setView] = useState<'wall' | 'plan' | 'to finish'>('wall');
  const { data: me } = useMeQuery();
  const cameraGroups = (me?.person as Person | undefined)?.cameraGroups ?? [];
  const [picked, setSet] = useState<string>();
  // It opens with the first of them.
  const set = picked ?? cameraGroups[0]?.name ?? everything;
  if (!cameras) return <Loading of={[asked]} />;
  const together = cameraGroups.find((s) => s.name === set)?.cameras;
  const shown = together ? cameras.filter((c) => together.includes(c.id)) : cameras;
  return (
    <Page>
      <Row style={{ justifyContent: 'space-between' }}>
        <Words size="title" bold heading={1}>
          {texts.cameras}
        </Words>
        {mayEdit && (
          <Button
            glyph="add"
            words={texts.connectACamera}
            main={cameras.length === 0}
            onPress={() => router.navigate('/cameras/new')}
            testID="connect"
          />
        )}
      </Row>
      <Revert />
      {cameras.length > 0 && (
        <OneOf
          label={texts.view}
          choices={[
            { value: 'wall', words: texts.wall, testID: 'cameras-wall' },
            { value: 'plan', words: texts.plan, testID: 'cameras-plan' },
            ...(mayEdit ? [{ value: 'to finish', words: texts.toFinish, testID: 'cameras-to-finish' } as const] : []),
          ]}
          value={view}
          choose={setView}
        />
      )}
      {view === 'plan' && <Plan cameras={cameras} mayEdit={mayEdit} />}
      {view === 'to finish' && <ToFinish />}
      {cameras.length === 0 && (
        <Empty words={texts.noCameraYet} next={mayEdit ? texts.connectTheFirstOneYou : texts.theOwnerOrInstallerCan} />
      )}
      {view === 'wall' && cameras.length > 1 && <CameraGroups cameras={cameras} chosen={set} choose={setSet} />}
      {view === 'wall' && (
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 16 }}>
          {shown.map((c) => (
            <View
              key={c.id}
              style={{ width: isWide ? (shown.length > 4 ? '31%' : '48%') : '100%', minWidth: 280, flexGrow: isWide ? 0 : 1 }}
            >
              <CameraTile camera={c} />
            </View>
          ))}
        </View>
      )}
    </Page>
  );
}
