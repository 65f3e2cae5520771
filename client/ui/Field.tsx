// A field for text, with what is asked of it and what is wrong with it.

import type { ComponentProps } from 'react';
import { View } from 'react-native';
import { HelperText, TextInput } from 'react-native-paper';
import { usePalette } from './theme';

type Props = Pick<
  ComponentProps<typeof TextInput>,
  | 'value'
  | 'onChangeText'
  | 'onBlur'
  | 'secureTextEntry'
  | 'autoComplete'
  | 'autoCapitalize'
  | 'inputMode'
  | 'onSubmitEditing'
  | 'testID'
  | 'placeholder'
  | 'disabled'
  | 'multiline'
  | 'numberOfLines'
> & { label: string; help?: string | undefined; wrong?: string | undefined };

export function Field({ label, help, wrong, ...props }: Props) {
  const p = usePalette();
  return (
    <View>
      <TextInput
        mode="outlined"
        label={label}
        outlineColor={p.second}
        autoCorrect={false}
        accessibilityLabel={label}
        error={wrong !== undefined}
        {...({ 'aria-invalid': wrong !== undefined } as object)}
        {...props}
        style={{ backgroundColor: p.surface }}
      />
      {(wrong ?? help) !== undefined && (
        <HelperText
          type={wrong === undefined ? 'info' : 'error'}
          visible
          padding="none"
          style={{ color: wrong === undefined ? p.second : p.alarm }}
        >
          {wrong ?? help}
        </HelperText>
      )}
    </View>
  );
}
