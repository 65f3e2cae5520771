// A sheet of choices that comes up from below (or stands in the middle where there is room).

import type { ReactNode } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import { Modal, Portal } from 'react-native-paper';
import { corner, target, useIsWide, usePalette } from './look';
import { Glyph } from './Glyph';
import { Button } from './Surface';
import { Words } from './Words';

export function ChoiceSheet({ title, open, close, children }: { title: string; open: boolean; close: () => void; children: ReactNode }) {
  const p = usePalette();
  const isWide = useIsWide();
  return (
    <Portal>
      <Modal
        visible={open}
        onDismiss={close}
        style={{ justifyContent: isWide ? 'center' : 'flex-end', alignItems: 'center', marginTop: 0, marginBottom: 0 }}
        contentContainerStyle={{
          backgroundColor: p.sheet,
          borderRadius: corner,
          borderBottomLeftRadius: isWide ? corner : 0,
          borderBottomRightRadius: isWide ? corner : 0,
          width: '100%',
          maxWidth: 480,
          maxHeight: '80%',
        }}
      >
        <View
          style={{
            flexDirection: 'row',
            alignItems: 'center',
            justifyContent: 'space-between',
            paddingLeft: 16,
            paddingRight: 8,
            paddingTop: 8,
          }}
        >
          <Words size="lead" bold heading={2}>
            {title}
          </Words>
          <Button glyph="close" label="Close" onPress={close} />
        </View>
        <ScrollView contentContainerStyle={{ padding: 16, paddingTop: 8, gap: 4 }}>{children}</ScrollView>
      </Modal>
    </Portal>
  );
}

/** One choice of several; `many` where several can hold at once. */
export function Option({
  words,
  detail,
  chosen,
  many = false,
  onPress,
  testID,
}: {
  words: string;
  detail?: string;
  chosen: boolean;
  many?: boolean;
  onPress: () => void;
  testID?: string;
}) {
  const p = usePalette();
  return (
    <Pressable
      onPress={onPress}
      role={many ? 'checkbox' : 'radio'}
      aria-checked={chosen}
      testID={testID}
      style={{ minHeight: target, flexDirection: 'row', alignItems: 'center', gap: 12, paddingVertical: 6 }}
    >
      <View
        style={{
          width: 22,
          height: 22,
          borderRadius: many ? 4 : 11,
          borderWidth: 1.5,
          borderColor: chosen ? p.work : p.second,
          backgroundColor: chosen ? p.work : 'transparent',
          alignItems: 'center',
          justifyContent: 'center',
        }}
      >
        {chosen && <Glyph name="check" size={16} colour={p.onWork} />}
      </View>
      <View style={{ flex: 1 }}>
        <Words>{words}</Words>
        {detail && (
          <Words size="small" tone="second">
            {detail}
          </Words>
        )}
      </View>
    </Pressable>
  );
}
