// One reading while it is set up: what is read, off which camera, by whom, when, and where it should be.

import { useState } from 'react';
import { classes, typesOf } from '@nibber/core/boxes';
import type { Reading } from '@nibber/core/site';
import { problemWords } from '../../state/api';
import { useAddReadingMutation, useRemoveReadingMutation, useSetReadingMutation, type UnnamedReading } from '../../state/api/readings';
import type { CameraAnswer, Site } from '../../state/api/types';
import { OneOf, SomeOf } from '../../ui/Choices';
import { Field } from '../../ui/Field';
import { Footer } from '../../ui/Footer';
import { NumberField } from '../../ui/NumberField';
import { RemoveRow } from '../../ui/RemoveRow';
import { Sheet } from '../../ui/Sheet';
import { Attention } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { useSaved } from '../channels/useSaved';
import { dayChoices, timesIn } from './words';

type Asked = Extract<Reading['by'], { question: string }>;
type Times = NonNullable<Reading['times']>;
type Props = { of: Reading | undefined; site: Site; cameras: readonly CameraAnswer[]; version: number; close: () => void };

const kinds = [
  { value: 'number', words: 'A number' },
  { value: 'yes or no', words: 'Yes or no' },
  { value: 'one of', words: 'One of' },
  { value: 'text', words: 'Words' },
].map((k) => ({ ...k, testID: `reading-kind-${k.value}` }));
const counted = [...classes.filter((c) => ['person', 'vehicle', 'pet', 'parcel'].includes(c)), ...typesOf.vehicle] as const;

const fresh = (camera: string): UnnamedReading => ({ name: '', camera, by: { question: '', kind: 'number' } });
const without = <T extends object>(object: T, ...keys: (keyof T)[]): T =>
  Object.fromEntries(Object.entries(object).filter(([key, value]) => !keys.includes(key as keyof T) && value !== undefined)) as T;

/** Why it cannot be saved yet; undefined where it can. */
export function readingLacks({ name, by }: UnnamedReading, atWrong: string | undefined): string | undefined {
  if (!name.trim()) return 'Enter a name.';
  if ('question' in by && by.question.trim().length < 3) return 'Enter a question.';
  if ('question' in by && by.kind === 'one of' && (by.of?.length ?? 0) < 2) return 'Enter at least two options.';
  return atWrong;
}

export function ReadingSheet({ of, site, cameras, version, close }: Props) {
  const [now, setNow] = useState<UnnamedReading>(() => of ?? fresh(cameras[0]?.id ?? ''));
  const [at, setAt] = useState(() => (of?.times?.at ?? []).join(', '));
  const [choices, setChoices] = useState(() => (of && 'question' in of.by ? (of.by.of ?? []).join(', ') : ''));
  const [add, adding] = useAddReadingMutation();
  const [set, setting] = useSetReadingMutation();
  const [remove] = useRemoveReadingMutation();
  const keep = useSaved(close);
  const change = (next: Partial<UnnamedReading>) => setNow((n) => ({ ...n, ...next }));
  const { by } = now;
  const isNumber = !('question' in by) || by.kind === 'number';
  const times = now.times ?? ({} as Times);
  const setTimes = (next: Partial<Times>) => {
    const all = without({ ...times, ...next });
    setNow((n) => (Object.keys(all).length ? { ...n, times: all } : without(n, 'times')));
  };
  const setTarget = (next: { min?: number | undefined; max?: number | undefined }) => {
    const target = without({ ...now.target, ...next });
    setNow((n) => (Object.keys(target).length ? ({ ...n, target } as UnnamedReading) : without(n, 'target')));
  };
  const read = timesIn(at);
  const lacks = readingLacks(now, read.wrong);
  const camera = cameras.find((c) => c.id === now.camera);
  const save = () => {
    const range = isNumber ? now : without(now, 'unit', 'min', 'max', 'target');
    const reading = without({ ...range, name: range.name.trim() }) as UnnamedReading;
    const work = of ? set({ version, reading: { ...reading, id: of.id } }) : add({ version, reading });
    void keep(work, `${reading.name} saved.`);
  };
  return (
    <Sheet
      title={of ? of.name : 'A reading'}
      open
      close={close}
      footer={
        <Footer save={save} canSave={lacks === undefined && !adding.isLoading && !setting.isLoading} cancel={close} testID="reading-save" />
      }
    >
      <Field
        label="Name"
        value={now.name}
        onChangeText={(name) => change({ name: name.slice(0, 80) })}
        help="Canoes on the rack"
        testID="reading-name"
      />
      <Words bold>Camera</Words>
      <OneOf
        label="Camera"
        choices={cameras.map((c) => ({ value: c.id, words: c.name, testID: `reading-camera-${c.id}` }))}
        value={now.camera}
        choose={(id) => change({ camera: id, ...('counts' in by ? { by: { counts: by.counts } } : {}) })}
      />
      <Words bold>Read by</Words>
      <OneOf
        label="Read by"
        choices={[
          { value: 'service', words: 'AI service', testID: 'reading-by-service' },
          { value: 'detector', words: 'The detector', testID: 'reading-by-detector' },
        ]}
        value={'question' in by ? 'service' : 'detector'}
        choose={(who) => change({ by: who === 'service' ? { question: '', kind: 'number' } : { counts: 'person' } })}
      />
      {'question' in by ? (
        <>
          <Field
            label="Question"
            value={by.question}
            onChangeText={(question) => change({ by: { ...by, question: question.slice(0, 300) } })}
            multiline
            help="How many canoes are on the rack?"
            testID="reading-question"
          />
          <OneOf
            label="What it is"
            choices={kinds}
            value={by.kind}
            choose={(kind) =>
              change({ by: without({ ...by, kind: kind as Asked['kind'] }, ...(kind === 'one of' ? [] : (['of'] as const))) })
            }
          />
          {by.kind === 'one of' && (
            <Field
              label="One of"
              value={choices}
              onChangeText={(text) => {
                setChoices(text);
                change({ by: { ...by, of: [...new Set(text.split(',').map((t) => t.trim()).filter(Boolean))] } }); // prettier-ignore
              }}
              help="open, closed, ajar"
              testID="reading-of"
            />
          )}
        </>
      ) : (
        <>
          <Words tone="second">Counts recognised objects. Nothing is sent to an AI service.</Words>
          <OneOf
            label="What to count"
            choices={counted.map((c) => ({ value: c, words: c, testID: `reading-counts-${c}` }))}
            value={by.counts}
            choose={(counts) => change({ by: { ...by, counts: counts as typeof by.counts } })}
          />
          <Words bold>Where</Words>
          <OneOf
            label="Where to count"
            choices={[
              { value: '', words: 'The whole picture' },
              ...(camera?.zones ?? []).filter((z) => z.purpose === 'watch').map((z) => ({ value: z.id, words: z.name })),
            ]}
            value={by.zone ?? ''}
            choose={(zone) => change({ by: zone ? { counts: by.counts, zone } : { counts: by.counts } })}
          />
        </>
      )}
      {isNumber && (
        <>
          <Field
            label="Counted in"
            value={now.unit ?? ''}
            onChangeText={(unit) => setNow((n) => (unit.trim() ? { ...n, unit: unit.slice(0, 20) } : without(n, 'unit')))}
            testID="reading-unit"
          />
          <NumberField
            label="At least"
            value={now.min}
            put={(min) => setNow((n) => without({ ...n, min } as UnnamedReading))}
            min={-1e6}
            max={1e6}
            help="Lower values are discarded."
            testID="reading-min"
          />
          <NumberField
            label="At most"
            value={now.max}
            put={(max) => setNow((n) => without({ ...n, max } as UnnamedReading))}
            min={-1e6}
            max={1e6}
            testID="reading-max"
          />
          <NumberField
            label="Normal range from"
            value={now.target?.min}
            put={(min) => setTarget({ min })}
            min={-1e6}
            max={1e6}
            testID="reading-target-min"
          />
          <NumberField
            label="Normal range to"
            value={now.target?.max}
            put={(max) => setTarget({ max })}
            min={-1e6}
            max={1e6}
            testID="reading-target-max"
          />
        </>
      )}
      <Words bold>Reading times</Words>
      <Field
        label="At these times"
        value={at}
        onChangeText={(text) => {
          setAt(text);
          const { at: list, wrong } = timesIn(text);
          if (!wrong) setTimes({ at: list.length ? list : (undefined as never) });
        }}
        wrong={read.wrong}
        help="18:30, sunset + 30 min"
        testID="reading-at"
      />
      <NumberField
        label="Interval, minutes"
        value={times.everyMinutes}
        put={(n) => setTimes({ everyMinutes: n as never })}
        min={1}
        max={1440}
        testID="reading-every"
      />
      <SomeOf
        label="On these days"
        choices={dayChoices}
        values={times.days ?? []}
        toggle={(day) => {
          const days = (times.days ?? []).includes(day) ? times.days!.filter((d) => d !== day) : [...(times.days ?? []), day];
          setTimes({ days: days.length ? days : (undefined as never) });
        }}
      />
      <Words bold>While</Words>
      <OneOf
        label="During this schedule"
        choices={[{ value: '', words: 'At any time' }, ...site.schedules.map((h) => ({ value: h.id, words: h.name }))]}
        value={times.schedule ?? ''}
        choose={(id) => setTimes({ schedule: (id || undefined) as never })}
      />
      <Words bold>After a mode change</Words>
      <OneOf
        label="After a mode change"
        choices={[{ value: '', words: 'No' }, ...site.modes.map((m) => ({ value: m.id, words: m.name }))]}
        value={times.afterMode?.modes[0] ?? ''}
        choose={(id) => setTimes({ afterMode: (id ? { modes: [id], minutes: times.afterMode?.minutes ?? 5 } : undefined) as never })}
      />
      {times.afterMode && (
        <NumberField
          label="Delay, minutes"
          value={times.afterMode.minutes}
          put={(minutes) => setTimes({ afterMode: { ...times.afterMode!, minutes: minutes ?? 0 } })}
          min={0}
          max={1440}
          testID="reading-after"
        />
      )}
      {lacks && <Words tone="second">{lacks}</Words>}
      {(adding.isError || setting.isError) && <Attention words={problemWords(adding.error ?? setting.error) ?? ''} />}
      <RemoveRow
        remove={of && (() => void keep(remove({ version, id: of.id }), `${of.name} was removed.`))}
        close={close}
        testID="reading-remove"
      />
    </Sheet>
  );
}
