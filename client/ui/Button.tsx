// What is pressed to do something: Paper's buttons, large enough for a thumb.

import { Button as PaperButton, IconButton } from 'react-native-paper';
import { corner, target, usePalette } from './theme';
import type { GlyphName } from './Glyph';

type Props = {
  onPress: () => void;
  glyph?: GlyphName;
  disabled?: boolean;
  /** What it is called where its words do not say so. */
  label?: string;
  testID?: string;
} & (
  | {
      words: string;
      /** The one thing that the screen is for. */
      main?: boolean;
      /** It cannot be undone, or sounds. */
      grave?: boolean;
    }
  | { words?: undefined; main?: undefined; grave?: undefined }
);

export function Button({ words, onPress, main = false, grave = false, glyph, disabled = false, label, testID }: Props) {
  const p = usePalette();
  if (words === undefined)
    return (
      <IconButton
        icon={glyph!}
        mode="outlined"
        size={20}
        onPress={onPress}
        disabled={disabled}
        accessibilityLabel={label}
        testID={testID}
        iconColor={p.ink}
        style={{ width: target, height: target, margin: 0, borderRadius: corner, borderColor: p.rule, backgroundColor: p.surface }}
      />
    );
  return (
    <PaperButton
      mode={main ? 'contained' : 'outlined'}
      icon={glyph}
      onPress={onPress}
      disabled={disabled}
      accessibilityLabel={label ?? words}
      testID={testID}
      buttonColor={main ? (grave ? p.alarm : p.work) : p.surface}
      textColor={main ? p.onWork : grave ? p.alarm : p.ink}
      style={{ borderRadius: corner, borderColor: main ? 'transparent' : p.rule }}
      contentStyle={{ minHeight: target }}
      labelStyle={{ marginVertical: 8, marginLeft: glyph ? 24 : 14, marginRight: 14 }}
    >
      {words}
    </PaperButton>
  );
}
