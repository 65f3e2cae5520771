// What is stored of one camera, of a day or of all: exported, or deleted.

import { dateText, wallTime } from '@nibber/core/time';
import { useState } from 'react';
import { problemWords } from '../../state/api';
import { exportOf, useForgetPastMutation, useStoredDataQuery } from '../../state/api/storedData';
import type { CameraAnswer } from '../../state/api/types';
import { useNow } from '../../state/useNow';
import { OneOf } from '../../ui/Choices';
import { DateField } from '../../ui/DateField';
import { Sheet } from '../../ui/Sheet';
import { Attention } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { ExportOrDelete } from './ExportOrDelete';
import { storedText, texts } from './words';

type Props = { cameras: readonly CameraAnswer[]; zone: string; close: () => void };

export function CameraDataSheet({ cameras, zone, close }: Props) {
  const [camera, setCamera] = useState(cameras[0]!.id);
  const [isOneDay, setOneDay] = useState(true);
  const now = useNow();
  const [date, setDate] = useState(() => dateText(wallTime(zone, now).day));
  const asked = { camera, day: isOneDay ? date : undefined };
  const { data, error, isFetching } = useStoredDataQuery(asked, { skip: isOneDay && date === '', refetchOnMountOrArgChange: true });
  const [forget] = useForgetPastMutation();
  const isAny = data !== undefined && data.tracks + data.events > 0;
  const name = cameras.find((c) => c.id === camera)!.name;
  return (
    <Sheet title={texts.exportOrDelete} open close={close}>
      <OneOf
        label={texts.camera}
        choices={cameras.map((c) => ({ value: c.id, words: c.name, testID: `data-camera-${c.id}` }))}
        value={camera}
        choose={setCamera}
      />
      <OneOf
        label={texts.howMuch}
        choices={[
          { value: 'day', words: texts.oneDay, testID: 'data-one-day' },
          { value: 'all', words: texts.allDays, testID: 'data-all-days' },
        ]}
        value={isOneDay ? 'day' : 'all'}
        choose={(next) => setOneDay(next === 'day')}
      />
      {isOneDay && <DateField label={texts.day} value={date} choose={setDate} testID="data-day" />}
      {error ? (
        <Attention words={problemWords(error) ?? ''} />
      ) : (
        <Words testID="data-stored">{!data || isFetching ? texts.counting : isAny ? storedText(data) : texts.nothingStored}</Words>
      )}
      {isAny && !isFetching && (
        <ExportOrDelete
          key={`${camera} ${asked.day}`}
          from={exportOf.camera(asked)}
          remove={() => forget(asked)}
          what={texts.deletesOfCamera(name, asked.day ?? texts.allDays.toLowerCase())}
          testID="data"
        />
      )}
    </Sheet>
  );
}
