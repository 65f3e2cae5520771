// What a camera can do; of what it cannot, the reason.

import { View } from 'react-native';
import { Attention, Button, Row, Sheet } from '../../ui/Surface';
import { usePalette } from '../../ui/look';
import { Words } from '../../ui/Words';
import { troubleWords } from '../api/api';
import type { CameraAnswer } from '../api/types';
import { useCommandMutation } from '../connect/api';

export function Abilities({ camera, mayEdit }: { camera: CameraAnswer; mayEdit: boolean }) {
  const p = usePalette();
  const [command, state] = useCommandMutation();
  const give = (what: 'lamp' | 'siren' | 'restart', on?: boolean) => void command({ camera: camera.id, command: what, on });
  return (
    <Sheet>
      <Words bold heading={2}>
        What it can do
      </Words>
      {camera.abilities.map((a, i) => (
        <View key={a.name} style={{ borderTopWidth: i ? 1 : 0, borderTopColor: p.rule, paddingTop: i ? 6 : 0, gap: 2 }}>
          <Row style={{ justifyContent: 'space-between', flexWrap: 'nowrap', minHeight: 24 }}>
            <Words tone={a.can ? 'ink' : 'second'} style={{ flexShrink: 1 }}>
              {a.words}
            </Words>
            <Words size="small" tone={a.can ? 'work' : 'second'}>
              {a.can ? 'yes' : 'no'}
            </Words>
          </Row>
          {!a.can && (
            <Words size="small" tone="second">
              {a.why}
            </Words>
          )}
          {a.can && (a.name === 'lamp' || a.name === 'siren') && (
            <Row>
              <Button words="On" label={`Switch the ${a.words} on`} onPress={() => give(a.name as 'lamp', true)} testID={`${a.name}-on`} />
              <Button
                words="Off"
                label={`Switch the ${a.words} off`}
                onPress={() => give(a.name as 'lamp', false)}
                testID={`${a.name}-off`}
              />
            </Row>
          )}
          {a.can && a.name === 'restart' && mayEdit && (
            <Row>
              <Button words="Restart it" onPress={() => give('restart')} testID="restart" />
            </Row>
          )}
        </View>
      ))}
      {state.isError && <Attention words={troubleWords(state.error) ?? ''} />}
      {state.isSuccess && <Words tone="work">Done.</Words>}
    </Sheet>
  );
}
