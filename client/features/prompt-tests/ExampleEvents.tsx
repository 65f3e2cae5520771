// The events that prompts are tested on, and what a good answer about each holds.

import { useState } from 'react';
import { View } from 'react-native';
import { checksOfLines } from '@nibber/core/expected';
import type { Rule } from '@nibber/core/site';
import { problemWords, useEventsInfiniteQuery } from '../../state/api';
import { useSetExamplesMutation } from '../../state/api/promptTests';
import type { PromptTestsAnswer } from '../../state/api/types';
import { Thumb } from '../../picture/Thumb';
import { Field } from '../../ui/Field';
import { Footer } from '../../ui/Footer';
import { useSay } from '../../ui/Messages';
import { Sheet } from '../../ui/Sheet';
import { Button, Row } from '../../ui/Surface';
import { exact } from '../../ui/times';
import { Words } from '../../ui/Words';
import { texts } from './words';

export function ExampleEvents({
  rule,
  promptTests,
  zone,
  close,
}: {
  rule: Rule;
  promptTests: PromptTestsAnswer;
  zone: string;
  close: () => void;
}) {
  const [chosen, setChosen] = useState<ReadonlyMap<string, string>>(
    () => new Map(promptTests.examples.map((e) => [e.event, e.checks.join('\n')])),
  );
  const { data } = useEventsInfiniteQuery({ show: 'notified' });
  const [save, saving] = useSetExamplesMutation();
  const say = useSay();
  const all = (data?.pages.flatMap((p) => p.items) ?? []).filter((i) => i.kind === 'event' && i.picture !== null);
  // Its own first.
  const examples = [
    ...all.filter((i) => i.kind === 'event' && i.rule === rule.id),
    ...all.filter((i) => i.kind === 'event' && i.rule !== rule.id),
  ].slice(0, 40);
  const wrong = [...chosen.values()].map((text) => checksOfLines(text).wrong).find(Boolean);
  const toggle = (id: string) =>
    setChosen(chosen.has(id) ? new Map([...chosen].filter(([k]) => k !== id)) : new Map([...chosen, [id, '']]));
  const keep = async () => {
    const examples = [...chosen].map(([event, text]) => ({
      event,
      checks: text
        .split('\n')
        .map((l) => l.trim())
        .filter(Boolean),
    }));
    const answer = await save({ rule: rule.id, examples });
    if (answer.error) return say(problemWords(answer.error) ?? '');
    close();
  };
  return (
    <Sheet
      title={texts.events}
      open
      close={close}
      footer={<Footer save={() => void keep()} canSave={!wrong && !saving.isLoading} cancel={close} testID="moments-save" />}
    >
      {examples.length === 0 && <Words tone="second">{texts.noEventsToTestOn}</Words>}
      {examples.map((m) => (
        <View key={m.id} style={{ gap: 4 }}>
          <Row style={{ flexWrap: 'nowrap' }}>
            <Thumb source={m.picture!} box={m.box} size={{ width: 112, height: 63 }} />
            <View style={{ flex: 1 }}>
              <Words size="small" tone="second">{`${m.cameraName ?? ''} · ${exact(m.at, zone)}`}</Words>
              <Button words={chosen.has(m.id) ? texts.deselect : texts.select} onPress={() => toggle(m.id)} testID={`event-${m.id}`} />
            </View>
          </Row>
          {chosen.has(m.id) && (
            <Field
              label={texts.expectedAnswerOneCheckPer}
              value={chosen.get(m.id)!}
              onChangeText={(text) => setChosen(new Map([...chosen, [m.id, text]]))}
              wrong={checksOfLines(chosen.get(m.id)!).wrong}
              multiline
              help={texts.containsRedNeverDogPlate}
              testID={`checks-${m.id}`}
            />
          )}
        </View>
      ))}
    </Sheet>
  );
}
