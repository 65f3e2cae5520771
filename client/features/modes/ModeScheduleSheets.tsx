// What is filled in for a mode schedule: a time and its mode, a date on which nothing changes, the areas.

import { useState } from 'react';
import { listed } from '@nibber/core/words';
import { switchTime, type ModeSwitch } from '@nibber/core/modes';
import { weekdays } from '@nibber/core/time';
import type { Site } from '../../state/api/types';
import { OneOf, SomeOf } from '../../ui/Choices';
import { DateField } from '../../ui/DateField';
import { Field } from '../../ui/Field';
import { Footer } from '../../ui/Footer';
import { RemoveRow } from '../../ui/RemoveRow';
import { Sheet } from '../../ui/Sheet';
import { Button, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { texts } from './words';

const sets: readonly [string, readonly number[]][] = [
  [texts.everyDay, [0, 1, 2, 3, 4, 5, 6]],
  [texts.workdays, [0, 1, 2, 3, 4]],
  [texts.weekend, [5, 6]],
];

/** `every day`, `workdays`, `Monday and Friday`. */
export function daysWords(days: readonly number[]): string {
  const sorted = [...days].sort((a, b) => a - b);
  const set = sets.find(([, of]) => of.join() === sorted.join());
  return set
    ? set[0] === 'Weekend'
      ? texts.theWeekend
      : set[0].toLowerCase()
    : listed(
        sorted.map((d) => weekdays[d]!),
        'and',
      );
}

type ModeSwitchProps = {
  modeSwitch: ModeSwitch | undefined;
  site: Site;
  save: (modeSwitch: ModeSwitch) => void;
  remove: (() => void) | undefined;
  close: () => void;
};

export function ModeSwitchSheet({ modeSwitch, site, save, remove, close }: ModeSwitchProps) {
  const [at, setAt] = useState(modeSwitch?.at ?? '');
  const [mode, setMode] = useState(modeSwitch?.mode ?? site.modes.find((m) => m.armed)?.id ?? site.modes[0]!.id);
  const [days, setDays] = useState<readonly number[]>(modeSwitch?.days ?? sets[0]![1]);
  const time = switchTime(at);
  const needsLocation = time !== undefined && time.startsWith('sun') && site.settings.latitude === undefined;
  const wrong =
    at.trim() === ''
      ? undefined
      : time === undefined
        ? texts.forExample1800Or
        : needsLocation
          ? texts.enterTheLocationFirstSite
          : undefined;
  const canSave = time !== undefined && !needsLocation && days.length > 0;
  const done = () => {
    if (!canSave) return;
    save({ at: time, mode, days });
    close();
  };
  const toggle = (day: string) => {
    const i = (weekdays as readonly string[]).indexOf(day);
    setDays((now) => (now.includes(i) ? now.filter((d) => d !== i) : [...now, i]));
  };
  return (
    <Sheet
      title={modeSwitch ? texts.from(modeSwitch.at) : texts.aTime}
      open
      close={close}
      footer={<Footer words={texts.done} save={done} canSave={canSave} cancel={close} testID="turn-done" />}
    >
      <Field
        label={texts.from2}
        value={at}
        onChangeText={setAt}
        help={texts.n1800SunsetOrSunset}
        wrong={wrong}
        onSubmitEditing={done}
        testID="turn-at"
      />
      <Words bold>{texts.mode}</Words>
      <OneOf
        label={texts.mode}
        choices={site.modes.map((m) => ({ value: m.id, words: m.name, testID: `turn-mode-${m.id}` }))}
        value={mode}
        choose={setMode}
      />
      <Words bold>{texts.on}</Words>
      <SomeOf
        label={texts.on}
        choices={weekdays.map((w, i) => ({ value: w, words: w.slice(0, 3), testID: `turn-day-${i}` }))}
        values={days.map((d) => weekdays[d]!)}
        toggle={toggle}
      />
      <Row>
        {sets.map(([words, of]) => (
          <Button key={words} words={words} onPress={() => setDays(of)} testID={`turn-${words}`} />
        ))}
      </Row>
      <RemoveRow remove={remove} close={close} testID="remove-turn" />
    </Sheet>
  );
}

export function DateSheet({ taken, save, close }: { taken: readonly string[]; save: (date: string) => void; close: () => void }) {
  const [date, setDate] = useState('');
  const isTaken = taken.includes(date);
  const done = () => {
    save(date);
    close();
  };
  return (
    <Sheet
      title={texts.addAnException}
      open
      close={close}
      footer={<Footer words={texts.done} save={done} canSave={date !== '' && !isTaken} cancel={close} testID="not-on-done" />}
    >
      <DateField label={texts.date} value={date} choose={setDate} testID="not-on-date" />
      <Words size="small" tone="second">
        {isTaken ? texts.thisDateIsAlreadyAn : texts.noAutomaticChangesThatDay}
      </Words>
    </Sheet>
  );
}

type AreasProps = { site: Site; areas: readonly string[]; save: (areas: readonly string[]) => void; close: () => void };

export function AreasSheet({ site, areas: before, save, close }: AreasProps) {
  const [areas, setAreas] = useState(before);
  const done = () => {
    save(areas);
    close();
  };
  return (
    <Sheet
      title={texts.whichAreas}
      open
      close={close}
      footer={<Footer words={texts.done} save={done} canSave={areas.length > 0} cancel={close} testID="mode-schedule-areas-done" />}
    >
      <SomeOf
        label={texts.areas}
        choices={site.areas.map((a) => ({ value: a.id, words: a.name }))}
        values={areas}
        toggle={(id) => setAreas((now) => (now.includes(id) ? now.filter((a) => a !== id) : [...now, id]))}
        rows
      />
    </Sheet>
  );
}
