// Stored data on the disk, and how much room there is.

import { View } from 'react-native';
import { useStorageQuery } from '../../../state/api/outgoing';
import type { Site, StorageAnswer } from '../../../state/api/types';
import { Attention, Card } from '../../../ui/Surface';
import { Table, type Column } from '../../../ui/Table';
import { day } from '../../../ui/times';
import { Words } from '../../../ui/Words';
import { Loading } from '../../shell/Loading';
import { texts, bytesWords, everyMs } from '../words';

/** With less than this free, what comes may soon not be kept. */
const littleBytes = 2_000_000_000;

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
    width: 64,
    isFigure: true,
    words: (l) => (l.files === undefined ? '' : String(l.files)),
    by: (l) => l.files ?? 0,
  },
  { id: 'size', name: texts.size, width: 88, isFigure: true, words: (l) => bytesWords(l.bytes), by: (l) => l.bytes },
];

export function Storage({ site }: { site: Site }) {
  const asked = useStorageQuery(undefined, { pollingInterval: everyMs, refetchOnMountOrArgChange: true });
  const { data } = asked;
  if (!data) return <Loading of={[asked]} isPart />;
  const { detections, free } = data;
  const since = detections.since === null ? '' : texts.theOldestIsFrom(day(detections.since, site.settings.timezone));
  return (
    <>
      {free < littleBytes && <Attention words={texts.onlyAreFreeOnThe(bytesWords(free))} />}
      <Card>
        <Words bold heading={2}>
          {texts.storedFree(bytesWords(linesOf(data).reduce((sum, l) => sum + l.bytes, 0)), bytesWords(free))}
        </Words>
        <View style={{ marginHorizontal: -16 }}>
          <Table
            label={texts.storedData}
            columns={columns}
            rows={linesOf(data)}
            keyOf={(l) => l.what}
            start={{ by: 'size', down: true }}
            press={() => false}
          />
        </View>
        <Words size="small" tone="second">
          {texts.detectionsAreStoredForDays(detections.maxDays, bytesWords(detections.maxBytes), since)}
        </Words>
      </Card>
    </>
  );
}
