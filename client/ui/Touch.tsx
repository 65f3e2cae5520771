// What is touched as a whole: a row, a tile, a line of a list. Paper's ripple, with what stands in it laid out by `style`.

import type { ReactNode } from 'react';
import { View, type ViewStyle } from 'react-native';
import { TouchableRipple } from 'react-native-paper';

type Props = {
  children: ReactNode;
  press: () => void;
  /** Where it leads somewhere, a link; where it does something, a button. */
  role: 'link' | 'button';
  /** What it is called where what stands in it does not say so. */
  label?: string | undefined;
  /** It is the page that one is on. */
  isHere?: boolean;
  isPressed?: boolean;
  testID?: string | undefined;
  /** Its share of the room beside others. */
  grow?: boolean;
  style?: ViewStyle;
};

export const Touch = ({ children, press, role, label, isHere = false, isPressed, testID, grow = false, style }: Props) => (
  <TouchableRipple
    onPress={press}
    testID={testID}
    style={{ flex: grow ? 1 : undefined, borderRadius: style?.borderRadius ?? 4 }}
    {...({ role, 'aria-label': label, 'aria-current': isHere ? 'page' : undefined, 'aria-pressed': isPressed } as object)}
  >
    <View style={style}>{children}</View>
  </TouchableRipple>
);
