// A calendar file (iCalendar, RFC 5545) read into the plan's days. What it would do is said before it does it.

import { useState } from 'react';
import type { Schedule } from '@nibber/core/site';
import { problemWords } from '../../state/api';
import { pickFile } from '../../state/api/files';
import { useReadCalendarMutation } from '../../state/api/schedules';
import { OneOf } from '../../ui/Choices';
import { Footer } from '../../ui/Footer';
import { Sheet } from '../../ui/Sheet';
import { Attention, Button, Row, Waiting } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { texts, readWords } from './words';

export type Exception = NonNullable<Schedule['exceptions']>[number];

type Read = { readonly text: string; readonly calendar: string };
type Meaning = 'closed' | 'open';

const maxCharacters = 1_000_000;

const meanings: readonly { readonly value: Meaning; readonly words: string; readonly detail: string }[] = [
  { value: 'closed', words: texts.offDuringEachEntry, detail: texts.closedDaysHolidays },
  { value: 'open', words: texts.onDuringEachEntry, detail: texts.replacesTheUsualTimesOn },
];

/** What a calendar calls itself; where it does not, its file's name. */
const nameOf = (text: string, file: string): string =>
  (/^X-WR-CALNAME[^:\r\n]*:(.+?)\r?$/m.exec(text)?.[1] ?? file.replace(/\.[^.]*$/, '')).trim().slice(0, 80) || texts.calendar;

export function CalendarSheet({
  plan,
  change,
  close,
}: {
  plan: Schedule;
  change: (exceptions: readonly Exception[]) => void;
  close: () => void;
}) {
  const [file, setFile] = useState<Read>();
  const [meaning, setMeaning] = useState<Meaning>('closed');
  const [tooLong, setTooLong] = useState<string>();
  const [read, { data, error, isLoading }] = useReadCalendarMutation();
  const ask = (next: Read, means: Meaning) =>
    void read({
      ...next,
      meaning: means,
      ...(plan.weekly ? { weekly: plan.weekly } : {}),
      ...(plan.exceptions ? { exceptions: plan.exceptions } : {}),
    });
  const pick = async () => {
    const picked = await pickFile('.ics,text/calendar');
    if (!picked) return;
    setTooLong(undefined);
    if (picked.size > maxCharacters) return setTooLong(texts.isLongerThanMbUse(picked.name, maxCharacters / 1e6));
    const text = await picked.text();
    const next = { text, calendar: nameOf(text, picked.name) };
    setFile(next);
    ask(next, meaning);
  };
  const choose = (next: Meaning) => {
    setMeaning(next);
    if (file) ask(file, next);
  };
  const add = () => {
    change(data!.exceptions as Exception[]);
    close();
  };
  return (
    <Sheet
      title={texts.fromACalendarFile}
      open
      close={close}
      footer={
        <Footer words={texts.useTheseDays} save={add} canSave={data !== undefined && !isLoading} cancel={close} testID="use-calendar" />
      }
    >
      <OneOf
        label={texts.meaningOfItsEntries}
        choices={meanings.map((m) => ({ ...m, testID: `calendar-${m.value}` }))}
        value={meaning}
        choose={choose}
        rows
      />
      <Row>
        <Button words={file ? texts.chooseAnotherFile : texts.chooseAFile} onPress={() => void pick()} testID="choose-calendar" />
      </Row>
      {isLoading && <Waiting words={texts.readingTheCalendar} />}
      {!isLoading && data && file && (
        <>
          <Words bold>{file.calendar}</Words>
          <Words testID="calendar-read">{readWords(data)}</Words>
          <Words size="small" tone="second">
            {texts.importTheSameCalendarAgain}
          </Words>
        </>
      )}
      {(tooLong ?? (error && !isLoading)) && <Attention words={tooLong ?? problemWords(error) ?? ''} />}
    </Sheet>
  );
}
