// The look: paper by day, lamp by night; sizes, spacing, and how classes are told apart.

import { useColorScheme, useWindowDimensions } from 'react-native';
import { MD3DarkTheme, MD3LightTheme, configureFonts, type MD3Theme } from 'react-native-paper';
import type { ClassName } from '@nibber/core/boxes';
import { useAppSelector } from '../features/api/store';

export type Palette = {
  readonly page: string;
  readonly sheet: string;
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

const paper: Palette = { page: '#F5F1E8', sheet: '#FFFDF7', ink: '#20251F', second: '#5A6158', rule: '#D8D1C1', work: '#1F5C4A', onWork: '#FFFDF7', wash: '#E4ECE4', attention: '#D98E04', attentionInk: '#7A4F00', alarm: '#A8201A' }; // prettier-ignore
const lamp: Palette = { page: '#14160F', sheet: '#1D2018', ink: '#EFEBDD', second: '#A8AA99', rule: '#363A2E', work: '#8CC7AE', onWork: '#14160F', wash: '#26332B', attention: '#D98E04', attentionInk: '#F0B95A', alarm: '#F2877E' }; // prettier-ignore

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

export function usePalette(): Palette & { readonly isDark: boolean } {
  const system = useColorScheme();
  const chosen = useAppSelector((s) => s.settings.light);
  const isDark = chosen === 'system' ? system === 'dark' : chosen === 'lamp';
  return { ...(isDark ? lamp : paper), isDark };
}

export const useIsWide = (): boolean => useWindowDimensions().width >= wideFrom;

export function paperTheme(p: Palette & { readonly isDark: boolean }): MD3Theme {
  const base = p.isDark ? MD3DarkTheme : MD3LightTheme;
  return {
    ...base,
    roundness: corner,
    fonts: configureFonts({ config: { fontFamily: family } }),
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
      surface: p.sheet,
      onSurface: p.ink,
      surfaceVariant: p.sheet,
      onSurfaceVariant: p.second,
      outline: p.rule,
      outlineVariant: p.rule,
      error: p.alarm,
      elevation: { level0: 'transparent', level1: p.sheet, level2: p.sheet, level3: p.sheet, level4: p.sheet, level5: p.sheet },
      inverseSurface: p.ink,
      inverseOnSurface: p.sheet,
      inversePrimary: p.isDark ? paper.work : lamp.work,
    },
  };
}
