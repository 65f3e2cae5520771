import { Slot, usePathname, useRouter, type Href } from 'expo-router';
import { StatusBar } from 'expo-status-bar';
import { useEffect, useRef, useState } from 'react';
import { View } from 'react-native';
import { PaperProvider } from 'react-native-paper';
import { Provider } from 'react-redux';
import { troubleWords, useSessionQuery } from '../features/api/api';
import { makeStore } from '../features/api/store';
import { SignIn } from '../features/session/SignIn';
import { Shell } from '../features/shell/Shell';
import { Glyph, type GlyphName } from '../ui/Glyph';
import { paperTheme, usePalette } from '../ui/look';
import { Attention, Button, Page, Waiting } from '../ui/Surface';

export default function Layout() {
  const [store] = useState(makeStore);
  return (
    <Provider store={store}>
      <Themed />
    </Provider>
  );
}

const paperSettings = {
  icon: ({ name, size, color }: { name: unknown; size: number; color?: string }) => (
    <Glyph name={name as GlyphName} size={size} colour={color ?? '#5A6158'} />
  ),
};

function Themed() {
  const palette = usePalette();
  return (
    <PaperProvider theme={paperTheme(palette)} settings={paperSettings as never}>
      <StatusBar style={palette.isDark ? 'light' : 'dark'} />
      <View style={{ flex: 1, backgroundColor: palette.page }}>
        <Gate />
      </View>
    </PaperProvider>
  );
}

/** Only the signed-in come past here. Whose sign-in has ended comes back to where they were. */
function Gate() {
  const { data, isLoading, error, refetch } = useSessionQuery();
  const router = useRouter();
  const path = usePathname();
  const isIn = Boolean(data?.visitor);
  const left = useRef<string>(undefined);
  const was = useRef<string>(undefined);
  // While nobody is signed in no page is shown, and the address is that of none.
  if (isIn && left.current === undefined) was.current = path + (globalThis.location?.search ?? '');
  useEffect(() => {
    if (!isIn) left.current ??= was.current;
    else if (left.current !== undefined) {
      const back = left.current;
      left.current = undefined;
      router.replace(back as Href);
    }
  }, [isIn, router]);
  if (isLoading) return <Waiting words="Opening" />;
  if (!data)
    return (
      <Page>
        <Attention words={troubleWords(error) ?? ''}>
          <Button words="Try again" onPress={() => void refetch()} />
        </Attention>
      </Page>
    );
  if (!data.visitor) return <SignIn isNew={data.isNew} />;
  return (
    <Shell>
      <Slot />
    </Shell>
  );
}
