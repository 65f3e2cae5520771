// What saves a draft: at the foot of the screen, in sight, while there is something to save.

import type { ComponentProps, ReactNode } from 'react';
import { View, type ViewStyle } from 'react-native';
import { Footer } from './Footer';
import { usePalette } from './theme';

const atFoot = { position: 'sticky', bottom: 0, paddingVertical: 8 } as unknown as ViewStyle;

export function DraftBar({ isOpen, beside, ...footer }: ComponentProps<typeof Footer> & { isOpen: boolean; beside?: ReactNode }) {
  const { page } = usePalette();
  return (
    <View
      style={{
        flexDirection: 'row',
        flexWrap: 'wrap',
        justifyContent: 'space-between',
        gap: 8,
        backgroundColor: page,
        ...(isOpen ? atFoot : {}),
      }}
    >
      {beside ?? <View />}
      <Footer {...footer} />
    </View>
  );
}
