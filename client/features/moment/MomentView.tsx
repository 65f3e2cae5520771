// A moment: the clip with boxes, the sentence, who was told, kept or noise, and the trail gate by gate.

import { useRouter } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { Snackbar } from 'react-native-paper';
import { Loading } from '../../ui/Loading';
import { Attention, Button, Page, Row, Sheet } from '../../ui/Surface';
import { capital } from '../../ui/capital';
import { exact } from '../../ui/times';
import { Words } from '../../ui/Words';
import { troubleWords, useMomentQuery, useSetMarkMutation, useSiteQuery } from '../api/api';
import type { AlertAnswer, Mark, Moment, TrailAnswer } from '../api/types';
import { Trail } from '../sieve/Trail';
import { Clip } from './Clip';

export function MomentView({ id }: { id: string }) {
  const router = useRouter();
  const asked = [useMomentQuery(id), useSiteQuery()] as const;
  const [{ data: moment }, { data: site }] = asked;
  if (!moment || !site) return <Loading words="Fetching the moment" of={asked} />;
  const zone = site.place.timezone;
  const isEvent = moment.kind === 'event';
  return (
    <Page wideColumn={false}>
      <View style={{ gap: 2 }}>
        <Words size="title" bold heading={1} testID="moment-title">
          {isEvent
            ? moment.isTest
              ? `Test: ${moment.ruleName}`
              : moment.ruleName
            : `${capital(moment.type ?? moment.class)}: nobody was told`}
        </Words>
        <Words tone="second">
          {moment.cameraName} · {exact(moment.at, zone)}
        </Words>
      </View>
      <Clip moment={moment} zone={zone} />
      {isEvent && <Description moment={moment} />}
      {isEvent && <Marks id={id} mark={moment.mark} />}
      <Row>
        <Button words={`Live at ${moment.cameraName}`} glyph="cameras" onPress={() => router.navigate(`/cameras/${moment.camera}`)} />
      </Row>
      {moment.alerts.length > 0 && <Told alerts={moment.alerts} zone={zone} />}
      {moment.trails.map((t) => (
        <TrailSheet key={t.rule} trail={t} />
      ))}
      {moment.trails.length === 0 && <Words tone="second">Its trail is written when it has left the picture.</Words>}
    </Page>
  );
}

function Description({ moment }: { moment: Moment }) {
  if (moment.description)
    return (
      <Words size="lead" testID="description">
        {moment.description}
      </Words>
    );
  return (
    <Words tone="second">{moment.descriptionTrouble ? `No description. ${moment.descriptionTrouble}` : 'No description (yet).'}</Words>
  );
}

function Marks({ id, mark }: { id: string; mark: Mark | null }) {
  const [setMark, state] = useSetMarkMutation();
  const toggle = (next: Mark) => void setMark({ id, mark: mark === next ? null : next });
  return (
    <Row>
      <Words tone="second">Worth having?</Words>
      <Button words="Kept" pressed={mark === 'kept'} onPress={() => toggle('kept')} testID="mark-kept" />
      <Button words="Noise" pressed={mark === 'noise'} onPress={() => toggle('noise')} testID="mark-noise" />
      <Snackbar visible={state.isError} onDismiss={state.reset}>
        {troubleWords(state.error)}
      </Snackbar>
    </Row>
  );
}

function Told({ alerts, zone }: { alerts: readonly AlertAnswer[]; zone: string }) {
  const words = (a: AlertAnswer) =>
    a.state === 'sent'
      ? `${a.person} was told ${exact(a.sentAt!, zone)}.`
      : a.state === 'waiting'
        ? `${a.person} is being told. ${a.why ?? ''}`
        : a.state === 'held'
          ? `${a.person} was not told: ${a.why ?? ''}.`
          : `${a.person} could not be told. ${a.why ?? ''}.`;
  return (
    <View style={{ gap: 4 }}>
      {alerts.map((a) => (a.state === 'undeliverable' ? <Attention key={a.id} words={words(a)} /> : <Words key={a.id}>{words(a)}</Words>))}
    </View>
  );
}

function TrailSheet({ trail }: { trail: TrailAnswer }) {
  const isForeign = trail.stoppedAt === 'source';
  const [open, setOpen] = useState(!isForeign);
  return (
    <Sheet>
      <Words bold heading={2}>
        {trail.ruleName}
      </Words>
      <Words testID={`why-${trail.rule}`}>
        {trail.stoppedAt ? `Stopped at ${trail.stoppedAt}: ` : ''}
        {trail.why}.
      </Words>
      {open ? (
        <Trail trail={trail} />
      ) : (
        <Row>
          <Button words="Show the trail" onPress={() => setOpen(true)} />
        </Row>
      )}
    </Sheet>
  );
}
