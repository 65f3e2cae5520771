// What was read last, in short: each with when it was, and whether it is where it should be.

import { useRouter } from 'expo-router';
import { Pressable } from 'react-native';
import { useReadingsQuery } from '../../state/api/readings';
import { every } from '../../state/api/every';
import { useNow } from '../../state/useNow';
import { Card, Row } from '../../ui/Surface';
import { ago } from '../../ui/times';
import { Words } from '../../ui/Words';
import { shown } from '../readings/line';
import { isOff, valueWords } from '../readings/words';
import { texts } from './words';

const everyMs = 60_000;

export function ReadNow({ zone }: { zone: string }) {
  const { data } = useReadingsQuery(undefined, every(everyMs));
  const router = useRouter();
  const now = useNow();
  const read = (data?.readings ?? []).filter((r) => r.last !== null);
  if (read.length === 0) return null;
  return (
    <Card>
      <Words bold heading={2}>
        {texts.readings}
      </Words>
      {read.map(({ reading, last }) => {
        const value = shown(last!);
        const isAmiss = value === null || isOff(reading, value);
        return (
          <Pressable key={reading.id} role="link" onPress={() => router.navigate('/site/readings')} testID={`read-${reading.id}`}>
            <Row style={{ justifyContent: 'space-between', flexWrap: 'nowrap', minHeight: 44 }}>
              <Words style={{ flexShrink: 1 }}>{reading.name}</Words>
              <Words tone={isAmiss ? 'attentionInk' : 'ink'}>
                {`${value === null ? texts.noResult : valueWords(value, reading.unit)}, ${ago(last!.at, now, zone)}`}
              </Words>
            </Row>
          </Pressable>
        );
      })}
    </Card>
  );
}
