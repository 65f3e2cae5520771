// The aim as it stands in the fields: texts until they are numbers.

import type { Aim, Lens } from '@nibber/core/aim';
import { texts } from './words';

export type AimDraft = {
  readonly heightMetres: string;
  readonly tiltDegrees: string;
  readonly lens: 'angle' | 'focal';
  readonly horizontalDegrees: string;
  readonly focalMillimetres: string;
  readonly sensorWidthMillimetres: string;
  readonly infraredMetres: string;
  readonly lampMetres: string;
  readonly pictureWidth: string;
  readonly pictureHeight: string;
};

const text = (v: number | undefined) => (v === undefined ? '' : String(Math.round(v * 100) / 100));

/** Common practice where no one has measured yet: three metres up, a little down, a lens of 90°. */
export function draftOf(aim: Aim | null): AimDraft {
  const lens: Lens = aim?.lens ?? { horizontalDegrees: 90 };
  const isAngle = 'horizontalDegrees' in lens;
  return {
    heightMetres: text(aim?.heightMetres ?? 3),
    tiltDegrees: text(aim?.tiltDegrees ?? 15),
    lens: isAngle ? 'angle' : 'focal',
    horizontalDegrees: isAngle ? text(lens.horizontalDegrees) : '',
    focalMillimetres: isAngle ? '' : text(lens.focalMillimetres),
    sensorWidthMillimetres: isAngle ? '' : text(lens.sensorWidthMillimetres),
    infraredMetres: text(aim?.infraredMetres),
    lampMetres: text(aim?.lampMetres),
    pictureWidth: text(aim?.pictureWidth ?? 1920),
    pictureHeight: text(aim?.pictureHeight ?? 1080),
  };
}

/** A number as people write it, with a point or a comma; undefined for what is none. */
export function numberOf(words: string): number | undefined {
  const value = Number(words.trim().replace(',', '.'));
  return words.trim() !== '' && Number.isFinite(value) ? value : undefined;
}

const within = (v: number | undefined, min: number, max: number): v is number => v !== undefined && v > min && v <= max;

/** The aim that the fields say, keeping what they do not show; or what is missing, by the field where it is. */
export function aimOf(
  draft: AimDraft,
  before: Aim | null,
): { readonly aim: Aim } | { readonly problems: Partial<Record<keyof AimDraft, string>> } {
  const n = (key: keyof AimDraft) => numberOf(draft[key]);
  const problems: Partial<Record<keyof AimDraft, string>> = {};
  /** The number in a field, where it can be one. */
  const asked = (key: keyof AimDraft, isGood: (v: number | undefined) => v is number, words: string): number => {
    const value = n(key);
    if (isGood(value)) return value;
    problems[key] = words;
    return NaN;
  };
  const between =
    (min: number, max: number) =>
    (v: number | undefined): v is number =>
      within(v, min, max);
  const heightMetres = asked('heightMetres', between(0, 200), texts.inMetresUpTo200);
  const tiltDegrees = asked('tiltDegrees', (v): v is number => v !== undefined && Math.abs(v) <= 90, texts.inDegreesFrom90To);
  const pictureWidth = Math.round(asked('pictureWidth', between(15, 20_000), texts.inPixels16OrMore));
  const pictureHeight = Math.round(asked('pictureHeight', between(15, 20_000), texts.inPixels16OrMore));
  const lens: Lens =
    draft.lens === 'angle'
      ? { horizontalDegrees: asked('horizontalDegrees', between(0, 179), texts.inDegreesUpTo179) }
      : {
          focalMillimetres: asked('focalMillimetres', between(0, 2000), texts.inMillimetres),
          sensorWidthMillimetres: asked('sensorWidthMillimetres', between(0, 100), texts.inMillimetres),
        };
  if (Object.keys(problems).length > 0) return { problems };
  const [infrared, lamp] = [n('infraredMetres'), n('lampMetres')];
  const { infraredMetres: _i, lampMetres: _l, ...rest } = before ?? ({} as Partial<Aim>);
  return {
    aim: {
      ...rest,
      heightMetres,
      tiltDegrees,
      lens,
      pictureWidth,
      pictureHeight,
      ...(within(infrared, 0, 1000) ? { infraredMetres: infrared } : {}),
      ...(within(lamp, 0, 1000) ? { lampMetres: lamp } : {}),
    },
  };
}
