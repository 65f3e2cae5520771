// Text in the sizes there are.

import type { ReactNode } from 'react';
import { Text, type TextStyle } from 'react-native';
import { family, sizes, usePalette } from './look';

type Props = {
  children: ReactNode;
  size?: keyof typeof sizes;
  tone?: 'ink' | 'second' | 'work' | 'attentionInk' | 'alarm';
  bold?: boolean;
  heading?: 1 | 2 | 3;
  style?: TextStyle;
  lines?: number;
  selectable?: boolean;
  testID?: string;
};

export function Words({ children, size = 'body', tone = 'ink', bold = false, heading, style, lines, selectable, testID }: Props) {
  const palette = usePalette();
  return (
    <Text
      role={heading ? 'heading' : undefined}
      aria-level={heading}
      numberOfLines={lines}
      selectable={selectable}
      testID={testID}
      style={{
        fontFamily: family,
        fontSize: sizes[size],
        lineHeight: Math.round(sizes[size] * 1.4),
        color: palette[tone],
        fontWeight: bold ? '600' : '400',
        fontVariant: ['tabular-nums'],
        ...style,
      }}
    >
      {children}
    </Text>
  );
}
