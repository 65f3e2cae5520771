// The look: light and dark, sizes, spacing, and how classes are distinguished. It is Paper's theme, with our palette in it.

import { useWindowDimensions } from 'react-native';
import { configureFonts, MD3DarkTheme, MD3LightTheme, useTheme, type MD3Theme } from 'react-native-paper';
import type { ClassName } from '@nibber/core/boxes';

export type Palette = {
  readonly page: string;
  readonly surface: string;
  readonly ink: string;
  readonly second: string;
  readonly rule: string;
  readonly work: string;
  readonly onWork: string;
  readonly wash: string;
  readonly attention: string;
  readonly attentionInk: string;
  readonly alarm: string;
};

const light: Palette = {
  page: '#F5F1E8',
  surface: '#FFFDF7',
  ink: '#20251F',
  second: '#5A6158',
  rule: '#D8D1C1',
  work: '#1F5C4A',
  onWork: '#FFFDF7',
  wash: '#E4ECE4',
  attention: '#D98E04',
  attentionInk: '#7A4F00',
  alarm: '#A8201A',
};
const dark: Palette = {
  page: '#14160F',
  surface: '#1D2018',
  ink: '#EFEBDD',
  second: '#A8AA99',
  rule: '#363A2E',
  work: '#8CC7AE',
  onWork: '#14160F',
  wash: '#26332B',
  attention: '#D98E04',
  attentionInk: '#F0B95A',
  alarm: '#F2877E',
};

export const sizes = { small: 13, body: 15, lead: 17, title: 22, head: 28 } as const;
export const family = 'SourceSans';
export const corner = 6;
export const target = 44;
export const wideFrom = 900;

/** A class has a colour, a stroke and a glyph; never colour alone. */
export type ClassLook = { readonly colour: string; readonly onDark: string; readonly dash: string | undefined; readonly width: number };
const other: ClassLook = { colour: '#5A6158', onDark: '#C9C9BD', dash: undefined, width: 1 };
export const classLooks: Readonly<Record<ClassName, ClassLook>> = {
  person: { colour: '#6A3D8F', onDark: '#C9A3E6', dash: undefined, width: 2.5 },
  vehicle: { colour: '#9A6A00', onDark: '#E8BC5B', dash: '12 6', width: 2.5 },
  pet: { colour: '#0F6E7C', onDark: '#7FD0DC', dash: '1 5', width: 3 },
  face: other,
  plate: other,
  parcel: other,
  other,
};

/** Paper's theme with what is ours in it. */
export type OwnTheme = MD3Theme & { readonly palette: Palette };

export function usePalette(): Palette & { readonly isDark: boolean } {
  const { palette, dark: isDark } = useTheme<OwnTheme>();
  return { ...palette, isDark };
}

export const useIsWide = (): boolean => useWindowDimensions().width >= wideFrom;

const font = (size: number, weight: '400' | '600' = '400') => ({
  fontFamily: family,
  fontSize: size,
  lineHeight: Math.round(size * 1.4),
  fontWeight: weight,
  letterSpacing: 0,
});

const fonts = configureFonts({
  config: {
    bodySmall: font(sizes.small),
    labelSmall: font(sizes.small),
    labelMedium: font(sizes.small),
    bodyMedium: font(sizes.body),
    labelLarge: font(sizes.body),
    titleSmall: font(sizes.body, '600'),
    bodyLarge: font(sizes.body),
    titleMedium: font(sizes.lead, '600'),
    titleLarge: font(sizes.title, '600'),
    headlineMedium: font(sizes.head, '600'),
  },
});

export function themeOf(isDark: boolean): OwnTheme {
  const base = isDark ? MD3DarkTheme : MD3LightTheme;
  const p = isDark ? dark : light;
  return {
    ...base,
    palette: p,
    roundness: corner,
    fonts: { ...fonts, default: { ...fonts.default, fontFamily: family } },
    // Nothing moves for longer than the eye follows.
    animation: { scale: 0.5 },
    colors: {
      ...base.colors,
      primary: p.work,
      onPrimary: p.onWork,
      primaryContainer: p.wash,
      onPrimaryContainer: p.ink,
      secondaryContainer: p.wash,
      onSecondaryContainer: p.ink,
      background: p.page,
      onBackground: p.ink,
      surface: p.surface,
      onSurface: p.ink,
      surfaceVariant: p.surface,
      onSurfaceVariant: p.second,
      outline: p.second,
      outlineVariant: p.rule,
      error: p.alarm,
      onError: p.surface,
      elevation: { level0: 'transparent', level1: p.surface, level2: p.surface, level3: p.surface, level4: p.surface, level5: p.surface },
      inverseSurface: p.ink,
      inverseOnSurface: p.surface,
      inversePrimary: isDark ? light.work : dark.work,
    },
  };
}
