// A field for text, in the look of the place.

import type { ComponentProps } from 'react';
import { TextInput } from 'react-native-paper';
import { usePalette } from './look';

type Props = Pick<ComponentProps<typeof TextInput>, 'label' | 'value' | 'onChangeText' | 'secureTextEntry' | 'autoComplete' | 'autoCapitalize' | 'inputMode' | 'onSubmitEditing' | 'testID' | 'placeholder'>; // prettier-ignore

export function Field(props: Props) {
  const p = usePalette();
  const name = typeof props.label === 'string' ? props.label : undefined;
  return (
    <TextInput
      mode="outlined"
      outlineColor={p.second}
      autoCorrect={false}
      accessibilityLabel={name}
      {...props}
      style={{ backgroundColor: p.sheet }}
    />
  );
}
