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

export function Capabilities({ camera, mayEdit }: { camera: CameraAnswer; mayEdit: boolean }) {
  const p = usePalette();
  const [command, state] = useCommandMutation();
  const [isAsked, setAsked] = useState(false);
  const give = (what: 'lamp' | 'siren' | 'restart', on?: boolean) => void command({ camera: camera.id, command: what, on });
  return (
    <Card>
      <Words bold heading={2}>
        Features
      </Words>
      {camera.features
        .filter((a) => a.can)
        .map((a) => (
          <View key={a.name} style={{ borderTopWidth: 1, borderTopColor: p.rule, paddingTop: 6, gap: 4 }}>
            <Words>{a.words}</Words>
            {(a.name === 'lamp' || a.name === 'siren') && (
              <Row>
                <Button
                  words="On"
                  label={`Switch the ${a.words} on`}
                  onPress={() => (a.name === 'siren' ? setAsked(true) : give('lamp', true))}
                  testID={`${a.name}-on`}
                />
                <Button
                  words="Off"
                  label={`Switch the ${a.words} off`}
                  onPress={() => give(a.name as 'lamp', false)}
                  testID={`${a.name}-off`}
                />
              </Row>
            )}
            {a.name === 'restart' && mayEdit && (
              <Row>
                <Button words="Restart" onPress={() => give('restart')} testID="restart" />
              </Row>
            )}
          </View>
        ))}
      {missing(camera.features).map(([why, names]) => (
        <View key={why} style={{ borderTopWidth: 1, borderTopColor: p.rule, paddingTop: 6 }}>
          <Words tone="second">{`No ${names.join(', no ')}`}</Words>
          <Words size="small" tone="second">
            {why}
          </Words>
        </View>
      ))}
      <Sheet title="Sound the siren?" open={isAsked} close={() => setAsked(false)}>
        <Words>{`The siren of ${camera.name} will sound until you switch it off.`}</Words>
        <Row style={{ justifyContent: 'flex-end' }}>
          <Button words="Cancel" onPress={() => setAsked(false)} />
          <Button words="Sound it" main grave onPress={() => (setAsked(false), give('siren', true))} testID="siren-go" />
        </Row>
      </Sheet>
      {state.isError && <Attention words={problemWords(state.error) ?? ''} />}
      {state.isSuccess && <Words tone="work">Done.</Words>}
    </Card>
  );
}

/** What it cannot do, by the reason. */
function missing(features: CameraAnswer['features']): [why: string, names: string[]][] {
  const byReason = new Map<string, string[]>();
  for (const a of features) if (!a.can) byReason.set(a.why, [...(byReason.get(a.why) ?? []), a.words]);
  return [...byReason];
}
