// Beside the sentence: what the rule would have done in the last seven days, by day, and the pictures of what would come or go.

import { useRouter, type Href } from 'expo-router';
import { DateTime } from 'luxon';
import { memo, useState } from 'react';
import { ScrollView, View } from 'react-native';
import { ProgressBar } from 'react-native-paper';
import Svg, { Rect } from 'react-native-svg';
import type { ChangedItem, DayAlerts } from '@nibber/core/rehearsal';
import { Thumb } from '../../picture/Thumb';
import { useRehearsalNow, type Week, type RehearsalAsked } from '../../state/rehearsal';
import { Attention, Button, Card, Row } from '../../ui/Surface';
import { corner, usePalette } from '../../ui/theme';
import { clock } from '../../ui/times';
import { Touch } from '../../ui/Touch';
import { Words } from '../../ui/Words';
import { texts } from './words';

type Props = { week: RehearsalAsked; zone: string; isNew: boolean };

const times = (n: number) => (n === 1 ? 'once' : n === 2 ? 'twice' : texts.times(n));
const sum = (days: readonly DayAlerts[], of: 'before' | 'after') => days.reduce((all, d) => all + d[of], 0);

/** `It would have told 9 times, instead of 14.` */
export function rehearsalWords({ days, result }: Pick<Week, 'days' | 'result'>, isNew: boolean): string {
  if (result && result.since === null) return texts.noRecordedDataForThese;
  const [before, after] = [sum(days, 'before'), sum(days, 'after')];
  if (after === 0 && before === 0) return texts.itWouldNotHaveFired;
  const notified = after === 0 ? texts.itWouldNotHaveFired2 : texts.itWouldHaveFired(times(after));
  return isNew || before === after ? `${notified}.` : texts.insteadOf(notified, before);
}

/** While less than the week is recorded. */
function sinceWords(since: number, days: readonly DayAlerts[], zone: string): string | undefined {
  const from = DateTime.fromMillis(since, { zone, locale: 'en-GB' });
  return days[0] && from.toISODate()! > days[0].date ? texts.recordedSince(from.toFormat('cccc d MMMM, HH:mm')) : undefined;
}

/** Drawn again by itself as the answer comes, not with what is around it. */
export const RehearsalCard = memo(function RehearsalCard({ week: asked, zone, isNew }: Props) {
  const week = useRehearsalNow(asked);
  const { result, days, failure } = week;
  const since = result?.since ? sinceWords(result.since, days, zone) : undefined;
  return (
    <Card>
      <Row style={{ justifyContent: 'space-between' }}>
        <Words bold heading={2}>
          {texts.theLastSevenDays}
        </Words>
        <StopOrGoOn week={week} asked={asked} />
      </Row>
      {failure ? (
        <Attention words={failure} />
      ) : (
        days.length > 0 && (
          <>
            <Words testID="week-words">{rehearsalWords(week, isNew)}</Words>
            {result?.since !== null && <DayBars days={days} isNew={isNew} />}
          </>
        )
      )}
      {since && (
        <Words size="small" tone="second">
          {since}
        </Words>
      )}
      <Progress week={week} />
      {result && !failure && (
        <>
          <Changed title={gainedWords(isNew)} all={result.gained} inAll={result.gainedInAll} zone={zone} testID="week-gained" />
          <Changed title={lostWords} all={result.lost} inAll={result.lostInAll} zone={zone} testID="week-lost" />
        </>
      )}
    </Card>
  );
});

/** The same in short, beside a part that is being changed. */
export const RehearsalSummary = memo(function RehearsalSummary({ week: asked, isNew }: Omit<Props, 'zone'>) {
  const week = useRehearsalNow(asked);
  const { result, days, failure } = week;
  if (days.length === 0 && !week.work) return null;
  const differs = !isNew && result && (result.gainedInAll > 0 || result.lostInAll > 0);
  return (
    <View style={{ gap: 4 }}>
      <Row style={{ flexWrap: 'nowrap', justifyContent: 'space-between' }}>
        <Words size="small" bold>
          {texts.theLastSevenDays}
        </Words>
        <StopOrGoOn week={week} asked={asked} />
      </Row>
      <Words size="small" testID="week-short">
        {[
          failure ?? (days.length > 0 ? rehearsalWords(week, isNew) : ''),
          ...(differs && !failure ? [texts.moreFewer(result.gainedInAll, result.lostInAll)] : []),
        ].join(' ')}
      </Words>
      {result?.since !== null && days.length > 0 && !failure && <DayBars days={days} isNew={isNew} short />}
      <Progress week={week} />
    </View>
  );
});

/** The pictures of what a change of this part would make come or go. */
export const RehearsalPictures = memo(function RehearsalPictures({ week, zone, isNew }: Props) {
  const { result, failure } = useRehearsalNow(week);
  if (!result || failure || isNew || result.gainedInAll + result.lostInAll === 0) return null;
  return (
    <>
      <Changed title={gainedWords(isNew)} all={result.gained} inAll={result.gainedInAll} zone={zone} />
      <Changed title={lostWords} all={result.lost} inAll={result.lostInAll} zone={zone} />
    </>
  );
});

const gainedWords = (isNew: boolean) => (isNew ? texts.itWouldHaveFiredFor : texts.addedByThisChange);
const lostWords = texts.removedByThisChange;

const StopOrGoOn = ({ week, asked }: { week: Week; asked: RehearsalAsked }) =>
  week.work ? (
    <Button words={texts.stop} onPress={asked.stop} testID="week-stop" />
  ) : week.isStopped ? (
    <Button words={texts.calculate} onPress={asked.goOn} testID="week-go-on" />
  ) : null;

function Progress({ week }: { week: Week }) {
  const p = usePalette();
  // Its place stays, so that nothing jumps while a slider moves.
  return (
    <View style={{ height: 4 }}>
      {week.work && <ProgressBar progress={week.work.done} color={p.work} accessibilityLabel={week.work.words} testID="week-progress" />}
    </View>
  );
}

/** A column a day as it would be, with a line where it stands now. */
function DayBars({ days, isNew, short = false }: { days: readonly DayAlerts[]; isNew: boolean; short?: boolean }) {
  const p = usePalette();
  const high = short ? 28 : 72;
  const max = Math.max(1, ...days.flatMap((d) => [d.before, d.after]));
  const tall = (n: number) => (n === 0 ? 0 : Math.max(3, (n / max) * high));
  return (
    <View style={{ flexDirection: 'row', gap: 4 }} testID="week-days">
      {days.map((d) => {
        const date = DateTime.fromISO(d.date, { locale: 'en-GB' });
        const words = `${date.toFormat('cccc d MMMM')}: ${d.after}${isNew ? '' : texts.currently(d.before)}`;
        return (
          <View key={d.date} style={{ flex: 1, alignItems: 'center', gap: 2 }} role="img" aria-label={words}>
            <Svg width="100%" height={high} viewBox={`0 0 40 ${high}`} preserveAspectRatio="none">
              <Rect x={6} y={high - tall(d.after)} width={28} height={tall(d.after)} fill={p.work} />
              {!isNew && d.before !== d.after && <Rect x={1} y={high - Math.max(2, tall(d.before))} width={38} height={2} fill={p.ink} />}
              <Rect x={0} y={high - 1} width={40} height={1} fill={p.rule} />
            </Svg>
            {!short && (
              <>
                <Words size="small" bold>
                  {String(d.after)}
                </Words>
                <Words size="small" tone="second">
                  {date.toFormat('ccc')}
                </Words>
              </>
            )}
          </View>
        );
      })}
    </View>
  );
}

const shownAtFirst = 12;

const Changed = memo(function Changed({
  title,
  all,
  inAll,
  zone,
  testID,
}: {
  title: string;
  all: readonly ChangedItem[];
  inAll: number;
  zone: string;
  testID?: string;
}) {
  const [isWhole, setWhole] = useState(false);
  if (inAll === 0) return null;
  return (
    <View style={{ gap: 4 }} testID={testID}>
      <Words bold size="small">
        {`${title}: ${inAll}`}
      </Words>
      <Strip all={isWhole ? all : all.slice(0, shownAtFirst)} zone={zone} />
      {!isWhole && all.length > shownAtFirst && <Button words={texts.showOfThem(all.length)} onPress={() => setWhole(true)} />}
    </View>
  );
});

const thumbSize = { width: 112, height: 84 };

/** Pictures in a row, each with its time and what makes the difference; a tap opens its event. */
function Strip({ all, zone }: { all: readonly ChangedItem[]; zone: string }) {
  return (
    <ScrollView horizontal contentContainerStyle={{ gap: 8, paddingBottom: 4 }}>
      {all.map((item) => (
        <ChangedThumb key={`${item.at} ${item.cameraName} ${item.event}`} item={item} zone={zone} />
      ))}
    </ScrollView>
  );
}

function ChangedThumb({ item, zone }: { item: ChangedItem; zone: string }) {
  const p = usePalette();
  const router = useRouter();
  const { at, cameraName, why, event, picture, box } = item;
  const when = `${DateTime.fromMillis(at, { zone, locale: 'en-GB' }).toFormat('ccc')} ${clock(at, zone)}`;
  const body = (
    <View style={{ width: thumbSize.width, gap: 2 }}>
      {picture ? (
        <Thumb source={picture} box={box} size={thumbSize} />
      ) : (
        <View style={{ ...thumbSize, borderWidth: 1, borderColor: p.rule, borderRadius: corner, justifyContent: 'center', padding: 6 }}>
          <Words size="small" tone="second" style={{ textAlign: 'center' }}>
            {texts.noPictureStored}
          </Words>
        </View>
      )}
      <Words size="small">{when}</Words>
      <Words size="small" tone="second" lines={2}>
        {cameraName}
      </Words>
      {why !== '' && (
        <Words size="small" tone="second" lines={3}>
          {why}
        </Words>
      )}
    </View>
  );
  return event ? (
    <Touch press={() => router.push(`/events/${event}` as Href)} role="link" label={`${when}, ${cameraName}. ${why}`}>
      {body}
    </Touch>
  ) : (
    body
  );
}
