import { Slot, usePathname, useRouter, type Href } from 'expo-router';
import { StatusBar } from 'expo-status-bar';
import { useEffect, useRef, useState } from 'react';
import { useColorScheme, View } from 'react-native';
import { PaperProvider } from 'react-native-paper';
import { Provider } from 'react-redux';
import { setupListeners } from '@reduxjs/toolkit/query/react';
import { SignIn } from '../features/session/SignIn';
import { Loading } from '../features/shell/Loading';
import { Shell } from '../features/shell/Shell';
import { Unopened } from '../features/shell/Unopened';
import { useSessionQuery } from '../state/api';
import { makeStore, useAppSelector } from '../state/store';
import { iconSettings } from '../ui/Glyph';
import { startWorker } from '../state/worker';
import { Messages, useSay } from '../ui/Messages';
import { Waiting } from '../ui/Surface';
import { themeOf } from '../ui/theme';

export default function Layout() {
  const [store] = useState(makeStore);
  // What is asked again and again pauses while the page is in the background.
  useEffect(() => setupListeners(store.dispatch), [store]);
  return (
    <Provider store={store}>
      <Themed />
    </Provider>
  );
}

function Themed() {
  const system = useColorScheme();
  const chosen = useAppSelector((s) => s.settings.light);
  const isDark = chosen === 'system' ? system === 'dark' : chosen === 'dark';
  const theme = themeOf(isDark);
  return (
    <PaperProvider theme={theme} settings={iconSettings}>
      <StatusBar style={isDark ? 'light' : 'dark'} />
      <View style={{ flex: 1, backgroundColor: theme.palette.page }}>
        <Messages>
          <Gate />
        </Messages>
      </View>
    </PaperProvider>
  );
}

/** Only the signed-in come past here. Whose sign-in has ended comes back to where they were. */
function Gate() {
  const say = useSay();
  const asked = useSessionQuery();
  const { data, isLoading } = asked;
  const router = useRouter();
  const path = usePathname();
  const isIn = Boolean(data?.visitor);
  const left = useRef<string>(undefined);
  const was = useRef<string>(undefined);
  // While no one is signed in no page is shown, and the address is that of none.
  if (isIn && left.current === undefined) was.current = path + (globalThis.location?.search ?? '');
  useEffect(() => {
    if (!isIn) left.current ??= was.current;
    else if (left.current !== undefined) {
      const back = left.current;
      left.current = undefined;
      router.replace(back as Href);
    }
  }, [isIn, router]);
  useEffect(
    () =>
      startWorker({
        go: (to) => router.navigate(to as Href),
        updated: () => say('Nibber was updated.'),
        offered: (load) => say('There is a new version of Nibber.', { label: 'Load again', press: load }),
      }),
    [router, say],
  );
  if (path === '/join') return <Slot />;
  if (isLoading) return <Waiting />;
  if (!data) return <Loading of={[asked]} />;
  if (!data.visitor) return <SignIn isNew={data.isNew} />;
  return (
    <Shell>
      <Unopened>
        <Slot />
      </Unopened>
    </Shell>
  );
}
