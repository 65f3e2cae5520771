// The picture of the rule's camera with what is drawn on it, and what the rule names brought out.

import { View } from 'react-native';
import { zonesOf } from '@nibber/core/rules';
import { CameraPicture } from '../../../picture/CameraPicture';
import { drawnLine, drawnZone, LineShape, ZoneShape } from '../../../picture/drawings';
import type { PartProps } from './props';
import { texts } from '../words';

type Props = Pick<PartProps, 'rule' | 'cameras'> & { children?: React.ReactNode; over?: React.ReactNode };

export function WhereShown({ rule, cameras, children, over }: Props) {
  const camera = cameras.find((c) => c.id === rule.cameras[0]);
  if (!camera) return null;
  const named = zonesOf(rule.behaviour, camera.id);
  return (
    <View style={{ marginHorizontal: -16 }}>
      <CameraPicture camera={camera} words={texts.withItsZones(camera.name)} over={over}>
        {camera.zones
          .filter((z) => z.purpose === 'watch')
          .map((z) => (
            <ZoneShape key={z.id} zone={drawnZone(z)} chosen={named.includes(z.id)} />
          ))}
        {(camera.lines ?? []).map((l) => (
          <LineShape key={l.id} line={drawnLine(l)} chosen={l.id === rule.behaviour.line} />
        ))}
        {children}
      </CameraPicture>
    </View>
  );
}
