// What comes up over a screen to be answered: from below on a phone, in the middle where there is room. One for all.

import { useEffect, useRef, type ReactNode } from 'react';
import { ScrollView, View } from 'react-native';
import { Modal, Portal } from 'react-native-paper';
import { Button } from './Button';
import { corner, useIsWide, usePalette } from './theme';
import { Words } from './Words';
import { texts } from './texts';

type Props = {
  title: string;
  open: boolean;
  close: () => void;
  children: ReactNode;
  /** What stands below and stays in sight. */
  footer?: ReactNode;
};

export function Sheet({ title, open, close, children, footer }: Props) {
  const p = usePalette();
  const isWide = useIsWide();
  const box = useRef<View>(null);
  useEffect(() => {
    if (!open || typeof document === 'undefined') return;
    const before = document.activeElement as HTMLElement | null;
    const first = (box.current as unknown as HTMLElement | null)?.querySelector<HTMLElement>('[tabindex="0"], input, textarea');
    first?.focus();
    const onKey = (event: KeyboardEvent) => event.key === 'Escape' && close();
    document.addEventListener('keydown', onKey);
    return () => {
      document.removeEventListener('keydown', onKey);
      before?.focus?.();
    };
    // While it is open its `close` may be replaced by one that does the same.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [open]);
  return (
    <Portal>
      <Modal
        visible={open}
        onDismiss={close}
        style={{ justifyContent: isWide ? 'center' : 'flex-end', alignItems: 'center', marginTop: 0, marginBottom: 0 }}
        contentContainerStyle={{
          backgroundColor: p.surface,
          borderRadius: corner,
          borderBottomLeftRadius: isWide ? corner : 0,
          borderBottomRightRadius: isWide ? corner : 0,
          width: '100%',
          maxWidth: 480,
          maxHeight: '80%',
        }}
      >
        <View ref={box} role="dialog" aria-label={title} {...({ 'aria-modal': true } as object)} style={{ flexShrink: 1 }}>
          <View style={{ flexDirection: 'row', alignItems: 'center', justifyContent: 'space-between', padding: 8, paddingLeft: 16 }}>
            <Words size="lead" bold heading={2} style={{ flexShrink: 1 }}>
              {title}
            </Words>
            <Button glyph="close" label={texts.close} onPress={close} />
          </View>
          <ScrollView contentContainerStyle={{ padding: 16, paddingTop: 0, gap: 8 }}>{children}</ScrollView>
          {footer && <View style={{ padding: 16, paddingTop: 8, borderTopWidth: 1, borderTopColor: p.rule }}>{footer}</View>}
        </View>
      </Modal>
    </Portal>
  );
}
