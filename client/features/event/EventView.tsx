// An event: the clip with boxes, the description, who was notified, useful or noise, and the trail gate by gate.

import { useRouter } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { SomeOf } from '../../ui/Choices';
import { useSay } from '../../ui/Messages';
import { Loading } from '../shell/Loading';
import { Button, Card, Page, Row } from '../../ui/Surface';
import { exact } from '../../ui/times';
import { Words } from '../../ui/Words';
import { problemWords, useEventQuery, useSetMarkMutation, useSiteQuery } from '../../state/api';
import { exportOf, useDeleteEventMutation } from '../../state/api/storedData';
import type { Mark, EventDetail, TrailAnswer } from '../../state/api/types';
import { thingName, titleOf } from '../events/words';
import { gateWords } from '../sieve/words';
import { SaveAsKnown } from '../known/SaveAsKnown';
import { Trail } from '../sieve/Trail';
import { ExportOrDelete } from '../storage/ExportOrDelete';
import { Clip } from './Clip';
import { Question } from './Question';
import { looksWords, Notified } from './Sent';
import { Snapshots } from './Snapshots';
import { Snooze } from './Snooze';
import { useIsOfHouse, useMaySetUp } from '../session/may';
import { texts } from './words';

export function EventView({ id }: { id: string }) {
  const router = useRouter();
  const mayEdit = useMaySetUp();
  const isOfHouse = useIsOfHouse();
  const [deleteEvent] = useDeleteEventMutation();
  const say = useSay();
  const asked = [useEventQuery(id), useSiteQuery()] as const;
  const [{ data: event }, { data: site }] = asked;
  if (!event || !site) return <Loading of={asked} />;
  const zone = site.settings.timezone;
  const isEvent = event.kind === 'event';
  return (
    <Page wideColumn={false}>
      <View style={{ gap: 2 }}>
        <Words size="title" bold heading={1} testID="event-title">
          {titleOf(event)}
        </Words>
        <Words tone="second">{[event.cameraName, exact(event.at, zone)].filter(Boolean).join(' · ')}</Words>
      </View>
      <Clip event={event} zone={zone} />
      {isEvent && <Description event={event} />}
      {event.kind === 'event' && isOfHouse && <Marks id={id} mark={event.mark} />}
      {event.camera && (
        <Row>
          <Button words={texts.liveAt(event.cameraName)} glyph="cameras" onPress={() => router.navigate(`/cameras/${event.camera}`)} />
          {event.kind === 'event' && <Snooze event={event} zone={zone} />}
          {mayEdit && event.picture && <SaveAsKnown event={id} site={site} />}
        </Row>
      )}
      {event.question && <Question asked={event.question} />}
      {event.alerts.length > 0 && <Notified alerts={event.alerts} zone={zone} />}
      {event.views.length > 0 && <Words tone="second">{looksWords(event.views, zone)}</Words>}
      {event.snapshots.length > 1 && <Snapshots event={event} zone={zone} mayChoose={isOfHouse} />}
      {event.trails.map((t) => (
        <TrailSheet key={t.rule} trail={t} />
      ))}
      {event.trails.length === 0 && <Words tone="second">{texts.theTrailAppearsOnceThe}</Words>}
      <ExportOrDelete
        key={id}
        from={exportOf.event(id)}
        remove={mayEdit ? () => deleteEvent(id) : undefined}
        what={texts.deletesTheEvent}
        removed={() => {
          say(texts.deleted);
          router.navigate('/events');
        }}
        testID="event"
      />
    </Page>
  );
}

function Description({ event }: { event: EventDetail }) {
  const fields = Object.entries(event.fields ?? {}).map(([name, value]) => `${name} ${value}`);
  return (
    <>
      {event.description ? (
        <Words size="lead" testID="description">
          {event.description}
        </Words>
      ) : (
        <Words tone="second">{event.descriptionProblem ? texts.noDescription(event.descriptionProblem) : texts.noDescriptionYet}</Words>
      )}
      {event.class && (
        <Words size="small" tone="second" testID="said-by">
          {[texts.detectorSays(thingName(event)), ...(fields.length ? [texts.aiServiceSays(fields.join(', '))] : [])].join(' · ')}
        </Words>
      )}
    </>
  );
}

function Marks({ id, mark }: { id: string; mark: Mark | null }) {
  const [setMark] = useSetMarkMutation();
  const say = useSay();
  const toggle = async (next: Mark) => {
    const { error } = await setMark({ id, mark: mark === next ? null : next });
    if (error) say(problemWords(error) ?? '');
  };
  return (
    <Row>
      <Words tone="second">{texts.usefulAlert}</Words>
      <SomeOf
        label={texts.usefulAlert}
        choices={[
          { value: 'useful', words: texts.yes, testID: 'mark-useful' },
          { value: 'noise', words: texts.noise, testID: 'mark-noise' },
        ]}
        values={mark ? [mark] : []}
        toggle={(next) => void toggle(next)}
      />
    </Row>
  );
}

function TrailSheet({ trail }: { trail: TrailAnswer }) {
  const isForeign = trail.stoppedAt === 'source';
  const [open, setOpen] = useState(!isForeign);
  return (
    <Card>
      <Row style={{ justifyContent: 'space-between' }}>
        <Words bold heading={2}>
          {trail.ruleName}
        </Words>
        <Words size="small" tone="second">
          {trail.stoppedAt ? gateWords[trail.stoppedAt] : 'passed'}
        </Words>
      </Row>
      <Words testID={`why-${trail.rule}`}>{trail.why ? `${trail.why}.` : texts.itPassedEveryGate}</Words>
      {open ? (
        <Trail trail={trail} />
      ) : (
        <Row>
          <Button words={texts.showTheTrail} onPress={() => setOpen(true)} />
        </Row>
      )}
    </Card>
  );
}
