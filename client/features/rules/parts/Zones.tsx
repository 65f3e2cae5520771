// Where it must be, on each of several cameras: their zones have names of their own.

import { View } from 'react-native';
import { withZone, zoneOf } from '@nibber/core/rules';
import { OneOf } from '../../../ui/Choices';
import { Words } from '../../../ui/Words';
import type { PartProps } from './props';
import { texts } from '../words';

const whole = '';

export function ZonesPart({ rule, cameras, change }: PartProps) {
  const own = cameras.filter((c) => rule.cameras.includes(c.id));
  return (
    <View style={{ gap: 8 }}>
      {own.map((camera) => {
        const zones = camera.zones.filter((z) => z.purpose === 'watch');
        const choices = [...zones.map((z) => ({ value: z.id, words: z.name })), { value: whole, words: texts.theWholePicture }];
        return (
          <View key={camera.id}>
            <Words bold>{camera.name}</Words>
            <OneOf
              label={texts.whereOn(camera.name)}
              choices={choices.map((c) => ({ ...c, testID: `zone-${camera.id}-${c.words}` }))}
              value={zoneOf(rule.behaviour, camera.id) ?? whole}
              choose={(zone) =>
                change({ ...rule, behaviour: withZone(rule.behaviour, rule.cameras, camera.id, zone === whole ? undefined : zone) })
              }
              rows
            />
          </View>
        );
      })}
    </View>
  );
}
