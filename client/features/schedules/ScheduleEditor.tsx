// One schedule while it is changed: its name, its week, the days that are otherwise, and what hangs on it.

import { useRouter } from 'expo-router';
import { useDeferredValue, useMemo, useState } from 'react';
import { View } from 'react-native';
import { clockDays, makePlan, minutesAWeek, templates, textOfWeek, weekOfText, type Week } from '@nibber/core/schedules';
import type { Schedule } from '@nibber/core/site';
import { dateText, wallTime } from '@nibber/core/time';
import { problemWords, useRevertMutation } from '../../state/api';
import { useSchedulesQuery, useRemoveScheduleMutation, useSetScheduleMutation } from '../../state/api/schedules';
import type { ScheduleNow, Site } from '../../state/api/types';
import { schedules } from '../../state/schedules';
import { useDraft } from '../../state/useDraft';
import { OneOf } from '../../ui/Choices';
import { Field } from '../../ui/Field';
import { DraftBar } from '../../ui/DraftBar';
import { useSay } from '../../ui/Messages';
import { Sheet } from '../../ui/Sheet';
import { Attention, Button, Card, Empty, Row } from '../../ui/Surface';
import { ago } from '../../ui/times';
import { ChangedElsewhere, Unsaved } from '../../ui/Unsaved';
import { Words } from '../../ui/Words';
import { Loading } from '../shell/Loading';
import { DaySheet } from './DaySheet';
import { Exceptions } from './Exceptions';
import { OtherDraft } from '../shell/OtherDraft';
import { WeekGrid } from './WeekGrid';
import { texts, clockDayWords, lengthWords, usesWords } from './words';
import { useMaySetUp } from '../session/may';

export function ScheduleEditor({ site, id }: { site: Site; id: string }) {
  const asked = useSchedulesQuery();
  if (!asked.data) return <Loading of={[asked]} isPart />;
  const { schedules: all, version, now } = asked.data;
  return (
    <Editor
      key={id}
      site={site}
      id={id}
      saved={all.find((h) => h.plan.id === id)}
      others={all.filter((h) => h.plan.id !== id)}
      version={version}
      now={now}
    />
  );
}

type Props = {
  site: Site;
  id: string;
  /** Undefined where it is new. */
  saved: ScheduleNow | undefined;
  others: readonly ScheduleNow[];
  version: number;
  now: number;
};

function Editor({ site, id, saved, others, version, now: at }: Props) {
  const router = useRouter();
  const say = useSay();
  const mayEdit = useMaySetUp();
  const draft = useDraft(schedules, id, saved && { version, content: saved.plan as Schedule });
  const [day, setDay] = useState<number>();
  const [isLeaving, setLeaving] = useState(false);
  const [isTemplate, setTemplate] = useState(false);
  const [save, saving] = useSetScheduleMutation();
  const [remove] = useRemoveScheduleMutation();
  const [revertChange] = useRevertMutation();
  const { now } = draft;
  const { timezone: zone, latitude, longitude } = site.settings;
  const place = useMemo(() => ({ zone, latitude, longitude }), [zone, latitude, longitude]);
  const today = wallTime(zone, at);
  const settled = useDeferredValue(now);
  const clocks = useMemo(() => settled && clocksOf(settled, others, place, at), [settled, others, place, at]);
  if (!now) return <Empty words={texts.scheduleNotFound} next={texts.chooseAnotherFromTheList} />;

  const base = now.outside === undefined ? now : (others.find((h) => h.plan.id === now.outside)?.plan as Schedule | undefined);
  const week = weekOfText(base?.weekly);
  const setWeek = (next: Week, isDrag = false) => draft.change({ ...now, weekly: textOfWeek(next) as Schedule['weekly'] }, isDrag);
  const leave = () => {
    draft.end();
    router.navigate('/site/schedules');
  };
  const keep = async () => {
    const answer = await save({ plan: { ...now, name: now.name.trim() }, version: draft.version });
    if (answer.error) return;
    draft.end();
    say(texts.saved(now.name.trim()));
  };
  const removeIt = async () => {
    const answer = await remove({ id, version });
    if (answer.error) return say(problemWords(answer.error) ?? '');
    draft.end();
    router.navigate('/site/schedules');
    say(texts.removed(now.name), { label: texts.undo, press: () => void revertChange(answer.data.version) });
  };
  const canSave = (draft.isChanged || !saved) && now.name.trim() !== '' && !draft.isOlder && !saving.isLoading;
  return (
    <View style={{ gap: 16 }}>
      <OtherDraft kind={schedules} id={id} all={others.map((h) => h.plan)} path="/site/schedules" words={texts.newSchedule} />
      {saved && (
        <View>
          <Words tone={saved.on ? 'work' : 'second'} bold>
            {texts.now(saved.on ? texts.on : texts.off, saved.next ? `, until ${ago(saved.next, at, zone)}` : '')}
          </Words>
          <Words tone="second" testID="schedule-uses">
            {usesWords(saved.uses)}
          </Words>
        </View>
      )}
      {mayEdit && (
        <Field
          label={texts.name}
          value={now.name}
          onChangeText={(name) => draft.change({ ...now, name }, true)}
          testID="schedule-name"
          wrong={now.name.trim() === '' ? texts.required : undefined}
        />
      )}
      <Card>
        {now.outside !== undefined && <Words>{texts.theOppositeOfItChanges(base?.name ?? now.outside)}</Words>}
        <WeekGrid
          week={week}
          place={place}
          monday={today.day - today.weekday}
          isInverted={now.outside !== undefined}
          {...(mayEdit && now.outside === undefined ? { paint: setWeek, startDrag: draft.startDrag, openDay: setDay } : {})}
        />
        {clocks && (
          <Words bold testID="schedule-a-week">
            {texts.aWeek(lengthWords(clocks.aWeek))}
          </Words>
        )}
        {mayEdit && now.outside === undefined && (
          <Row>
            <Button words={texts.startFrom} onPress={() => setTemplate(true)} testID="begin-from" />
            <Button glyph="undo" label={texts.undo} disabled={!draft.isChanged} onPress={draft.undo} testID="schedule-undo" />
            <Button glyph="redo" label={texts.redo} disabled={!draft.canRedo} onPress={draft.redo} testID="schedule-redo" />
          </Row>
        )}
      </Card>
      {now.outside === undefined && (
        <Card>
          <Exceptions
            plan={now}
            today={dateText(today.day)}
            change={(exceptions) => draft.change({ ...now, exceptions: [...exceptions] })}
          />
        </Card>
      )}
      {clocks && clocks.days.length > 0 && (
        <View style={{ gap: 4 }}>
          {clocks.days.map((c) => (
            <Words key={c.day} size="small" tone="second">
              {clockDayWords({ ...c, date: dateText(c.day) })}
            </Words>
          ))}
        </View>
      )}
      {draft.isOlder && <ChangedElsewhere what={saved!.plan.name} drop={draft.end} goOn={draft.goOn} />}
      {saving.isError && <Attention words={problemWords(saving.error) ?? ''} />}
      {isLeaving && <Unsaved discard={leave} goOn={() => setLeaving(false)} />}
      {mayEdit && (
        <DraftBar
          isOpen={draft.isChanged || !saved}
          beside={
            saved && (
              <Button words={texts.remove} disabled={saved.uses.length > 0} onPress={() => void removeIt()} testID="remove-schedule" />
            )
          }
          save={() => void keep()}
          canSave={canSave}
          cancel={() => (draft.isChanged ? setLeaving(true) : leave())}
          testID="save-schedule"
          cancelTestID="leave-schedule"
        />
      )}
      {day !== undefined && <DaySheet day={day} week={week} change={setWeek} close={() => setDay(undefined)} />}
      {isTemplate && (
        <Sheet title={texts.startFrom} open close={() => setTemplate(false)}>
          <OneOf
            label={texts.startFrom}
            choices={templates
              .filter((t) => t.id !== 'dark' || latitude !== undefined)
              .map((t) => ({ value: t.id, words: t.name, testID: `template-${t.id}` }))}
            value={undefined}
            choose={(chosen) => setWeek(templates.find((t) => t.id === chosen)!.week)}
            picked={() => setTemplate(false)}
            rows
          />
        </Sheet>
      )}
    </View>
  );
}

/** What a draft comes to. */
function clocksOf(plan: Schedule, others: readonly ScheduleNow[], place: Parameters<typeof makePlan>[0], at: number) {
  const base = plan.outside === undefined ? plan : others.find((h) => h.plan.id === plan.outside)?.plan;
  const made = makePlan(place, (base ?? {}) as Parameters<typeof makePlan>[1], plan.outside !== undefined);
  return { aWeek: minutesAWeek(made, wallTime(made.zone, at).day), days: clockDays(made, at) };
}
