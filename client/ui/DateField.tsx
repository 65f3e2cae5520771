// A day of the calendar. The browser's own control: it follows the user's locale and a phone's own picker.

import { createElement } from 'react';
import { TextInput } from 'react-native-paper';
import { family, sizes, usePalette } from './theme';

type Props = {
  label: string;
  /** `2026-12-24`; empty for none. */
  value: string;
  choose: (date: string) => void;
  testID?: string;
};

export function DateField({ label, value, choose, testID }: Props) {
  const p = usePalette();
  return (
    <TextInput
      mode="outlined"
      label={label}
      value={value || ' '}
      outlineColor={p.second}
      style={{ backgroundColor: p.surface }}
      render={({ onFocus, onBlur }) =>
        createElement('input', {
          type: 'date',
          value,
          onFocus,
          onBlur,
          onChange: (event: { target: { value: string } }) => choose(event.target.value),
          'aria-label': label,
          'data-testid': testID,
          style: {
            flex: 1,
            padding: '0 16px',
            border: 0,
            outline: 0,
            background: 'none',
            color: p.ink,
            colorScheme: p.isDark ? 'dark' : 'light',
            fontFamily: family,
            fontSize: sizes.body,
          },
        })
      }
    />
  );
}
