// The few things every screen is built from.

import type { ReactNode } from 'react';
import { Pressable, ScrollView, View, type ViewStyle } from 'react-native';
import { ActivityIndicator } from 'react-native-paper';
import { corner, target, usePalette } from './look';
import { Glyph, type GlyphName } from './Glyph';
import { Words } from './Words';

export function Page({ children, wideColumn = true }: { children: ReactNode; wideColumn?: boolean }) {
  const { page } = usePalette();
  return (
    <ScrollView
      style={{ flex: 1, backgroundColor: page }}
      contentContainerStyle={{ padding: 16, paddingBottom: 32, gap: 16, width: '100%', maxWidth: wideColumn ? 1160 : 720 }}
    >
      {children}
    </ScrollView>
  );
}

export function Sheet({ children, style }: { children: ReactNode; style?: ViewStyle }) {
  const { sheet, rule } = usePalette();
  return (
    <View style={{ backgroundColor: sheet, borderColor: rule, borderWidth: 1, borderRadius: corner, padding: 16, gap: 8, ...style }}>
      {children}
    </View>
  );
}

export function Button({
  words,
  onPress,
  main = false,
  glyph,
  disabled = false,
  pressed,
  label,
  testID,
}: {
  words?: string;
  onPress: () => void;
  main?: boolean;
  glyph?: GlyphName;
  disabled?: boolean;
  pressed?: boolean;
  label?: string;
  testID?: string;
}) {
  const p = usePalette();
  const filled = main || pressed;
  const ink = filled ? p.onWork : p.ink;
  return (
    <Pressable
      onPress={onPress}
      disabled={disabled}
      role="button"
      aria-label={label ?? words}
      aria-pressed={pressed}
      aria-disabled={disabled}
      testID={testID}
      style={{
        minHeight: target,
        minWidth: target,
        paddingHorizontal: words ? 14 : 8,
        borderRadius: corner,
        borderWidth: 1,
        borderColor: filled ? p.work : p.rule,
        backgroundColor: filled ? p.work : p.sheet,
        flexDirection: 'row',
        alignItems: 'center',
        justifyContent: 'center',
        gap: 8,
        opacity: disabled ? 0.45 : 1,
      }}
    >
      {glyph && <Glyph name={glyph} colour={ink} size={20} />}
      {words && <Words style={{ color: ink }}>{words}</Words>}
    </Pressable>
  );
}

export const Row = ({ children, style }: { children: ReactNode; style?: ViewStyle }) => (
  <View style={{ flexDirection: 'row', alignItems: 'center', flexWrap: 'wrap', gap: 8, ...style }}>{children}</View>
);

export function Waiting({ words }: { words: string }) {
  const { work } = usePalette();
  return (
    <View style={{ padding: 32, alignItems: 'center', gap: 12 }} role="status">
      <ActivityIndicator color={work} accessibilityLabel={words} />
      <Words tone="second">{words}</Words>
    </View>
  );
}

export function Empty({ words, next }: { words: string; next?: string }) {
  const { rule } = usePalette();
  return (
    <View
      style={{ borderWidth: 1, borderStyle: 'dashed', borderColor: rule, borderRadius: corner, padding: 24, gap: 4, alignItems: 'center' }}
    >
      <Words style={{ textAlign: 'center' }}>{words}</Words>
      {next && (
        <Words tone="second" style={{ textAlign: 'center' }}>
          {next}
        </Words>
      )}
    </View>
  );
}

/** Something needs attention: what it is, what it means, what to do. */
export function Attention({ words, children }: { words: string; children?: ReactNode }) {
  const p = usePalette();
  return (
    <View
      role="alert"
      style={{
        flexDirection: 'row',
        gap: 12,
        borderLeftWidth: 4,
        borderLeftColor: p.attention,
        backgroundColor: p.sheet,
        padding: 12,
        borderRadius: corner,
      }}
    >
      <Glyph name="attention" colour={p.attentionInk} />
      <View style={{ flex: 1, gap: 4 }}>
        <Words>{words}</Words>
        {children}
      </View>
    </View>
  );
}
