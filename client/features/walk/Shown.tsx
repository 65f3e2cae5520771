// What a walk test has shown: each item with its verdict, its picture and who was notified.

import { useRouter } from 'expo-router';
import { View } from 'react-native';
import { Picture } from '../../picture/Picture';
import { Glyph } from '../../ui/Glyph';
import { Button, Card, Row } from '../../ui/Surface';
import { usePalette } from '../../ui/theme';
import { exact } from '../../ui/times';
import { Words } from '../../ui/Words';
import type { StoredWalkItem, StoredWalkTest } from '../../state/api/types';
import { texts, expectWords, shownWords, verdictWords } from './words';

export function Shown({ kept, zone }: { kept: StoredWalkTest; zone: string }) {
  const proved = kept.items.filter((i) => i.verdict === 'proved').length;
  return (
    <Card>
      <Words bold heading={2} testID="walk-shown">
        {texts.ofAsExpected(proved, kept.items.length)}
      </Words>
      <Words size="small" tone="second">
        {texts.by(exact(kept.startedAt, zone), kept.by)}
      </Words>
      {kept.items.map((item, i) => (
        <Item key={i} item={item} zone={zone} />
      ))}
    </Card>
  );
}

function Item({ item, zone }: { item: StoredWalkItem; zone: string }) {
  const p = usePalette();
  const router = useRouter();
  const { result, verdict } = item;
  const answered = result.state === 'answered' ? result : undefined;
  return (
    <View style={{ gap: 6, borderTopWidth: 1, borderTopColor: p.rule, paddingTop: 10, paddingBottom: 4 }}>
      <Row style={{ flexWrap: 'nowrap', alignItems: 'flex-start' }}>
        <View style={{ width: 24, paddingTop: 1 }}>
          {verdict === 'proved' && <Glyph name="check" colour={p.work} />}
          {verdict === 'failed' && <Glyph name="attention" colour={p.attentionInk} />}
          {verdict === 'open' && <Glyph name="remove" colour={p.second} />}
        </View>
        <View style={{ flex: 1 }}>
          <Words bold>{item.name}</Words>
          <Words size="small" tone="second">
            {`${expectWords(item)}: ${verdictWords[verdict]}`}
          </Words>
        </View>
      </Row>
      <Words>{shownWords(item)}</Words>
      {answered && (
        <Words size="small" tone="second">
          {exact(answered.at, zone)}
        </Words>
      )}
      {item.notified.map((t) => (
        <Words key={t.person} size="small" tone={t.state === 'sent' ? 'second' : 'attentionInk'}>
          {t.state === 'sent' ? texts.deliveredToThePhone(t.person) : `${t.person}: ${t.why ?? texts.notDeliveredYet}`}
        </Words>
      ))}
      {!item.isStillValid && <Words tone="attentionInk">{texts.settingsHaveChangedSinceTest}</Words>}
      {answered?.picture && (
        <View style={{ maxWidth: 360 }}>
          <Picture source={answered.picture} words={texts.duringTheTest(item.name)} />
        </View>
      )}
      {answered?.event && <Row>{<Button words={texts.event} onPress={() => router.navigate(`/events/${answered.event}`)} />}</Row>}
    </View>
  );
}
