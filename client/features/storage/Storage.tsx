// Stored data: how much of the disk it takes, how long it is kept, and when the disk will be full.

import { minFreeOf } from '@nibber/core/retention';
import { bytesText, numberText } from '@nibber/core/words';
import { useState } from 'react';
import { View } from 'react-native';
import { useCamerasQuery } from '../../state/api';
import { every } from '../../state/api/every';
import { useStorageQuery } from '../../state/api/outgoing';
import type { CameraAnswer, Site, StorageAnswer } from '../../state/api/types';
import { CardColumns } from '../../ui/Columns';
import { Attention, Button, Card, Row } from '../../ui/Surface';
import { Table, type Column } from '../../ui/Table';
import { day } from '../../ui/times';
import { Words } from '../../ui/Words';
import { Loading } from '../shell/Loading';
import { CameraDataSheet } from './CameraDataSheet';
import { DaysSheet } from './DaysSheet';
import { CameraExceptions, RetentionDays } from './RetentionDays';
import { forecastText, texts } from './words';

const everyMs = 10_000;

type Line = { readonly what: string; readonly files: number | undefined; readonly bytes: number };

/** What someone would know it by; of an event all pictures together, however many it has. */
const names: { readonly [holder in StorageAnswer['media'][number]['holder']]: string } = {
  event: texts.picturesOfEvents,
  track: texts.picturesOfWhatWasFiltered,
  delivery: texts.picturesThatCamerasSent,
  reading: texts.picturesOfReadings,
  'walk test': texts.picturesOfWalkTests,
  known: texts.picturesOfKnownVehicles,
  plan: texts.thePlanOfTheSite,
};
const nameOf = ({ holder, role }: StorageAnswer['media'][number]) =>
  holder === 'event' && role === 'clip' ? texts.clipsOfEvents : names[holder];

const linesOf = ({ media, detections, database }: StorageAnswer): Line[] => [
  ...[...new Set(media.map(nameOf))].map((what) => {
    const own = media.filter((m) => nameOf(m) === what);
    return { what, files: own.reduce((n, m) => n + m.files, 0), bytes: own.reduce((n, m) => n + m.bytes, 0) };
  }),
  { what: texts.recordedDetectionsForRehearsals, files: undefined, bytes: detections.bytes },
  { what: texts.eventsSettingsAndTheLogbook, files: undefined, bytes: database },
];

const columns: readonly Column<Line>[] = [
  { id: 'what', name: texts.what, words: (l) => l.what, by: (l) => l.what },
  {
    id: 'files',
    name: texts.files,
    width: 72,
    isFigure: true,
    words: (l) => (l.files === undefined ? '' : numberText(l.files)),
    by: (l) => l.files ?? 0,
  },
  { id: 'size', name: texts.size, width: 88, isFigure: true, words: (l) => bytesText(l.bytes), by: (l) => l.bytes },
];

export function Storage({ site }: { site: Site }) {
  const asked = useStorageQuery(undefined, { ...every(everyMs), refetchOnMountOrArgChange: true });
  const { data } = asked;
  const { data: cameras = [] } = useCamerasQuery();
  const [changing, setChanging] = useState<CameraAnswer | 'site'>();
  const [isByHand, setByHand] = useState(false);
  if (!data) return <Loading of={[asked]} isPart />;
  const { disk, minFreeBytes } = data;
  return (
    <>
      {disk.free < minFreeOf(disk, minFreeBytes) && <Attention words={texts.onlyAreFree(bytesText(disk.free))} />}
      <CardColumns>
        <Held storage={data} zone={site.settings.timezone} />
        <RetentionDays storage={data} change={() => setChanging('site')} />
        {cameras.length > 0 && (
          <Card>
            <Row style={{ justifyContent: 'space-between' }}>
              <Words bold heading={2}>
                {texts.exportOrDelete}
              </Words>
              <Button onPress={() => setByHand(true)} words={texts.choose} testID="data-choose" />
            </Row>
            <Words size="small" tone="second">
              {texts.chooseWhat}
            </Words>
          </Card>
        )}
        {cameras.length > 0 && <CameraExceptions storage={data} cameras={cameras} change={setChanging} />}
      </CardColumns>
      {isByHand && <CameraDataSheet cameras={cameras} zone={site.settings.timezone} close={() => setByHand(false)} />}
      {changing && <DaysSheet storage={data} camera={changing === 'site' ? undefined : changing} close={() => setChanging(undefined)} />}
    </>
  );
}

function Held({ storage, zone }: { storage: StorageAnswer; zone: string }) {
  const { detections, disk, forecast, maxDiskShare, minFreeBytes } = storage;
  const lines = linesOf(storage);
  const since = detections.since === null ? '' : texts.theOldestIsFrom(day(detections.since, zone));
  return (
    <Card>
      <Words bold heading={2}>
        {texts.storedFree(bytesText(lines.reduce((sum, l) => sum + l.bytes, 0)), bytesText(disk.free))}
      </Words>
      <Words>{forecastText(forecast)}</Words>
      <View style={{ marginHorizontal: -16 }}>
        <Table
          label={texts.storedData}
          columns={columns}
          rows={lines}
          keyOf={(l) => l.what}
          start={{ by: 'size', down: true }}
          press={() => false}
        />
      </View>
      <Words size="small" tone="second">
        {texts.detectionsTake(bytesText(detections.maxBytes), since)}
      </Words>
      <Words size="small" tone="second">
        {texts.diskLimits(numberText(maxDiskShare * 100), bytesText(minFreeBytes))} {texts.limitHelp}
      </Words>
    </Card>
  );
}
