// The frame around every screen: its five parts and the guide, at the thumb on a phone and in a rail where there is room.

import { usePathname, useRouter, type Href } from 'expo-router';
import type { ReactNode } from 'react';
import { Linking, View } from 'react-native';
import { Glyph, type GlyphName } from '../../ui/Glyph';
import { useIsWide, usePalette } from '../../ui/theme';
import { Touch } from '../../ui/Touch';
import { Words } from '../../ui/Words';
import { useSiteQuery } from '../../state/api';
import { useAppSelector } from '../../state/store';
import { useNow } from '../../state/useNow';
import { ago } from '../../ui/times';
import { NextStep } from '../first-visit/NextStep';
import { Confirm } from '../session/Confirm';
import { useRenewedPhone } from '../phone/useThisPhone';
import { helpFor } from './help';
import { useLive } from '../../state/stream';
import { texts } from './words';

const places: readonly { name: string; href: Href; glyph: GlyphName; under: readonly string[] }[] = [
  { name: texts.now, href: '/', glyph: 'now', under: [] },
  { name: texts.events, href: '/events', glyph: 'events', under: ['/events', '/why', '/ask'] },
  { name: texts.cameras, href: '/cameras', glyph: 'cameras', under: ['/cameras'] },
  { name: texts.rules, href: '/rules', glyph: 'rules', under: ['/rules'] },
  { name: texts.site, href: '/site', glyph: 'site', under: ['/site'] },
];

export function Shell({ children }: { children: ReactNode }) {
  useLive();
  useRenewedPhone();
  const isWide = useIsWide();
  const { page } = usePalette();
  return (
    <View style={{ flex: 1, flexDirection: isWide ? 'row' : 'column', backgroundColor: page }}>
      {isWide && <Places wide />}
      <View style={{ flex: 1, minHeight: 0 }} role="main">
        <NextStep />
        {children}
        <LineDown />
        <Confirm />
      </View>
      {!isWide && <Places wide={false} />}
    </View>
  );
}

function Places({ wide }: { wide: boolean }) {
  const { surface, rule } = usePalette();
  return (
    <View
      role="navigation"
      aria-label={texts.places}
      style={
        wide
          ? { width: 96, backgroundColor: surface, borderRightWidth: 1, borderRightColor: rule, paddingTop: 16, gap: 8 }
          : { flexDirection: 'row', backgroundColor: surface, borderTopWidth: 1, borderTopColor: rule }
      }
    >
      {places.map((p) => (
        <PageLink key={p.name} {...p} wide={wide} />
      ))}
      <HelpLink wide={wide} />
    </View>
  );
}

function PageLink({ name, href, glyph, under, wide }: (typeof places)[number] & { wide: boolean }) {
  const path = usePathname();
  const router = useRouter();
  const isHere = under.length ? under.some((u) => path.startsWith(u)) : path === '/';
  return <NavigationItem name={name} glyph={glyph} isHere={isHere} wide={wide} press={() => router.navigate(href)} />;
}

/** The guide, at what it says of the page that is open. */
function HelpLink({ wide }: { wide: boolean }) {
  const path = usePathname();
  return <NavigationItem name={texts.help} glyph="help" isHere={false} wide={wide} press={() => void Linking.openURL(helpFor(path))} />;
}

type ItemProps = { name: string; glyph: GlyphName; isHere: boolean; wide: boolean; press: () => void };

function NavigationItem({ name, glyph, isHere, wide, press }: ItemProps) {
  const p = usePalette();
  const colour = isHere ? p.work : p.second;
  return (
    <Touch
      press={press}
      role="link"
      isHere={isHere}
      label={name}
      testID={`place-${name.toLowerCase()}`}
      grow={!wide}
      style={{
        minHeight: wide ? 64 : 58,
        alignItems: 'center',
        justifyContent: 'center',
        gap: 2,
        borderColor: isHere ? p.work : 'transparent',
        ...(wide ? { borderLeftWidth: 3 } : { borderTopWidth: 3 }),
      }}
    >
      <Glyph name={glyph} colour={colour} />
      <Words size="small" bold={isHere} style={{ color: colour }}>
        {name}
      </Words>
    </Touch>
  );
}

/** Says that what is shown may be old. It stands below, so that nothing jumps away under a finger as it comes and goes. */
function LineDown() {
  const p = usePalette();
  const { connection, kept } = useAppSelector((s) => s.live);
  const keptAt = Object.values(kept).sort((a, b) => a - b)[0];
  const zone = useSiteQuery().data?.settings.timezone ?? 'UTC';
  const now = useNow();
  if (connection !== 'lost' && keptAt === undefined) return null;
  const asOf = keptAt === undefined ? texts.thisMayBeOutOf : texts.lastUpdated(ago(keptAt, now, zone));
  return (
    <View role="status" style={{ backgroundColor: p.attention, padding: 8, alignItems: 'center' }}>
      <Words style={{ color: '#20251F' }}>
        {texts.tryingAgain(connection === 'lost' ? texts.noConnectionToTheServer : texts.slowConnection, asOf)}
      </Words>
    </View>
  );
}
