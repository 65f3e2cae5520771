// Text in the sizes there are.

import type { ReactNode } from 'react';
import type { TextStyle } from 'react-native';
import { Text } from 'react-native-paper';
import { sizes, usePalette } from './theme';

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

const variants = { small: 'bodySmall', body: 'bodyMedium', lead: 'titleMedium', title: 'titleLarge', head: 'headlineMedium' } as const;

export function Words({ children, size = 'body', tone = 'ink', bold = false, heading, style, lines, selectable, testID }: Props) {
  const palette = usePalette();
  return (
    <Text
      variant={variants[size]}
      role={heading ? 'heading' : undefined}
      {...(heading ? ({ 'aria-level': heading } as object) : {})}
      numberOfLines={lines}
      selectable={selectable}
      testID={testID}
      style={{ color: palette[tone], fontWeight: bold ? '600' : '400', fontVariant: ['tabular-nums'], ...style }}
    >
      {children}
    </Text>
  );
}
