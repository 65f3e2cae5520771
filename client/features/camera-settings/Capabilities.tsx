// What a camera can do; of what it cannot, the reason.

import { useState } from 'react';
import { View } from 'react-native';
import { Sheet } from '../../ui/Sheet';
import { Attention, Button, Card, Row } from '../../ui/Surface';
import { usePalette } from '../../ui/theme';
import { Words } from '../../ui/Words';
import { problemWords } from '../../state/api';
import type { CameraAnswer } from '../../state/api/types';
import { useCommandMutation } from '../../state/api/connect';
import { texts } from './words';

export function Capabilities({ camera, mayEdit }: { camera: CameraAnswer; mayEdit: boolean }) {
  const p = usePalette();
  const [command, state] = useCommandMutation();
  const [isAsked, setAsked] = useState(false);
  const give = (what: 'lamp' | 'siren' | 'restart', on?: boolean) => void command({ camera: camera.id, command: what, on });
  return (
    <Card>
      <Words bold heading={2}>
        {texts.features}
      </Words>
      {camera.features
        .filter((a) => a.can)
        .map((a) => (
          <View key={a.name} style={{ borderTopWidth: 1, borderTopColor: p.rule, paddingTop: 6, gap: 4 }}>
            <Words>{a.words}</Words>
            {(a.name === 'lamp' || a.name === 'siren') && (
              <Row>
                <Button
                  words={texts.on}
                  label={texts.switchTheOn(a.words)}
                  onPress={() => (a.name === 'siren' ? setAsked(true) : give('lamp', true))}
                  testID={`${a.name}-on`}
                />
                <Button
                  words={texts.off}
                  label={texts.switchTheOff(a.words)}
                  onPress={() => give(a.name as 'lamp', false)}
                  testID={`${a.name}-off`}
                />
              </Row>
            )}
            {a.name === 'restart' && mayEdit && (
              <Row>
                <Button words={texts.restart} onPress={() => give('restart')} testID="restart" />
              </Row>
            )}
          </View>
        ))}
      {missing(camera.features).map(([why, names]) => (
        <View key={why} style={{ borderTopWidth: 1, borderTopColor: p.rule, paddingTop: 6 }}>
          <Words tone="second">{texts.no(names.join(', no '))}</Words>
          <Words size="small" tone="second">
            {why}
          </Words>
        </View>
      ))}
      <Sheet title={texts.soundTheSiren} open={isAsked} close={() => setAsked(false)}>
        <Words>{texts.theSirenOfWillSound(camera.name)}</Words>
        <Row style={{ justifyContent: 'flex-end' }}>
          <Button words={texts.cancel} onPress={() => setAsked(false)} />
          <Button words={texts.soundIt} main grave onPress={() => (setAsked(false), give('siren', true))} testID="siren-go" />
        </Row>
      </Sheet>
      {state.isError && <Attention words={problemWords(state.error) ?? ''} />}
      {state.isSuccess && <Words tone="work">{texts.done}</Words>}
    </Card>
  );
}

/** What it cannot do, by the reason. */
function missing(features: CameraAnswer['features']): [why: string, names: string[]][] {
  const byReason = new Map<string, string[]>();
  for (const a of features) if (!a.can) byReason.set(a.why, [...(byReason.get(a.why) ?? []), a.words]);
  return [...byReason];
}
