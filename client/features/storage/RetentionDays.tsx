// How many days each kind of data is kept, by the site and by cameras that differ.

import { retentionKinds, retentionOf } from '@nibber/core/retention';
import { List } from 'react-native-paper';
import type { CameraAnswer, StorageAnswer } from '../../state/api/types';
import { Button } from '../../ui/Button';
import { Card, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { daysText, kindNames, texts } from './words';

export function RetentionDays({ storage, change }: { storage: StorageAnswer; change: () => void }) {
  const { days } = retentionOf(storage);
  return (
    <Card>
      <Row style={{ justifyContent: 'space-between' }}>
        <Words bold heading={2}>
          {texts.howLong}
        </Words>
        <Button onPress={change} words={texts.change} testID="retention-change" />
      </Row>
      {retentionKinds.map((kind) => (
        <Row key={kind} style={{ justifyContent: 'space-between', minHeight: 28 }}>
          <Words>{kindNames[kind]}</Words>
          <Words tone="second">{daysText(days[kind])}</Words>
        </Row>
      ))}
    </Card>
  );
}

type ExceptionProps = { storage: StorageAnswer; cameras: readonly CameraAnswer[]; change: (camera: CameraAnswer) => void };

export function CameraExceptions({ storage, cameras, change }: ExceptionProps) {
  const exceptions = storage.retention.cameras ?? [];
  return (
    <Card>
      <Words bold heading={2}>
        {texts.exceptions}
      </Words>
      <Words size="small" tone="second">
        {texts.chooseACamera}
      </Words>
      {cameras.map((camera) => {
        const own = Object.keys(exceptions.find((e) => e.camera === camera.id)?.days ?? {}).length;
        return (
          <List.Item
            key={camera.id}
            title={camera.name}
            description={own ? texts.otherDays(own) : texts.asTheSite}
            onPress={() => change(camera)}
            testID={`retention-${camera.id}`}
            style={{ marginHorizontal: -16 }}
          />
        );
      })}
    </Card>
  );
}
