// An amount that is dragged: its name, its value, and what it means.

import Slider from '@react-native-community/slider';
import { View } from 'react-native';
import { Button, Row } from './Surface';
import { target, usePalette } from './theme';
import { Words } from './Words';
import { texts } from './texts';

type Props = {
  name: string;
  says: string;
  value: number;
  shown: string;
  min: number;
  max: number;
  step: number;
  put: (value: number) => void;
  testID?: string;
};

export function Amount({ name, says, value, shown, min, max, step, put, testID }: Props) {
  const p = usePalette();
  /** A step up or down: for keys, and for a finger that is too broad for the slider. */
  const turned = (by: 1 | -1) => Math.round(Math.min(max, Math.max(min, value + by * step)) * 100) / 100;
  return (
    <View>
      <Row style={{ justifyContent: 'space-between' }}>
        <Words bold>{name}</Words>
        <Row>
          <Words bold testID={testID && `${testID}-value`}>
            {shown}
          </Words>
          <Button glyph="remove" label={texts.less(name)} disabled={value <= min} onPress={() => put(turned(-1))} />
          <Button glyph="add" label={texts.more(name)} disabled={value >= max} onPress={() => put(turned(1))} />
        </Row>
      </Row>
      <Slider
        value={value}
        minimumValue={min}
        maximumValue={max}
        step={step}
        onValueChange={(v) => put(Math.round(v * 100) / 100)}
        minimumTrackTintColor={p.work}
        maximumTrackTintColor={p.rule}
        thumbTintColor={p.work}
        aria-label={name}
        {...({ 'aria-valuenow': value, 'aria-valuemin': min, 'aria-valuemax': max, 'aria-valuetext': shown } as object)}
        accessibilityLabel={name}
        testID={testID}
        style={{ height: target, marginHorizontal: -4 }}
      />
      <Words size="small" tone="second">
        {says}
      </Words>
    </View>
  );
}
