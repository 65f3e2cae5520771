// The record asked in plain words: what was understood, which can be corrected; the answer; and the moments that it rests on.

import { useLocalSearchParams, useRouter, type Href } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import type { Query } from '@nibber/core/asking';
import { useCamerasQuery, useSiteQuery } from '../../state/api';
import { useAskQuery, type Asking } from '../../state/api/ask';
import type { RecordAnswer } from '../../state/api/types';
import { Field } from '../../ui/Field';
import { Button, Card, Page, Row } from '../../ui/Surface';
import { useIsWide, usePalette } from '../../ui/theme';
import { day, exact } from '../../ui/times';
import { Thumb } from '../../picture/Thumb';
import { Words } from '../../ui/Words';
import { EventCard } from '../events/EventCard';
import { EventView } from '../event/EventView';
import { Loading } from '../shell/Loading';
import { Correct } from './Correct';
import { Understood } from './Understood';
import { texts } from './words';

export function Ask() {
  const { q } = useLocalSearchParams<{ q?: string }>();
  const router = useRouter();
  const isWide = useIsWide();
  const { rule } = usePalette();
  const { data: site } = useSiteQuery();
  const [text, setText] = useState('');
  const [asking, setAsking] = useState<Asking | undefined>(q ? { question: q } : undefined);
  const [said, setSaid] = useState<string | undefined>(q);
  const asked = useAskQuery(asking!, { skip: asking === undefined, refetchOnMountOrArgChange: true });
  // While another is looked up the one before stands, and is what that follows on.
  const last = asking === undefined ? undefined : asked.data;
  const zone = site?.settings.timezone ?? 'UTC';
  const ask = (question: string) => {
    const trimmed = question.trim();
    if (!trimmed) return;
    setSaid(trimmed);
    setText('');
    setAsking({ question: trimmed, ...(last ? { before: last.query } : {}) });
  };
  const [chosen, setChosen] = useState<string>();
  const shown = last?.items.some((i) => i.id === chosen) ? chosen : last?.items[0]?.id;
  const page = (
    <Page wideColumn={false}>
      <Words size="title" bold heading={1}>
        {texts.askAboutPastEvents}
      </Words>
      <View style={{ gap: 8 }}>
        <Field
          label={last ? texts.followUpQuestion : texts.question}
          value={text}
          onChangeText={setText}
          placeholder={last ? texts.andYesterday : texts.whenWasSomeoneLastAt}
          onSubmitEditing={() => ask(text)}
          testID="ask-question"
        />
        <Row>
          <Button words={texts.ask} main disabled={!text.trim()} onPress={() => ask(text)} testID="ask" />
          {asking && <Button words={texts.startAgain} onPress={() => (setAsking(undefined), setSaid(undefined))} testID="ask-anew" />}
        </Row>
      </View>
      {asking === undefined && <Examples ask={ask} />}
      {asking && !asked.currentData && <Loading words={texts.searching} of={[asked]} isPart />}
      {asking && asked.currentData && (
        <Answered
          said={said}
          answer={asked.currentData}
          zone={zone}
          correct={(query) => setAsking({ query })}
          open={(id) => (isWide ? setChosen(id) : router.navigate(`/events/${id}` as Href))}
          chosen={isWide ? shown : undefined}
        />
      )}
    </Page>
  );
  if (!isWide) return page;
  return (
    <View style={{ flex: 1, flexDirection: 'row' }}>
      <View style={{ width: 440, borderRightWidth: 1, borderRightColor: rule }}>{page}</View>
      <View style={{ flex: 1 }}>{shown ? <EventView key={shown} id={shown} /> : null}</View>
    </View>
  );
}

function Examples({ ask }: { ask: (question: string) => void }) {
  const { data: cameras = [] } = useCamerasQuery();
  const [first = texts.theDoor, last = first] = [cameras[0]?.name, cameras.at(-1)?.name];
  const examples = [texts.whenWasSomeoneLastAt2(first), texts.howManyVehiclesCameYesterday, texts.wasAnyoneAtLastNight(last)];
  return (
    <Card>
      <Words>{texts.askAboutPeopleVehiclesAnimals}</Words>
      {examples.map((e, i) => (
        <Row key={e}>
          <Button words={e} onPress={() => ask(e)} testID={`ask-example-${i}`} />
        </Row>
      ))}
    </Card>
  );
}

/** What of it left the machine, and for whom. */
export function leftWords({ by, sentence, why, items }: Pick<RecordAnswer, 'by' | 'sentence' | 'why' | 'items'>): string {
  if (by === null) return texts.nothingWasSentToAn;
  if (why !== null) return texts.theTextOfTheQuestion(by, why);
  const rows = sentence === null ? '' : texts.andBelowAsText(items.length === 1 ? texts.theEvent : texts.theEvents(items.length));
  return texts.theTextOfTheQuestion2(rows, by);
}

type AnsweredProps = {
  said: string | undefined;
  answer: RecordAnswer;
  zone: string;
  correct: (query: Query) => void;
  open: (id: string) => void;
  chosen: string | undefined;
};

function Answered({ said, answer, zone, correct, open, chosen }: AnsweredProps) {
  const [isCorrecting, setCorrecting] = useState(false);
  const { query, items, readings, count } = answer;
  // Either moments or readings.
  const shown = items.length + readings.length;
  return (
    <View style={{ gap: 12 }} testID="ask-answer">
      <Card>
        {said && (
          <Words size="small" tone="second">
            {said}
          </Words>
        )}
        <Words size="lead" bold heading={2}>
          {answer.answer}
        </Words>
        {answer.sentence && <Words testID="ask-told">{answer.sentence}</Words>}
        <Understood query={query} change={correct} />
        <Row>
          <Button words={texts.correctIt} onPress={() => setCorrecting(true)} testID="ask-correct" />
        </Row>
        <Words size="small" tone="second">
          {texts.answeredFromStoredEventsOf(
            answer.cameras.length === 1 ? answer.cameras[0]! : texts.cameras(answer.cameras.length),
            leftWords(answer),
          )}
        </Words>
      </Card>
      {shown > 0 && (
        <Words bold heading={2}>
          {count > shown ? texts.theOf(query.wanted === 'first' ? 'first' : 'newest', shown, count) : texts.basedOn}
        </Words>
      )}
      {readings.map((r) => (
        <Card key={r.id}>
          <Row style={{ flexWrap: 'nowrap' }}>
            {r.picture && <Thumb source={r.picture} box={null} size={{ width: 112, height: 63 }} />}
            <View style={{ flexShrink: 1 }}>
              <Words bold>{`${r.name}: ${r.says}`}</Words>
              <Words size="small" tone="second">
                {exact(r.at, zone)}
              </Words>
            </View>
          </Row>
        </Card>
      ))}
      {items.map((item, i) => (
        <View key={item.id} style={{ gap: 4 }}>
          {(i === 0 || day(item.at, zone) !== day(items[i - 1]!.at, zone)) && (
            <Words size="small" tone="second">
              {day(item.at, zone)}
            </Words>
          )}
          <EventCard item={item} zone={zone} open={() => open(item.id)} chosen={item.id === chosen} />
        </View>
      ))}
      <Correct query={query} open={isCorrecting} close={() => setCorrecting(false)} change={correct} />
    </View>
  );
}
