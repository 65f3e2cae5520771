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
import { texts, dayChoices, timesIn } from './words';

type Asked = Extract<Reading['by'], { question: string }>;
type Times = NonNullable<Reading['times']>;
type Props = { of: Reading | undefined; site: Site; cameras: readonly CameraAnswer[]; version: number; close: () => void };

const kinds = [
  { value: 'number', words: texts.aNumber },
  { value: 'yes or no', words: texts.yesOrNo },
  { value: 'one of', words: texts.oneOf },
  { value: 'text', words: texts.words },
].map((k) => ({ ...k, testID: `reading-kind-${k.value}` }));
const counted = [...classes.filter((c) => ['person', 'vehicle', 'pet', 'parcel'].includes(c)), ...typesOf.vehicle] as const;

const fresh = (camera: string): UnnamedReading => ({ name: '', camera, by: { question: '', kind: 'number' } });
const without = <T extends object>(object: T, ...keys: (keyof T)[]): T =>
  Object.fromEntries(Object.entries(object).filter(([key, value]) => !keys.includes(key as keyof T) && value !== undefined)) as T;

/** Why it cannot be saved yet; undefined where it can. */
export function readingLacks({ name, by }: UnnamedReading, atWrong: string | undefined): string | undefined {
  if (!name.trim()) return texts.enterAName;
  if ('question' in by && by.question.trim().length < 3) return texts.enterAQuestion;
  if ('question' in by && by.kind === 'one of' && (by.of?.length ?? 0) < 2) return texts.enterAtLeastTwoOptions;
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
    void keep(work, texts.saved(reading.name));
  };
  return (
    <Sheet
      title={of ? of.name : texts.aReading}
      open
      close={close}
      footer={
        <Footer save={save} canSave={lacks === undefined && !adding.isLoading && !setting.isLoading} cancel={close} testID="reading-save" />
      }
    >
      <Field
        label={texts.name}
        value={now.name}
        onChangeText={(name) => change({ name: name.slice(0, 80) })}
        help={texts.canoesOnTheRack}
        testID="reading-name"
      />
      <Words bold>{texts.camera}</Words>
      <OneOf
        label={texts.camera}
        choices={cameras.map((c) => ({ value: c.id, words: c.name, testID: `reading-camera-${c.id}` }))}
        value={now.camera}
        choose={(id) => change({ camera: id, ...('counts' in by ? { by: { counts: by.counts } } : {}) })}
      />
      <Words bold>{texts.readBy}</Words>
      <OneOf
        label={texts.readBy}
        choices={[
          { value: 'service', words: texts.aiService, testID: 'reading-by-service' },
          { value: 'detector', words: texts.theDetector, testID: 'reading-by-detector' },
        ]}
        value={'question' in by ? 'service' : 'detector'}
        choose={(who) => change({ by: who === 'service' ? { question: '', kind: 'number' } : { counts: 'person' } })}
      />
      {'question' in by ? (
        <>
          <Field
            label={texts.question}
            value={by.question}
            onChangeText={(question) => change({ by: { ...by, question: question.slice(0, 300) } })}
            multiline
            help={texts.howManyCanoesAreOn}
            testID="reading-question"
          />
          <OneOf
            label={texts.whatItIs}
            choices={kinds}
            value={by.kind}
            choose={(kind) =>
              change({ by: without({ ...by, kind: kind as Asked['kind'] }, ...(kind === 'one of' ? [] : (['of'] as const))) })
            }
          />
          {by.kind === 'one of' && (
            <Field
              label={texts.oneOf}
              value={choices}
              onChangeText={(text) => {
                setChoices(text);
                change({
                  by: {
                    ...by,
                    of: [
                      ...new Set(
                        text
                          .split(',')
                          .map((t) => t.trim())
                          .filter(Boolean),
                      ),
                    ],
                  },
                });
              }}
              help={texts.openClosedAjar}
              testID="reading-of"
            />
          )}
        </>
      ) : (
        <>
          <Words tone="second">{texts.countsRecognisedObjectsNothingIs}</Words>
          <OneOf
            label={texts.whatToCount}
            choices={counted.map((c) => ({ value: c, words: c, testID: `reading-counts-${c}` }))}
            value={by.counts}
            choose={(counts) => change({ by: { ...by, counts: counts as typeof by.counts } })}
          />
          <Words bold>{texts.where}</Words>
          <OneOf
            label={texts.whereToCount}
            choices={[
              { value: '', words: texts.theWholePicture },
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
            label={texts.countedIn}
            value={now.unit ?? ''}
            onChangeText={(unit) => setNow((n) => (unit.trim() ? { ...n, unit: unit.slice(0, 20) } : without(n, 'unit')))}
            testID="reading-unit"
          />
          <NumberField
            label={texts.atLeast}
            value={now.min}
            put={(min) => setNow((n) => without({ ...n, min } as UnnamedReading))}
            min={-1e6}
            max={1e6}
            help={texts.lowerValuesAreDiscarded}
            testID="reading-min"
          />
          <NumberField
            label={texts.atMost}
            value={now.max}
            put={(max) => setNow((n) => without({ ...n, max } as UnnamedReading))}
            min={-1e6}
            max={1e6}
            testID="reading-max"
          />
          <NumberField
            label={texts.normalRangeFrom}
            value={now.target?.min}
            put={(min) => setTarget({ min })}
            min={-1e6}
            max={1e6}
            testID="reading-target-min"
          />
          <NumberField
            label={texts.normalRangeTo}
            value={now.target?.max}
            put={(max) => setTarget({ max })}
            min={-1e6}
            max={1e6}
            testID="reading-target-max"
          />
        </>
      )}
      <Words bold>{texts.readingTimes}</Words>
      <Field
        label={texts.atTheseTimes}
        value={at}
        onChangeText={(text) => {
          setAt(text);
          const { at: list, wrong } = timesIn(text);
          if (!wrong) setTimes({ at: list.length ? list : (undefined as never) });
        }}
        wrong={read.wrong}
        help={texts.n1830Sunset30Min}
        testID="reading-at"
      />
      <NumberField
        label={texts.intervalMinutes}
        value={times.everyMinutes}
        put={(n) => setTimes({ everyMinutes: n as never })}
        min={1}
        max={1440}
        testID="reading-every"
      />
      <SomeOf
        label={texts.onTheseDays}
        choices={dayChoices}
        values={times.days ?? []}
        toggle={(day) => {
          const days = (times.days ?? []).includes(day) ? times.days!.filter((d) => d !== day) : [...(times.days ?? []), day];
          setTimes({ days: days.length ? days : (undefined as never) });
        }}
      />
      <Words bold>{texts.while}</Words>
      <OneOf
        label={texts.duringThisSchedule}
        choices={[{ value: '', words: texts.atAnyTime }, ...site.schedules.map((h) => ({ value: h.id, words: h.name }))]}
        value={times.schedule ?? ''}
        choose={(id) => setTimes({ schedule: (id || undefined) as never })}
      />
      <Words bold>{texts.afterAModeChange}</Words>
      <OneOf
        label={texts.afterAModeChange}
        choices={[{ value: '', words: texts.no }, ...site.modes.map((m) => ({ value: m.id, words: m.name }))]}
        value={times.afterMode?.modes[0] ?? ''}
        choose={(id) => setTimes({ afterMode: (id ? { modes: [id], minutes: times.afterMode?.minutes ?? 5 } : undefined) as never })}
      />
      {times.afterMode && (
        <NumberField
          label={texts.delayMinutes}
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
        remove={of && (() => void keep(remove({ version, id: of.id }), texts.wasRemoved(of.name)))}
        close={close}
        testID="reading-remove"
      />
    </Sheet>
  );
}
