// Days on which it is otherwise: by hand, or from a calendar file.

import { useState } from 'react';
import { View } from 'react-native';
import { List } from 'react-native-paper';
import { parseDay, spanText } from '@nibber/core/schedules';
import type { Schedule } from '@nibber/core/site';
import { DateField } from '../../ui/DateField';
import { Field } from '../../ui/Field';
import { Footer } from '../../ui/Footer';
import { Sheet } from '../../ui/Sheet';
import { Button, Row } from '../../ui/Surface';
import { target, usePalette } from '../../ui/theme';
import { Words } from '../../ui/Words';
import { CalendarSheet, type Exception } from './CalendarSheet';
import { spansHelp } from './DaySheet';
import { texts, dateWords } from './words';

type Props = { plan: Schedule; today: string; change: (exceptions: readonly Exception[]) => void };

const byDate = (a: Exception, b: Exception) => (a.date < b.date ? -1 : 1);

export function Exceptions({ plan, today, change }: Props) {
  const p = usePalette();
  const [open, setOpen] = useState<Exception | 'new' | 'calendar'>();
  const [allShown, setAllShown] = useState(false);
  const all = [...(plan.exceptions ?? [])].sort(byDate);
  const past = all.filter((e) => e.date < today);
  const close = () => setOpen(undefined);
  return (
    <View style={{ gap: 8 }}>
      <Words bold heading={2}>
        {texts.exceptions}
      </Words>
      {all.length === 0 && <Words tone="second">{texts.noneEveryWeekIsThe}</Words>}
      <View>
        {(allShown ? all : all.filter((e) => e.date >= today)).map((e) => (
          <List.Item
            key={e.date}
            title={dateWords(e.date)}
            description={[e.spans.join(', ') || 'closed', e.name, e.calendar && texts.from(e.calendar)].filter(Boolean).join(' · ')}
            descriptionNumberOfLines={3}
            onPress={() => setOpen(e)}
            testID={`exception-${e.date}`}
            style={{ minHeight: target, borderTopWidth: 1, borderTopColor: p.rule, paddingVertical: 4, marginHorizontal: -16 }}
          />
        ))}
      </View>
      {past.length > 0 && !allShown && (
        <Row>
          <Button words={past.length === 1 ? texts.onePastDay : texts.pastDays(past.length)} onPress={() => setAllShown(true)} />
        </Row>
      )}
      <Row>
        <Button glyph="add" words={texts.addADay} onPress={() => setOpen('new')} testID="add-exception" />
        <Button glyph="calendar" words={texts.fromACalendarFile} onPress={() => setOpen('calendar')} testID="from-calendar" />
      </Row>
      {open === 'calendar' && <CalendarSheet plan={plan} change={change} close={close} />}
      {open !== undefined && open !== 'calendar' && (
        <ExceptionSheet
          start={open === 'new' ? { date: today, spans: [] } : open}
          isNew={open === 'new'}
          taken={all.filter((e) => e !== open).map((e) => e.date)}
          put={(next) => change([...all.filter((e) => e !== open), ...(next ? [next] : [])].sort(byDate))}
          close={close}
        />
      )}
    </View>
  );
}

type SheetProps = {
  start: Exception;
  isNew: boolean;
  taken: readonly string[];
  put: (next: Exception | undefined) => void;
  close: () => void;
};

function ExceptionSheet({ start, isNew, taken, put, close }: SheetProps) {
  const [date, setDate] = useState(start.date);
  const [name, setName] = useState(start.name ?? '');
  const [text, setText] = useState(() => start.spans.join(', '));
  const parsed = parseDay(text);
  const wrong = 'wrong' in parsed ? parsed.wrong : undefined;
  const isTaken = taken.includes(date);
  const done = () => {
    if (!('spans' in parsed)) return;
    // What is changed by hand is no longer the calendar's.
    put({ date, ...(name.trim() ? { name: name.trim() } : {}), spans: parsed.spans.map(spanText) });
    close();
  };
  return (
    <Sheet
      title={isNew ? texts.exception : dateWords(start.date)}
      open
      close={close}
      footer={
        <Footer
          words={texts.done}
          save={done}
          canSave={wrong === undefined && date !== '' && !isTaken}
          cancel={close}
          testID="exception-done"
        />
      }
    >
      <DateField label={texts.day} value={date} choose={setDate} testID="exception-date" />
      {isTaken && <Words tone="second">{texts.thisDayIsAlreadyIn}</Words>}
      <Field label={texts.nameOptional} value={name} onChangeText={setName} testID="exception-name" />
      <Field label={texts.onAt} value={text} onChangeText={setText} wrong={wrong} help={spansHelp} testID="exception-spans" />
      {!isNew && (
        <Row>
          <Button words={texts.remove} onPress={() => (put(undefined), close())} testID="exception-remove" />
        </Row>
      )}
    </Sheet>
  );
}
