// By day or by night: what can be seen depends on it.

import { OneOf } from '../../ui/Choices';

type Props = { isNight: boolean; choose: (isNight: boolean) => void; testID: string };

export const LightChoice = ({ isNight, choose, testID }: Props) => (
  <OneOf
    label="In which light"
    choices={[
      { value: 'day', words: 'By day', testID: `${testID}-day` },
      { value: 'night', words: 'By night', testID: `${testID}-night` },
    ]}
    value={isNight ? 'night' : 'day'}
    choose={(light) => choose(light === 'night')}
  />
);
