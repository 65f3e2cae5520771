// The page for those who are not signed in: it signs in, and nothing else, so that no one waits for the whole application at the door.

import { configureStore } from '@reduxjs/toolkit';
import { useEffect, useRef } from 'react';
import { createRoot } from 'react-dom/client';
import { useColorScheme, View } from 'react-native';
import { PaperProvider } from 'react-native-paper';
import { Provider } from 'react-redux';
import { SignIn } from '../features/session/SignIn';
import { Loading } from '../features/shell/Loading';
import { api, useSessionQuery } from '../state/api';
import { confirming } from '../state/confirm';
import { live } from '../state/live';
import { settings } from '../state/settings';
import { saveInStorage } from '../state/storage';
import { useAppSelector } from '../state/store';
import { iconSettings } from '../ui/Glyph';
import { Waiting } from '../ui/Surface';
import { themeOf } from '../ui/theme';

const store = configureStore({
  reducer: { [api.reducerPath]: api.reducer, live: live.reducer, settings: settings.reducer, confirming: confirming.reducer },
  middleware: (usual) => usual().concat(api.middleware),
});
saveInStorage(store.getState as never, store.subscribe);

function Door() {
  const system = useColorScheme();
  const chosen = useAppSelector((s) => s.settings.light);
  const theme = themeOf(chosen === 'system' ? system === 'dark' : chosen === 'dark');
  return (
    <PaperProvider theme={theme} settings={iconSettings}>
      <View style={{ flex: 1, backgroundColor: theme.palette.page }}>
        <Asked />
      </View>
    </PaperProvider>
  );
}

function Asked() {
  const asked = useSessionQuery();
  const { data } = asked;
  /** The first owner is led on by what made the account. */
  const wasNew = useRef(false);
  wasNew.current ||= data?.isNew ?? false;
  const isIn = Boolean(data?.visitor);
  useEffect(() => {
    // Whoever is let in goes on to where they wanted to, in the application itself.
    if (isIn && !wasNew.current) location.reload();
  }, [isIn]);
  if (!data) return <Loading of={[asked]} />;
  return isIn && !wasNew.current ? <Waiting /> : <SignIn isNew={wasNew.current} />;
}

createRoot(document.getElementById('root')!).render(
  <Provider store={store}>
    <Door />
  </Provider>,
);
