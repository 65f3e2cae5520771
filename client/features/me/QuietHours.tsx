// One's own quiet hours, painted as every schedule is; and the summary of the morning.

import { useState } from 'react';
import { textOfWeek, weekOfText, type Week } from '@nibber/core/schedules';
import type { Person } from '@nibber/core/site';
import { wallTime } from '@nibber/core/time';
import { problemWords } from '../../state/api';
import { useSetQuietHoursMutation, type MySettings } from '../../state/api/people';
import type { Me, Site } from '../../state/api/types';
import { Check } from '../../ui/Choices';
import { Field } from '../../ui/Field';
import { Footer } from '../../ui/Footer';
import { useSay } from '../../ui/Messages';
import { Sheet } from '../../ui/Sheet';
import { Button, Card, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { DaySheet } from '../schedules/DaySheet';
import { WeekGrid } from '../schedules/WeekGrid';
import { texts } from './words';

type Props = { me: Me; site: Site; save: (settings: MySettings) => Promise<boolean> };
const isTime = (text: string) => /^([01]\d|2[0-3]):[0-5]\d$/.test(text);

export function QuietHours({ me, site, save }: Props) {
  const say = useSay();
  const [set] = useSetQuietHoursMutation();
  const [isOpen, setOpen] = useState(false);
  const { quietHours } = me;
  const { timezone: zone, latitude, longitude } = site.settings;
  const today = wallTime(zone, me.now);
  const week = weekOfText(quietHours?.weekly as Parameters<typeof weekOfText>[0]);
  const send = async (hours: Parameters<typeof set>[0]) => {
    const answer = await set(hours);
    say(answer.error ? (problemWords(answer.error) ?? '') : texts.saved);
    return !answer.error;
  };
  return (
    <Card>
      <Words bold heading={2}>
        {texts.quietHours}
      </Words>
      {quietHours ? (
        <>
          {!quietHours.isOwn && <Words tone="second">{texts.follows(quietHours.name)}</Words>}
          <WeekGrid week={week} place={{ zone, latitude, longitude }} monday={today.day - today.weekday} />
          <Words size="small" tone="second">
            {texts.urgentAlertsStillComeThrough}
          </Words>
        </>
      ) : (
        <Words tone="second">{texts.noneYouGetAlertsAt}</Words>
      )}
      <Row>
        <Button words={quietHours ? texts.change : texts.setQuietHours} onPress={() => setOpen(true)} testID="my-quiet" />
        {quietHours && (
          <Button words={texts.remove} label={texts.removeQuietHours} onPress={() => void send(null)} testID="my-quiet-none" />
        )}
      </Row>
      <Summary me={me} save={save} />
      {isOpen && (
        <Painted
          start={week}
          place={{ zone, latitude, longitude }}
          monday={today.day - today.weekday}
          save={(next) =>
            send({ weekly: textOfWeek(next), ...(quietHours?.isOwn && quietHours.exceptions ? { exceptions: quietHours.exceptions } : {}) })
          }
          close={() => setOpen(false)}
        />
      )}
    </Card>
  );
}

type PaintedProps = {
  start: Week;
  place: Parameters<typeof WeekGrid>[0]['place'];
  monday: number;
  save: (week: Week) => Promise<boolean>;
  close: () => void;
};

function Painted({ start, place, monday, save, close }: PaintedProps) {
  const [week, setWeek] = useState(start);
  const [day, setDay] = useState<number>();
  const isEmpty = week.every((spans) => spans.length === 0);
  const keep = () => void save(week).then((isSaved) => isSaved && close());
  return (
    <Sheet
      title={texts.quietHours}
      open
      close={close}
      footer={<Footer save={keep} canSave={!isEmpty} cancel={close} testID="my-quiet-save" />}
    >
      <Words tone="second">{texts.markWhenYouDoNot}</Words>
      <WeekGrid week={week} place={place} monday={monday} paint={setWeek} openDay={setDay} />
      {day !== undefined && <DaySheet day={day} week={week} change={setWeek} close={() => setDay(undefined)} />}
    </Sheet>
  );
}

function Summary({ me, save }: Pick<Props, 'me' | 'save'>) {
  const { summary } = me.person as Person;
  const [at, setAt] = useState(summary?.at ?? me.defaultSummary);
  const isKept = summary?.quietHours === true;
  const put = (quietHours: boolean, time = at) =>
    void save({ summary: { at: isTime(time) ? time : me.defaultSummary, ...(quietHours ? { quietHours } : {}) } });
  return (
    <>
      <Check words={texts.summariseSuppressedAlerts} checked={isKept} press={() => put(!isKept)} testID="my-summary" />
      <Field
        label={texts.summaryTime}
        value={at}
        onChangeText={setAt}
        onBlur={() => isTime(at) && at !== (summary?.at ?? me.defaultSummary) && put(isKept, at)}
        wrong={isTime(at) ? undefined : texts.aTimeSuchAs07}
        inputMode="numeric"
        testID="my-summary-at"
      />
    </>
  );
}
