// What is said in passing, at the foot of the screen: one place for all of it, one message at a time, the newest.

import { createContext, useCallback, useContext, useMemo, useState, type ReactNode } from 'react';
import { Portal, Snackbar } from 'react-native-paper';

type Message = { readonly words: string; readonly action?: { readonly label: string; readonly press: () => void } | undefined };
type Say = (words: string, action?: Message['action']) => void;

const Saying = createContext<Say>(() => {});
export const useSay = (): Say => useContext(Saying);

const readMs = 6000;

export function Messages({ children }: { children: ReactNode }) {
  const [message, setMessage] = useState<Message>();
  const [isShown, setShown] = useState(false);
  const say = useCallback<Say>((words, action) => {
    setMessage({ words, action });
    setShown(true);
  }, []);
  const action = useMemo(() => message?.action && { label: message.action.label, onPress: message.action.press }, [message]);
  return (
    <Saying.Provider value={say}>
      {children}
      <Portal>
        <Snackbar visible={isShown} duration={readMs} onDismiss={() => setShown(false)} action={action} testID="message" role="status">
          {message?.words ?? ''}
        </Snackbar>
      </Portal>
    </Saying.Provider>
  );
}
