// Why was I (not) notified? Asked for a camera and a time; answered from the record.

import { useRouter, type Href } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { DateTime } from 'luxon';
import { useCamerasQuery, useSessionQuery, useSiteQuery } from '../../state/api';
import { useWhyQuery } from '../../state/api/people';
import type { WhyAnswer, WhyFound } from '../../state/api/types';
import { useNow } from '../../state/useNow';
import { OneOf } from '../../ui/Choices';
import { DateField } from '../../ui/DateField';
import { Field } from '../../ui/Field';
import { Button, Card, Empty, Page, Row } from '../../ui/Surface';
import { ago, clock, exact } from '../../ui/times';
import { Words } from '../../ui/Words';
import { titleOf } from '../events/words';
import { Notified } from '../event/Sent';
import { useMaySetUp } from '../session/may';
import { Loading } from '../shell/Loading';
import { Thumb } from '../../picture/Thumb';
import { texts } from './words';

const isTime = (text: string) => /^([01]\d|2[0-3]):[0-5]\d$/.test(text);

export function Why() {
  const now = useNow();
  const asked = [useSiteQuery(), useCamerasQuery()] as const;
  const [{ data: site }, { data: cameras }] = asked;
  const { data: session } = useSessionQuery();
  const maySetUp = useMaySetUp();
  const zone = site?.settings.timezone ?? 'UTC';
  const [camera, setCamera] = useState<string>();
  const [date, setDate] = useState<string>();
  const [time, setTime] = useState('');
  const [person, setPerson] = useState<string>();
  const [question, setQuestion] = useState<{ camera: string; at: number; person?: string }>();
  if (!site || !cameras) return <Loading of={asked} />;
  const today = DateTime.fromMillis(site.now, { zone }).toISODate()!;
  const day = date ?? today;
  const who = person ?? session?.visitor?.person ?? site.people[0]?.id;
  const at = isTime(time) ? DateTime.fromISO(`${day}T${time}`, { zone }).toMillis() : undefined;
  const ask = () => camera && at !== undefined && setQuestion({ camera, at, ...(who ? { person: who } : {}) });
  return (
    <Page wideColumn={false}>
      <Words size="title" bold heading={1}>
        {texts.whyWasINotNotified}
      </Words>
      <Card>
        <Words bold>{texts.whichCamera}</Words>
        <OneOf
          label={texts.camera}
          choices={cameras.map((c) => ({ value: c.id, words: c.name, testID: `why-${c.id}` }))}
          value={camera}
          choose={setCamera}
        />
        <Words bold>{texts.when}</Words>
        <Row style={{ flexWrap: 'nowrap', alignItems: 'flex-start' }}>
          <View style={{ flex: 1 }}>
            <DateField label={texts.day} value={day} choose={setDate} testID="why-day" />
          </View>
          <View style={{ flex: 1 }}>
            <Field
              label={texts.approximateTime}
              value={time}
              onChangeText={setTime}
              inputMode="numeric"
              placeholder="21:30"
              wrong={time === '' || isTime(time) ? undefined : texts.forExample2130}
              onSubmitEditing={ask}
              testID="why-time"
            />
          </View>
        </Row>
        {maySetUp && site.people.length > 1 && <Words bold>{texts.person}</Words>}
        {maySetUp && site.people.length > 1 && (
          <OneOf
            label={texts.person}
            choices={site.people.map((p) => ({ value: p.id, words: p.name, testID: `why-of-${p.id}` }))}
            value={who}
            choose={setPerson}
          />
        )}
        <Row>
          <Button words={texts.askAboutPastEvents} main disabled={!camera || at === undefined} onPress={ask} testID="why-ask" />
        </Row>
      </Card>
      {question && <Answer question={question} zone={zone} now={now} />}
    </Page>
  );
}

function Answer({ question, zone, now }: { question: { camera: string; at: number; person?: string }; zone: string; now: number }) {
  const asked = useWhyQuery(question, { refetchOnMountOrArgChange: true });
  if (!asked.data) return <Loading words={texts.checking} of={[asked]} isPart />;
  const { found, from, to, camera, person } = asked.data;
  if (found.length === 0)
    return (
      <Empty words={texts.detectedNothingFromToSo(camera, clock(from, zone), clock(to, zone))} next={nearestWords(asked.data, zone, now)} />
    );
  return (
    <View style={{ gap: 12 }} testID="why-answer">
      {found.map((f) => (
        <Found key={f.item.id} found={f} zone={zone} person={person} />
      ))}
    </View>
  );
}

const nearestWords = ({ before, after }: WhyAnswer, zone: string, now: number) =>
  [
    before === null ? texts.noEarlierDataIsStored : texts.lastDetectionBefore(ago(before, now, zone)),
    ...(after === null ? [] : [texts.afterIt(ago(after, now, zone))]),
  ]
    .join(', ')
    .replace(/\.?$/, '.');

function Found({ found: { item, trails, alerts, acts }, zone, person }: { found: WhyFound; zone: string; person: string }) {
  const router = useRouter();
  const furthest = [...trails].sort((a, b) => b.steps.length - a.steps.length)[0];
  return (
    <Card>
      <Row style={{ flexWrap: 'nowrap', alignItems: 'flex-start', gap: 12 }}>
        {item.picture && <Thumb source={item.picture} box={item.box} size={{ width: 96, height: 72 }} />}
        <View style={{ flex: 1, gap: 4 }}>
          <Words bold heading={2}>
            {titleOf(item)}
          </Words>
          <Words size="small" tone="second">
            {exact(item.at, zone)}
          </Words>
          {item.kind === 'track' ? (
            <Words>{furthest ? texts.noAlertWasSent(furthest.why) : texts.noAlertNoRuleCovers}</Words>
          ) : alerts.length > 0 ? (
            <Notified alerts={alerts} zone={zone} saysLooked />
          ) : (
            <Words>{texts.itMatchedButThatRule(item.ruleName, person)}</Words>
          )}
          {acts.map((a) => (
            <Words key={`${a.at} ${a.what}`} size="small" tone="second">{`${a.who} ${a.what}, ${clock(a.at, zone)}.`}</Words>
          ))}
        </View>
      </Row>
      <Row>
        <Button words={texts.openEvent} onPress={() => router.navigate(`/events/${item.id}` as Href)} />
      </Row>
    </Card>
  );
}
