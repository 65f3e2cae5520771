// The plans of hours, each with its week, whether it is on, and what uses it; one of them opened.

import { useRouter, type Href } from 'expo-router';
import { useState } from 'react';
import { weekOfText } from '@nibber/core/schedules';
import { wallTime } from '@nibber/core/time';
import { idOf } from '@nibber/core/words';
import { useHoursQuery } from '../../../state/api/schedules';
import type { HoursNow, Site } from '../../../state/api/types';
import { hours as drafts } from '../../../state/schedules';
import { useAppDispatch } from '../../../state/store';
import { OneOf } from '../../../ui/Choices';
import { Field } from '../../../ui/Field';
import { Footer } from '../../../ui/Footer';
import { Sheet } from '../../../ui/Sheet';
import { Button, Card, Empty, Row } from '../../../ui/Surface';
import { ago } from '../../../ui/times';
import { Touch } from '../../../ui/Touch';
import { Words } from '../../../ui/Words';
import { HoursEditor } from '../../schedules/ScheduleEditor';
import { OtherDraft } from '../../shell/OtherDraft';
import { WeekOfHours } from '../../schedules/WeekGrid';
import { lengthWords, usesWords } from '../../schedules/words';
import { Loading } from '../../shell/Loading';
import { useMaySetUp } from '../../session/may';

export function Hours({ site, item }: { site: Site; item?: string }) {
  return item === undefined ? <AllHours site={site} /> : <HoursEditor site={site} id={item} />;
}

function AllHours({ site }: { site: Site }) {
  const mayEdit = useMaySetUp();
  const router = useRouter();
  const [isMaking, setMaking] = useState(false);
  const asked = useHoursQuery();
  const { data } = asked;
  if (!data) return <Loading words="Reading" of={[asked]} isPart />;
  const open = (id: string) => router.navigate(`/site/hours/${id}` as Href);
  return (
    <>
      <Row style={{ justifyContent: 'space-between' }}>
        <Words tone="second">{`Time zone: ${site.place.timezone}.`}</Words>
        {mayEdit && <Button glyph="add" words="New schedule" onPress={() => setMaking(true)} testID="new-hours" />}
      </Row>
      <OtherDraft kind={drafts} all={data.hours.map((h) => h.plan)} path="/site/hours" words="new schedule" />
      {data.hours.length === 0 && <Empty words="No schedules yet." next="Rules, quiet hours and modes can use them." />}
      {data.hours.map((h) => (
        <HoursCard key={h.plan.id} hours={h} all={data.hours} site={site} now={data.now} open={() => open(h.plan.id)} />
      ))}
      {isMaking && <NewHours all={data.hours} version={data.version} open={open} close={() => setMaking(false)} />}
    </>
  );
}

type CardProps = { hours: HoursNow; all: readonly HoursNow[]; site: Site; now: number; open: () => void };

function HoursCard({ hours: { plan, on, next, words, uses, minutesAWeek }, all, site, now, open }: CardProps) {
  const { timezone: zone, latitude, longitude } = site.place;
  const base = plan.outside === undefined ? plan : all.find((h) => h.plan.id === plan.outside)?.plan;
  const today = wallTime(zone, now);
  return (
    <Touch press={open} role="link" testID={`hours-${plan.id}`}>
      <Card>
        <Row style={{ justifyContent: 'space-between' }}>
          <Words bold heading={2}>
            {plan.name}
          </Words>
          <Words tone={on ? 'work' : 'second'} size="small">
            {`${on ? 'on' : 'off'}${next ? ` until ${ago(next, now, zone)}` : ''}`}
          </Words>
        </Row>
        <WeekOfHours
          week={weekOfText(base?.weekly as never)}
          place={{ zone, latitude, longitude }}
          monday={today.day - today.weekday}
          isInverted={plan.outside !== undefined}
        />
        <Words tone="second" size="small">
          {plan.outside === undefined
            ? `${words}. ${lengthWords(minutesAWeek)} a week.`
            : `The opposite of ${base?.name}. ${lengthWords(minutesAWeek)} a week.`}
        </Words>
        <Words tone="second" size="small">
          {usesWords(uses)}
        </Words>
      </Card>
    </Touch>
  );
}

const ownWeek = 'own';

type NewProps = { all: readonly HoursNow[]; version: number; open: (id: string) => void; close: () => void };

/** Begun as a draft: nothing is saved before it was seen. */
function NewHours({ all, version, open, close }: NewProps) {
  const dispatch = useAppDispatch();
  const [name, setName] = useState('');
  const [kind, setKind] = useState(ownWeek);
  const begin = () => {
    const id = idOf(name, all.map((h) => h.plan.id), 'hours'); // prettier-ignore
    const content = { id, name: name.trim(), ...(kind === ownWeek ? { weekly: {} } : { outside: kind }) };
    dispatch(drafts.begin({ of: id, version, content }));
    close();
    open(id);
  };
  const bases = all.filter((h) => h.plan.outside === undefined);
  return (
    <Sheet
      title="New schedule"
      open
      close={close}
      footer={<Footer words="Go on" save={begin} canSave={name.trim() !== ''} cancel={close} testID="begin-hours" />}
    >
      <Field
        label="Name"
        value={name}
        onChangeText={setName}
        help="For example: Quiet at night"
        testID="new-hours-name"
        onSubmitEditing={() => name.trim() && begin()}
      />
      <OneOf
        label="When it is on"
        choices={[
          { value: ownWeek, words: 'Its own weekly schedule', testID: 'new-hours-own' },
          ...bases.map((h) => ({ value: h.plan.id, words: `The opposite of ${h.plan.name}`, testID: `new-hours-outside-${h.plan.id}` })),
        ]}
        value={kind}
        choose={setKind}
        rows
      />
    </Sheet>
  );
}
