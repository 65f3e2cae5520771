// What screens are laid out with: a page, cards on it, rows in them, and what stands where there is nothing or something is wrong.

import type { ReactNode } from 'react';
import { ScrollView, View, type ViewStyle } from 'react-native';
import { ActivityIndicator, Card as PaperCard, Icon } from 'react-native-paper';
import { corner, usePalette } from './theme';
import { Words } from './Words';
import { texts } from './texts';

export { Button } from './Button';

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

export function Card({ children, style }: { children: ReactNode; style?: ViewStyle }) {
  const { surface, rule } = usePalette();
  return (
    <PaperCard mode="outlined" style={{ backgroundColor: surface, borderColor: rule, borderRadius: corner }}>
      {/* Paper gives each child of a card props of its own. */}
      <View style={{ padding: 16, gap: 8, ...style }}>{children}</View>
    </PaperCard>
  );
}

export const Row = ({ children, style }: { children: ReactNode; style?: ViewStyle }) => (
  <View style={{ flexDirection: 'row', alignItems: 'center', flexWrap: 'wrap', gap: 8, ...style }}>{children}</View>
);

export function Waiting({ words = texts.loading }: { words?: string | undefined }) {
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
/** `isCalm`: worth a look, and nothing is wrong. */
export function Attention({ words, children, isCalm = false }: { words: string; children?: ReactNode; isCalm?: boolean }) {
  const p = usePalette();
  return (
    <View role={isCalm ? 'status' : 'alert'}>
      <PaperCard
        mode="contained"
        style={{ backgroundColor: p.surface, borderRadius: corner, borderLeftWidth: 4, borderLeftColor: isCalm ? p.rule : p.attention }}
      >
        <View style={{ flexDirection: 'row', gap: 12, padding: 12 }}>
          <Icon source="attention" size={22} color={isCalm ? p.second : p.attentionInk} />
          <View style={{ flex: 1, gap: 8 }}>
            <Words>{words}</Words>
            {children}
          </View>
        </View>
      </PaperCard>
    </View>
  );
}
