// Every picture that left the machine: which, when, where to, why, and what came back.

import { useRouter, type Href } from 'expo-router';
import { View } from 'react-native';
import { useSentPicturesInfiniteQuery } from '../../../state/api/aiServices';
import type { SentPicture, Site } from '../../../state/api/types';
import { Thumb } from '../../../picture/Thumb';
import { Button, Card, Row } from '../../../ui/Surface';
import { exact } from '../../../ui/times';
import { Words } from '../../../ui/Words';
import { moneyWords, secondsWords } from '../../ai-services/words';
import { Loading } from '../../shell/Loading';
import { texts } from '../words';

export function SentPictures({ site }: { site: Site }) {
  const asked = useSentPicturesInfiniteQuery(undefined, { refetchOnMountOrArgChange: true });
  const items = asked.data?.pages.flatMap((p) => p.items);
  return (
    <Card>
      <Words bold heading={2}>
        {texts.sentPictures}
      </Words>
      <Words size="small" tone="second">
        {texts.sentWithPrivacyMasksApplied}
      </Words>
      {!items && <Loading of={[asked]} isPart />}
      {items?.length === 0 && <Words>{texts.noneSentYet}</Words>}
      {items?.map((one) => (
        <One key={one.id} one={one} zone={site.settings.timezone} />
      ))}
      {asked.hasNextPage && (
        <Row>
          <Button words={texts.showEarlier} onPress={() => void asked.fetchNextPage()} testID="sent-more" />
        </Row>
      )}
    </Card>
  );
}

const outcomes: { readonly [O in SentPicture['outcome']]: string } = {
  waiting: texts.noAnswerYet,
  answered: texts.answered,
  failed: texts.failed,
};

function One({
  one: { id, at, event, cameraName, service, model, why, pictures, isStored, seconds, cost, currency, outcome, said },
  zone,
}: {
  one: SentPicture;
  zone: string;
}) {
  const router = useRouter();
  return (
    <View testID={`sent-${id}`} style={{ gap: 4 }}>
      <Row style={{ flexWrap: 'nowrap', alignItems: 'flex-start', gap: 12 }}>
        <View style={{ gap: 4 }}>
          {pictures.map((picture) => (
            <Thumb key={picture} source={picture} box={null} size={{ width: 128, height: 72 }} />
          ))}
        </View>
        <View style={{ flex: 1, gap: 2 }}>
          <Words size="small" tone="second">{`${exact(at, zone)} · ${cameraName}`}</Words>
          <Words>{texts.forTo(why, service, model)}</Words>
          <Words size="small" tone="second" lines={4}>
            {`${outcomes[outcome]}${seconds === null ? '' : texts.inLabel(secondsWords(seconds))}${cost === null ? '' : `, ${moneyWords(cost, currency)}`}${said ? `: ${said}` : ''}`}
          </Words>
          {!isStored && (
            <Words size="small" tone="second">
              {texts.someOfThesePicturesAre}
            </Words>
          )}
        </View>
      </Row>
      {event && (
        <Row>
          <Button words={texts.openEvent} onPress={() => router.navigate(`/events/${event}` as Href)} />
        </Row>
      )}
    </View>
  );
}
