// One reminder while it is set up, with its sentence above.

import { useState } from 'react';
import type { Reading, Reminder } from '@nibber/core/site';
import { problemWords } from '../../state/api';
import { useAddReminderMutation, useRemoveReminderMutation, useSetReminderMutation, type UnnamedReminder } from '../../state/api/readings';
import type { Site } from '../../state/api/types';
import { Check, OneOf, SomeOf } from '../../ui/Choices';
import { Field } from '../../ui/Field';
import { Footer } from '../../ui/Footer';
import { NumberField } from '../../ui/NumberField';
import { RemoveRow } from '../../ui/RemoveRow';
import { Sheet } from '../../ui/Sheet';
import { Attention, Card } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { useSaved } from '../channels/useSaved';
import { NotifyPart } from '../rules/parts/Notify';
import { texts, dayChoices, reminderWords, timesIn } from './words';

type Props = { of: Reminder | undefined; reading: Reading; site: Site; version: number; close: () => void };

const compares = [
  { value: 'under', words: texts.under, testID: 'reminder-under' },
  { value: 'over', words: texts.over, testID: 'reminder-over' },
  { value: 'equal', words: texts.exactly, testID: 'reminder-equal' },
] as const;
type Compare = (typeof compares)[number]['value'];

const without = <T extends object>(object: T): T =>
  Object.fromEntries(Object.entries(object).filter(([, value]) => value !== undefined)) as T;

const firstOf = (reading: Reading): UnnamedReminder['is'] => {
  if ('question' in reading.by && reading.by.kind === 'yes or no') return { equal: true };
  if ('question' in reading.by && reading.by.kind !== 'number') return { equal: reading.by.of?.[0] ?? 'yes' };
  return reading.target?.min !== undefined ? { under: reading.target.min } : { over: reading.target?.max ?? 0 };
};

export function ReminderSheet({ of, reading, site, version, close }: Props) {
  const [now, setNow] = useState<UnnamedReminder>(
    () => of ?? { name: '', reading: reading.id, is: firstOf(reading), againMinutes: 15, notify: [{ to: 'owner', channel: 'push' }] },
  );
  const [at, setAt] = useState(() => (of?.at ?? []).join(', '));
  const [until, setUntil] = useState(of?.until ?? '');
  const [add, adding] = useAddReminderMutation();
  const [set, setting] = useSetReminderMutation();
  const [remove] = useRemoveReminderMutation();
  const keep = useSaved(close);
  const change = (next: { [K in keyof UnnamedReminder]?: UnnamedReminder[K] | undefined }) =>
    setNow((n) => without({ ...n, ...next }) as UnnamedReminder);
  const isNumber = !('question' in reading.by) || reading.by.kind === 'number';
  const compare: Compare = now.is.under !== undefined ? 'under' : now.is.over !== undefined ? 'over' : 'equal';
  const level = now.is.under ?? now.is.over ?? Number(now.is.equal ?? 0);
  const isOf = (how: Compare, n: number): UnnamedReminder['is'] => (how === 'equal' ? { equal: String(n) } : { [how]: n });
  const [readAt, readUntil] = [timesIn(at), timesIn(until)];
  const isWhole = now.name.trim() !== '' && !readAt.wrong && !readUntil.wrong && readUntil.at.length < 2 && now.notify.length > 0;
  const save = () => {
    const reminder = { ...now, name: now.name.trim() };
    void keep(of ? set({ version, reminder: { ...reminder, id: of.id } }) : add({ version, reminder }), texts.saved(reminder.name));
  };
  return (
    <Sheet
      title={of ? of.name : texts.aReminder}
      open
      close={close}
      footer={<Footer save={save} canSave={isWhole && !adding.isLoading && !setting.isLoading} cancel={close} testID="reminder-save" />}
    >
      <Card>
        <Words testID="reminder-words">{reminderWords({ ...now, id: '' }, reading, site)}</Words>
      </Card>
      <Field
        label={texts.name}
        value={now.name}
        onChangeText={(name) => change({ name: name.slice(0, 80) })}
        help={texts.titleOfTheAlert}
        testID="reminder-name"
      />
      {isNumber ? (
        <>
          <OneOf label={texts.whenItIs} choices={compares} value={compare} choose={(how) => change({ is: isOf(how as Compare, level) })} />
          <NumberField
            label={reading.unit ?? texts.number}
            value={level}
            put={(n) => change({ is: isOf(compare, n ?? 0) })}
            min={-1e6}
            max={1e6}
            testID="reminder-level"
          />
        </>
      ) : 'question' in reading.by && reading.by.kind === 'yes or no' ? (
        <OneOf
          label={texts.whenItIs}
          choices={[
            { value: 'yes', words: texts.yes },
            { value: 'no', words: texts.no },
          ]}
          value={now.is.equal ? 'yes' : 'no'}
          choose={(v) => change({ is: { equal: v === 'yes' } })}
        />
      ) : (
        <Field
          label={texts.whenItIs}
          value={String(now.is.equal ?? '')}
          onChangeText={(equal) => change({ is: { equal: equal.slice(0, 80) } })}
          testID="reminder-equal-words"
        />
      )}
      <Field
        label={texts.checkAtTheseTimes}
        value={at}
        onChangeText={(text) => {
          setAt(text);
          const { at: list, wrong } = timesIn(text);
          if (!wrong) change({ at: list.length ? (list as Reminder['at']) : undefined });
        }}
        wrong={readAt.wrong}
        help={texts.sunset30MinIfEmpty}
        testID="reminder-at"
      />
      <NumberField
        label={texts.delayMinutes}
        value={now.forMinutes}
        put={(forMinutes) => change({ forMinutes })}
        min={1}
        max={1440}
        testID="reminder-for"
      />
      <NumberField
        label={texts.repeatIntervalMinutes}
        value={now.againMinutes}
        put={(againMinutes) => change({ againMinutes })}
        min={1}
        max={1440}
        help={texts.repeatsUntilResolvedIfEmpty}
        testID="reminder-again"
      />
      <Field
        label={texts.until}
        value={until}
        onChangeText={(text) => {
          setUntil(text);
          const { at: list, wrong } = timesIn(text);
          if (!wrong) change({ until: list[0] });
        }}
        wrong={readUntil.wrong}
        help="22:00"
        testID="reminder-until"
      />
      <SomeOf
        label={texts.onTheseDays}
        choices={dayChoices}
        values={now.days ?? []}
        toggle={(day) => {
          const days = now.days?.includes(day) ? now.days.filter((d) => d !== day) : [...(now.days ?? []), day];
          change({ days: days.length ? (days as Reminder['days']) : undefined });
        }}
      />
      <Words bold>{texts.onDaysWith}</Words>
      <OneOf
        label={texts.daysInThisSchedule}
        choices={[
          { value: '', words: texts.everyDay },
          ...site.schedules.map((h) => ({ value: h.id, words: h.name, testID: `reminder-open-${h.id}` })),
        ]}
        value={now.openDays ?? ''}
        choose={(id) => change({ openDays: id || undefined })}
      />
      <Check
        words={texts.urgent}
        detail={texts.ignoresQuietHoursAndSnooze}
        checked={now.urgent === true}
        press={() => change({ urgent: now.urgent ? undefined : true })}
        testID="reminder-urgent"
      />
      <Words bold>{texts.recipients}</Words>
      <NotifyPart site={site} notify={now.notify} change={(notify) => change({ notify })} />
      {(adding.isError || setting.isError) && <Attention words={problemWords(adding.error ?? setting.error) ?? ''} />}
      <RemoveRow
        remove={of && (() => void keep(remove({ version, id: of.id }), texts.reminderRemoved(of.name)))}
        close={close}
        testID="reminder-remove"
      />
    </Sheet>
  );
}
