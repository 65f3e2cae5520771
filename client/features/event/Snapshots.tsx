// The pictures there are of a thing, and how well each shows it. The best was chosen; another may be by hand.

import { Image, View } from 'react-native';
import { problemWords } from '../../state/api';
import { useChoosePictureMutation } from '../../state/api/people';
import type { EventDetail } from '../../state/api/types';
import { useSay } from '../../ui/Messages';
import { Card } from '../../ui/Surface';
import { corner, usePalette } from '../../ui/theme';
import { clockWithSeconds } from '../../ui/times';
import { Touch } from '../../ui/Touch';
import { Words } from '../../ui/Words';
import { texts } from './words';

export function Snapshots({ event, zone, mayChoose }: { event: EventDetail; zone: string; mayChoose: boolean }) {
  const p = usePalette();
  const say = useSay();
  const [choose] = useChoosePictureMutation();
  const { snapshots, chosenBy } = event;
  const best = Math.max(...snapshots.map((s) => s.quality));
  const pick = async (snapshot: number) => {
    const { error } = await choose({ id: event.id, snapshot });
    say(error ? (problemWords(error) ?? '') : texts.snapshotChangedInTheAlerts);
  };
  return (
    <Card>
      <Words bold heading={2}>
        {texts.itsPicture}
      </Words>
      <Words tone="second">{chosenBy ? texts.chosenBy(chosenBy) : texts.chosenAutomaticallyAsTheLargest}</Words>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
        {snapshots.map((s, i) => {
          const share = best > 0 ? Math.round((s.quality / best) * 100) : 0;
          const words = texts.of100(clockWithSeconds(s.at, zone), share, s.isChosen ? ', selected' : '');
          const picture = (
            <>
              <Image
                source={{ uri: s.picture }}
                aria-hidden
                style={{ width: 108, height: 61, borderRadius: corner - 2 }}
                resizeMode="cover"
              />
              <View style={{ height: 4, width: 108, backgroundColor: p.rule }}>
                <View style={{ height: 4, width: (108 * share) / 100, backgroundColor: p.work }} />
              </View>
              <Words size="small" tone={s.isChosen ? 'ink' : 'second'} bold={s.isChosen}>
                {`${clockWithSeconds(s.at, zone)} · ${share}`}
              </Words>
            </>
          );
          const style = { padding: 3, gap: 2, borderWidth: 2, borderRadius: corner, borderColor: s.isChosen ? p.work : 'transparent' };
          return mayChoose ? (
            <Touch key={s.at} press={() => !s.isChosen && void pick(i)} role="button" label={words} testID={`snapshot-${i}`} style={style}>
              {picture}
            </Touch>
          ) : (
            <View key={s.at} style={style} role="img" aria-label={words}>
              {picture}
            </View>
          );
        })}
      </View>
    </Card>
  );
}
