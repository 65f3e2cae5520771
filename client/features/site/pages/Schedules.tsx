// The schedules, each with its week, whether it is on, and what uses it; one of them opened.

import { useRouter, type Href } from 'expo-router';
import { useState } from 'react';
import { weekOfText } from '@nibber/core/schedules';
import { wallTime } from '@nibber/core/time';
import { idOf } from '@nibber/core/words';
import { useSchedulesQuery } from '../../../state/api/schedules';
import type { ScheduleNow, Site } from '../../../state/api/types';
import { schedules as drafts } from '../../../state/schedules';
import { useAppDispatch } from '../../../state/store';
import { CardColumns } from '../../../ui/Columns';
import { OneOf } from '../../../ui/Choices';
import { Field } from '../../../ui/Field';
import { Footer } from '../../../ui/Footer';
import { Sheet } from '../../../ui/Sheet';
import { Button, Card, Empty, Row } from '../../../ui/Surface';
import { ago } from '../../../ui/times';
import { Touch } from '../../../ui/Touch';
import { Words } from '../../../ui/Words';
import { ScheduleEditor } from '../../schedules/ScheduleEditor';
import { OtherDraft } from '../../shell/OtherDraft';
import { WeekGrid } from '../../schedules/WeekGrid';
import { lengthWords, usesWords } from '../../schedules/words';
import { Loading } from '../../shell/Loading';
import { useMaySetUp } from '../../session/may';
import { texts } from '../words';

export function Schedules({ site, item }: { site: Site; item?: string }) {
  return item === undefined ? <AllSchedules site={site} /> : <ScheduleEditor site={site} id={item} />;
}

function AllSchedules({ site }: { site: Site }) {
  const mayEdit = useMaySetUp();
  const router = useRouter();
  const [isMaking, setMaking] = useState(false);
  const asked = useSchedulesQuery();
  const { data } = asked;
  if (!data) return <Loading of={[asked]} isPart />;
  const open = (id: string) => router.navigate(`/site/schedules/${id}` as Href);
  return (
    <>
      <Row style={{ justifyContent: 'space-between' }}>
        <Words tone="second">{texts.timeZone(site.settings.timezone)}</Words>
        {mayEdit && <Button glyph="add" words={texts.newSchedule} onPress={() => setMaking(true)} testID="new-schedule" />}
      </Row>
      <OtherDraft kind={drafts} all={data.schedules.map((h) => h.plan)} path="/site/schedules" words={texts.newSchedule2} />
      {data.schedules.length === 0 && <Empty words={texts.noSchedulesYet} next={texts.rulesQuietHoursAndModes} />}
      <CardColumns>
        {data.schedules.map((h) => (
          <ScheduleCard key={h.plan.id} schedules={h} all={data.schedules} site={site} now={data.now} open={() => open(h.plan.id)} />
        ))}
      </CardColumns>
      {isMaking && <NewSchedule all={data.schedules} version={data.version} open={open} close={() => setMaking(false)} />}
    </>
  );
}

type CardProps = { schedules: ScheduleNow; all: readonly ScheduleNow[]; site: Site; now: number; open: () => void };

function ScheduleCard({ schedules: { plan, on, next, words, uses, minutesAWeek }, all, site, now, open }: CardProps) {
  const { timezone: zone, latitude, longitude } = site.settings;
  const base = plan.outside === undefined ? plan : all.find((h) => h.plan.id === plan.outside)?.plan;
  const today = wallTime(zone, now);
  return (
    <Touch press={open} role="link" testID={`schedule-${plan.id}`}>
      <Card>
        <Row style={{ justifyContent: 'space-between' }}>
          <Words bold heading={2}>
            {plan.name}
          </Words>
          <Words tone={on ? 'work' : 'second'} size="small">
            {`${on ? 'on' : 'off'}${next ? texts.until2(ago(next, now, zone)) : ''}`}
          </Words>
        </Row>
        <WeekGrid
          week={weekOfText(base?.weekly as never)}
          place={{ zone, latitude, longitude }}
          monday={today.day - today.weekday}
          isInverted={plan.outside !== undefined}
        />
        <Words tone="second" size="small">
          {plan.outside === undefined
            ? texts.aWeek(words, lengthWords(minutesAWeek))
            : texts.theOppositeOfAWeek(base?.name, lengthWords(minutesAWeek))}
        </Words>
        <Words tone="second" size="small">
          {usesWords(uses)}
        </Words>
      </Card>
    </Touch>
  );
}

const ownWeek = 'own';

type NewProps = { all: readonly ScheduleNow[]; version: number; open: (id: string) => void; close: () => void };

/** Begun as a draft: nothing is saved before it was seen. */
function NewSchedule({ all, version, open, close }: NewProps) {
  const dispatch = useAppDispatch();
  const [name, setName] = useState('');
  const [kind, setKind] = useState(ownWeek);
  const begin = () => {
    const id = idOf(
      name,
      all.map((h) => h.plan.id),
      'hours',
    );
    const content = { id, name: name.trim(), ...(kind === ownWeek ? { weekly: {} } : { outside: kind }) };
    dispatch(drafts.begin({ of: id, version, content }));
    close();
    open(id);
  };
  const bases = all.filter((h) => h.plan.outside === undefined);
  return (
    <Sheet
      title={texts.newSchedule}
      open
      close={close}
      footer={<Footer words={texts.continueLabel} save={begin} canSave={name.trim() !== ''} cancel={close} testID="begin-schedule" />}
    >
      <Field
        label={texts.name}
        value={name}
        onChangeText={setName}
        help={texts.forExampleQuietAtNight}
        testID="new-schedule-name"
        onSubmitEditing={() => name.trim() && begin()}
      />
      <OneOf
        label={texts.whenItIsOn}
        choices={[
          { value: ownWeek, words: texts.itsOwnWeeklySchedule, testID: 'new-schedule-own' },
          ...bases.map((h) => ({ value: h.plan.id, words: texts.theOppositeOf(h.plan.name), testID: `new-schedule-outside-${h.plan.id}` })),
        ]}
        value={kind}
        choose={setKind}
        rows
      />
    </Sheet>
  );
}
