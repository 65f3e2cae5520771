// The readings of the site: what each said last, its line over time with its pictures, and who is reminded by it.

import { useState } from 'react';
import { View } from 'react-native';
import { problemWords, useCamerasQuery } from '../../state/api';
import { every } from '../../state/api/every';
import { useCorrectValueMutation, useReadingsQuery, useReadingValuesQuery, useTakeReadingMutation } from '../../state/api/readings';
import type { CameraAnswer, ReadingAnswer, ReminderAnswer, Site, ReadingValue } from '../../state/api/types';
import { useNow } from '../../state/useNow';
import { Thumb } from '../../picture/Thumb';
import { CardColumns } from '../../ui/Columns';
import { OneOf } from '../../ui/Choices';
import { Field } from '../../ui/Field';
import { useSay } from '../../ui/Messages';
import { Attention, Button, Card, Empty, Row } from '../../ui/Surface';
import { ago, clock, exact } from '../../ui/times';
import { Words } from '../../ui/Words';
import { moneyWords, secondsWords } from '../ai-services/words';
import { useMaySetUp } from '../session/may';
import { Loading } from '../shell/Loading';
import { everyMs } from '../site/words';
import { LineView } from './LineView';
import { ReadingSheet } from './ReadingSheet';
import { ReminderSheet } from './ReminderSheet';
import { shown } from './line';
import { texts, reminderWords, timesWords, valueWords } from './words';

type Open =
  | { readonly kind: 'reading'; readonly id: string | undefined }
  | { readonly kind: 'reminder'; readonly reading: string; readonly id: string | undefined };

export function Readings({ site }: { site: Site }) {
  const asked = [useReadingsQuery(undefined, { ...every(everyMs), refetchOnMountOrArgChange: true }), useCamerasQuery()] as const;
  const [{ data }, { data: cameras }] = asked;
  const [open, setOpen] = useState<Open>();
  const mayEdit = useMaySetUp();
  if (!data || !cameras) return <Loading of={asked} isPart />;
  const { readings, reminders, version } = data;
  const close = () => setOpen(undefined);
  const of = open?.kind === 'reminder' ? readings.find((r) => r.reading.id === open.reading)?.reading : undefined;
  return (
    <>
      {readings.length === 0 && <Empty words={texts.noReadingsYet} next={texts.aReadingAnswersAQuestion} />}
      <CardColumns>
        {readings.map((r) => (
          <One
            key={r.reading.id}
            of={r}
            reminders={reminders.filter((m) => m.reminder.reading === r.reading.id)}
            site={site}
            mayEdit={mayEdit}
            setUp={() => setOpen({ kind: 'reading', id: r.reading.id })}
            remind={(id) => setOpen({ kind: 'reminder', reading: r.reading.id, id })}
          />
        ))}
      </CardColumns>
      {mayEdit && (
        <Row>
          <Button words={texts.addAReading} glyph="add" onPress={() => setOpen({ kind: 'reading', id: undefined })} testID="add-reading" />
        </Row>
      )}
      {open?.kind === 'reading' && (
        <ReadingSheet
          of={readings.find((r) => r.reading.id === open.id)?.reading}
          site={site}
          cameras={cameras as readonly CameraAnswer[]}
          version={version}
          close={close}
        />
      )}
      {open?.kind === 'reminder' && of && (
        <ReminderSheet
          of={reminders.find((m) => m.reminder.id === open.id)?.reminder}
          reading={of}
          site={site}
          version={version}
          close={close}
        />
      )}
    </>
  );
}

const spans = { day: 1, week: 7, month: 31 } as const;
type Span = keyof typeof spans;
const dayMs = 86_400_000;

type OneProps = {
  of: ReadingAnswer;
  reminders: readonly ReminderAnswer[];
  site: Site;
  mayEdit: boolean;
  setUp: () => void;
  remind: (id: string | undefined) => void;
};

function One({ of: { reading, cameraName, last, nextAt }, reminders, site, mayEdit, setUp, remind }: OneProps) {
  const zone = site.settings.timezone;
  const now = useNow();
  const [span, setSpan] = useState<Span>('week');
  // Asked for again by the hour, not by the second.
  const hour = Math.floor(now / 3_600_000) * 3_600_000;
  const since = hour + 3_600_000 - spans[span] * dayMs;
  const { data: taken = [] } = useReadingValuesQuery({ reading: reading.id, since }, every(everyMs));
  const [chosen, choose] = useState<string>();
  const [take, taking] = useTakeReadingMutation();
  const say = useSay();
  const read = async () => {
    const answer = await take(reading.id);
    if (answer.error) return say(problemWords(answer.error) ?? '');
    choose(answer.data.id);
  };
  const value = last && shown(last);
  const seen = taken.find((t) => t.id === chosen) ?? taken.at(-1);
  return (
    <Card>
      <Row style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
        <Words bold heading={2} style={{ flexShrink: 1 }}>
          {reading.name}
        </Words>
        {mayEdit && (
          <Button words={texts.settings} label={texts.settingsOf(reading.name)} onPress={setUp} testID={`reading-${reading.id}`} />
        )}
      </Row>
      <Words size="lead" bold testID={`reading-${reading.id}-value`}>
        {last === null ? texts.notReadYet : value === null ? texts.noResult : valueWords(value!, reading.unit)}
      </Words>
      <Words size="small" tone="second">
        {[
          cameraName,
          ...(last ? [ago(last.at, now, zone)] : []),
          timesWords(reading, site),
          ...(nextAt ? [texts.next(clock(nextAt, zone))] : []),
        ].join(' · ')}
      </Words>
      {last?.why && <Attention words={`${last.why}.`} />}
      {taken.length > 1 && (
        <>
          <OneOf
            label={texts.timeRange(reading.name)}
            choices={(Object.keys(spans) as Span[]).map((s) => ({ value: s, words: `A ${s}`, testID: `span-${s}` }))}
            value={span}
            choose={(s) => setSpan(s as Span)}
          />
          <LineView
            reading={reading}
            taken={taken}
            from={since}
            to={Math.max(now, since + 1)}
            zone={zone}
            chosen={seen?.id}
            choose={choose}
          />
        </>
      )}
      {seen && (
        <Seen
          key={seen.id}
          taken={seen}
          unit={reading.unit}
          isNumber={!('question' in reading.by) || reading.by.kind === 'number'}
          zone={zone}
        />
      )}
      <Row>
        <Button
          words={taking.isLoading ? texts.readingNow : texts.readNow}
          disabled={taking.isLoading}
          onPress={() => void read()}
          testID={`take-${reading.id}`}
        />
        {mayEdit && (
          <Button
            words={texts.remind}
            glyph="bell"
            label={texts.addAReminderFor(reading.name)}
            onPress={() => remind(undefined)}
            testID={`remind-${reading.id}`}
          />
        )}
      </Row>
      {reminders.map(({ reminder, notifiedAt }) => (
        <Row key={reminder.id} style={{ flexWrap: 'nowrap', justifyContent: 'space-between' }}>
          <View style={{ flexShrink: 1 }}>
            <Words testID={`reminder-${reminder.id}-words`}>{reminderWords(reminder, reading, site)}</Words>
            {notifiedAt !== null && (
              <Words size="small" tone="second">
                {texts.sent(ago(notifiedAt, now, zone))}
              </Words>
            )}
          </View>
          {mayEdit && (
            <Button
              words={texts.change}
              label={texts.change2(reminder.name)}
              onPress={() => remind(reminder.id)}
              testID={`reminder-${reminder.id}`}
            />
          )}
        </Row>
      ))}
    </Card>
  );
}

/** One time that it was read, with its picture; put right by hand. */
function Seen({ taken, unit, isNumber, zone }: { taken: ReadingValue; unit: string | undefined; isNumber: boolean; zone: string }) {
  const [correct, correcting] = useCorrectValueMutation();
  const [text, setText] = useState<string>();
  const value = shown(taken);
  const given = isNumber ? Number((text ?? '').replace(',', '.')) : text?.trim();
  const canKeep = text !== undefined && text.trim() !== '' && (!isNumber || Number.isFinite(given)) && !correcting.isLoading;
  const details = [
    ...(taken.service && taken.seconds !== null ? [`${taken.service}, ${secondsWords(taken.seconds)}`] : []),
    ...(taken.cost === null ? [] : [moneyWords(taken.cost, taken.currency)]),
    ...(taken.corrected === null
      ? []
      : [texts.correctedByItWas(taken.correctedBy, taken.value === null ? 'nothing' : valueWords(taken.value))]),
    ...(taken.isOld && taken.takenAt !== null ? [texts.pictureTaken(exact(taken.takenAt, zone))] : []),
  ];
  return (
    <Row style={{ flexWrap: 'nowrap', alignItems: 'flex-start', gap: 12 }}>
      {taken.picture && <Thumb source={taken.picture} box={null} size={{ width: 144, height: 81 }} />}
      <View style={{ flex: 1, gap: 4 }}>
        <Words size="small" tone="second">
          {exact(taken.at, zone)}
        </Words>
        <Words>{value === null ? `${taken.why}` : valueWords(value!, unit)}</Words>
        {details.length > 0 && (
          <Words size="small" tone="second">
            {details.join(' · ')}
          </Words>
        )}
        {text === undefined ? (
          <Row>
            <Button words={texts.correct} onPress={() => setText('')} testID="value-correct" />
            {taken.corrected !== null && (
              <Button words={texts.undoCorrection} onPress={() => void correct({ id: taken.id, corrected: null })} />
            )}
          </Row>
        ) : (
          <>
            <Field label={texts.itWas} value={text} onChangeText={setText} inputMode={isNumber ? 'decimal' : 'text'} testID="value-value" />
            <Row>
              <Button words={texts.cancel} onPress={() => setText(undefined)} />
              <Button
                words={texts.save}
                main
                disabled={!canKeep}
                onPress={() => void correct({ id: taken.id, corrected: given! })}
                testID="value-save"
              />
            </Row>
          </>
        )}
      </View>
    </Row>
  );
}
