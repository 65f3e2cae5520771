// By day or by night: what can be seen depends on it.

import { OneOf } from '../../ui/Choices';
import { texts } from './words';

type Props = { isNight: boolean; choose: (isNight: boolean) => void; testID: string };

export const LightChoice = ({ isNight, choose, testID }: Props) => (
  <OneOf
    label={texts.inWhichLight}
    choices={[
      { value: 'day', words: texts.byDay, testID: `${testID}-day` },
      { value: 'night', words: texts.byNight, testID: `${testID}-night` },
    ]}
    value={isNight ? 'night' : 'day'}
    choose={(light) => choose(light === 'night')}
  />
);
