// Not to hear of the like for a while: of its rule here, or of the camera altogether.

import { useState } from 'react';
import { problemWords, useSessionQuery } from '../../state/api';
import { useSnoozeMutation } from '../../state/api/people';
import type { EventItem, EventDetail } from '../../state/api/types';
import { OneOf } from '../../ui/Choices';
import { Footer } from '../../ui/Footer';
import { useSay } from '../../ui/Messages';
import { Sheet } from '../../ui/Sheet';
import { Button } from '../../ui/Surface';
import { clock } from '../../ui/times';
import { useNow } from '../../state/useNow';
import { texts } from './words';

const hourMs = 3_600_000;
const lengths = [
  { value: '1', words: texts.anHour },
  { value: '4', words: texts.fourHours },
  { value: '12', words: texts.twelveHours },
  { value: 'mode', words: texts.untilTheModeChanges },
] as const;

export function Snooze({ event, zone }: { event: EventDetail & EventItem; zone: string }) {
  const say = useSay();
  const now = useNow();
  const { data: session } = useSessionQuery();
  const [snooze, state] = useSnoozeMutation();
  const [open, setOpen] = useState(false);
  const [what, setWhat] = useState<'rule' | 'camera' | 'all'>('rule');
  const [length, setLength] = useState<string>('1');
  if (!session?.visitor?.person) return null;
  const save = async () => {
    const until = length === 'mode' ? null : now + Number(length) * hourMs;
    const of = {
      ...(what === 'rule' && event.rule ? { rule: event.rule } : {}),
      ...(what !== 'all' && event.camera ? { camera: event.camera } : {}),
    };
    const answer = await snooze({ ...of, until });
    if (answer.error) return say(problemWords(answer.error) ?? '');
    setOpen(false);
    say(until === null ? texts.snoozedUntilTheModeChanges : texts.snoozedUntilYouCanEnd(clock(until, zone)));
  };
  const things = [
    { value: 'rule' as const, words: `${event.ruleName}${event.cameraName ? texts.at(event.cameraName) : ''}` },
    ...(event.camera ? [{ value: 'camera' as const, words: texts.everythingAt(event.cameraName) }] : []),
    { value: 'all' as const, words: texts.everything, detail: texts.urgentAlertsStillComeThrough },
  ];
  return (
    <>
      <Button words={texts.snooze} glyph="bell" onPress={() => setOpen(true)} testID="snooze" />
      <Sheet
        title={texts.snooze}
        open={open}
        close={() => setOpen(false)}
        footer={<Footer save={() => void save()} canSave={!state.isLoading} cancel={() => setOpen(false)} testID="snooze-save" />}
      >
        <OneOf
          label={texts.whatToSnooze}
          choices={things.map((t) => ({ ...t, testID: `snooze-${t.value}` }))}
          value={what}
          choose={setWhat}
          rows
        />
        <OneOf
          label={texts.howLong}
          choices={lengths.map((l) => ({ ...l, testID: `snooze-${l.value}` }))}
          value={length}
          choose={setLength}
        />
      </Sheet>
    </>
  );
}
