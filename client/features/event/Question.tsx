// The check before alerting: what was asked about which pictures, the answer, and what followed.

import { View } from 'react-native';
import type { EventDetail } from '../../state/api/types';
import { Thumb } from '../../picture/Thumb';
import { Card, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { secondsWords } from '../ai-services/words';
import { texts } from './words';

type Asked = NonNullable<EventDetail['question']>;

export function questionHeading({ words, unlessKnown }: Pick<Asked, 'words' | 'unlessKnown'>): string {
  return words ?? (unlessKnown ? texts.isItKnown : texts.aQuestion);
}

export function outcomeWords({ notifies, answer, known, why, seconds, service }: Asked): string {
  if (notifies === null) return `${why}.`;
  const asked = service && seconds !== null ? ` (${service}, ${secondsWords(seconds)})` : '';
  // Without an answer it is said in the reason itself what was done.
  if (answer === null && known === null) return `${why}${asked}.`;
  return `${known ? texts.itIs(known) : answer ? texts.yes : texts.no}${asked}. ${notifies ? texts.alertSent : texts.noAlertSent}`;
}

export function Question({ asked }: { asked: Asked }) {
  return (
    <Card>
      <Words size="small" tone="second">
        {texts.checkedBeforeAlerting}
      </Words>
      <Words bold>{questionHeading(asked)}</Words>
      <Words testID="question-outcome">{outcomeWords(asked)}</Words>
      {asked.pictures.length > 0 && (
        <Row>
          {asked.pictures.map((picture) => (
            <View key={picture}>
              <Thumb source={picture} box={null} size={{ width: 128, height: 72 }} />
            </View>
          ))}
        </Row>
      )}
    </Card>
  );
}
