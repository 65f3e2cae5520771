// One day's exact times, typed; and the other days that are to be the same.

import { useState } from 'react';
import { copied, dayText, parseDay, type Week } from '@nibber/core/schedules';
import { weekdays } from '@nibber/core/time';
import { SomeOf } from '../../ui/Choices';
import { Field } from '../../ui/Field';
import { Footer } from '../../ui/Footer';
import { Sheet } from '../../ui/Sheet';
import { Button, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { texts } from './words';

export const spansHelp = texts.forExample093012;

const sets: readonly [string, readonly number[]][] = [
  [texts.workdays, [0, 1, 2, 3, 4]],
  [texts.weekend, [5, 6]],
  [texts.everyDay, [0, 1, 2, 3, 4, 5, 6]],
];

export function DaySheet({ day, week, change, close }: { day: number; week: Week; change: (week: Week) => void; close: () => void }) {
  const [text, setText] = useState(() => dayText(week[day]!));
  const [alike, setAlike] = useState<readonly string[]>([]);
  const parsed = parseDay(text);
  const wrong = 'wrong' in parsed ? parsed.wrong : undefined;
  const toggle = (name: string) => setAlike((now) => (now.includes(name) ? now.filter((n) => n !== name) : [...now, name]));
  const done = () => {
    if (!('spans' in parsed)) return;
    const own = week.map((spans, i) => (i === day ? parsed.spans : spans));
    const to = weekdays.flatMap((name, i) => (alike.includes(name) ? [i] : []));
    change(copied(own, day, to));
    close();
  };
  return (
    <Sheet
      title={weekdays[day]!}
      open
      close={close}
      footer={<Footer words={texts.done} save={done} canSave={wrong === undefined} cancel={close} testID="day-done" />}
    >
      <Field
        label={texts.onAt}
        value={text}
        onChangeText={setText}
        wrong={wrong}
        help={spansHelp}
        onSubmitEditing={done}
        testID="day-spans"
      />
      <Words bold>{texts.theSameOn}</Words>
      <SomeOf
        label={texts.theSameOn}
        choices={weekdays.flatMap((name, i) => (i === day ? [] : [{ value: name, words: name.slice(0, 3), testID: `copy-to-${i}` }]))}
        values={alike}
        toggle={toggle}
      />
      <Row>
        {sets.map(([words, days]) => (
          <Button key={words} words={words} onPress={() => setAlike(weekdays.filter((_, i) => i !== day && days.includes(i)))} />
        ))}
      </Row>
    </Sheet>
  );
}
