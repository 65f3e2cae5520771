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

const hourMs = 3_600_000;
const lengths = [
  { value: '1', words: 'An hour' },
  { value: '4', words: 'Four hours' },
  { value: '12', words: 'Twelve hours' },
  { value: 'mode', words: 'Until the mode changes' },
] as const;

export function Snooze({ moment, zone }: { moment: EventDetail & EventItem; zone: string }) {
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
      ...(what === 'rule' && moment.rule ? { rule: moment.rule } : {}),
      ...(what !== 'all' && moment.camera ? { camera: moment.camera } : {}),
    };
    const answer = await snooze({ ...of, until });
    if (answer.error) return say(problemWords(answer.error) ?? '');
    setOpen(false);
    say(until === null ? 'Snoozed until the mode changes.' : `Snoozed until ${clock(until, zone)}. You can end this under My alerts.`); // prettier-ignore
  };
  const things = [
    { value: 'rule' as const, words: `${moment.ruleName}${moment.cameraName ? ` at ${moment.cameraName}` : ''}` },
    ...(moment.camera ? [{ value: 'camera' as const, words: `Everything at ${moment.cameraName}` }] : []),
    { value: 'all' as const, words: 'Everything', detail: 'Urgent alerts still come through' },
  ];
  return (
    <>
      <Button words="Snooze" glyph="bell" onPress={() => setOpen(true)} testID="snooze" />
      <Sheet
        title="Snooze"
        open={open}
        close={() => setOpen(false)}
        footer={<Footer save={() => void save()} canSave={!state.isLoading} cancel={() => setOpen(false)} testID="snooze-save" />}
      >
        <OneOf
          label="What to snooze"
          choices={things.map((t) => ({ ...t, testID: `snooze-${t.value}` }))}
          value={what}
          choose={setWhat}
          rows
        />
        <OneOf label="How long" choices={lengths.map((l) => ({ ...l, testID: `snooze-${l.value}` }))} value={length} choose={setLength} />
      </Sheet>
    </>
  );
}
