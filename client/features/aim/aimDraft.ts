// The aim as it stands in the fields: texts until they are numbers.

import type { Aim, Lens } from '@nibber/core/aim';

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

/** Common practice where nobody has measured yet: three metres up, a little down, a lens of 90°. */
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

const within = (v: number | undefined, least: number, most: number): v is number => v !== undefined && v > least && v <= most;

/** The aim that the fields say, keeping what they do not show; or what is missing, in words. */
export function aimOf(draft: AimDraft, before: Aim | null): { readonly aim: Aim } | { readonly missing: string } {
  const n = (key: keyof AimDraft) => numberOf(draft[key]);
  const [height, tilt, width, tall] = [n('heightMetres'), n('tiltDegrees'), n('pictureWidth'), n('pictureHeight')];
  if (!within(height, 0, 200)) return { missing: 'Give the height it hangs at, in metres.' };
  if (tilt === undefined || Math.abs(tilt) > 90) return { missing: 'Give how far it looks down, from -90 to 90 degrees.' };
  if (!within(width, 15, 20_000) || !within(tall, 15, 20_000)) return { missing: 'Give the size of its picture, in pixels.' };
  const [angle, focal, sensor] = [n('horizontalDegrees'), n('focalMillimetres'), n('sensorWidthMillimetres')];
  let lens: Lens;
  if (draft.lens === 'angle') {
    if (!within(angle, 0, 179)) return { missing: 'Give how wide the lens sees, up to 179 degrees.' };
    lens = { horizontalDegrees: angle };
  } else {
    if (!within(focal, 0, 2000) || !within(sensor, 0, 100))
      return { missing: 'Give focal length and width of the sensor, in millimetres.' };
    lens = { focalMillimetres: focal, sensorWidthMillimetres: sensor };
  }
  const [infrared, lamp] = [n('infraredMetres'), n('lampMetres')];
  const { infraredMetres: _i, lampMetres: _l, ...rest } = before ?? ({} as Partial<Aim>);
  const aim: Aim = {
    ...rest,
    heightMetres: height,
    tiltDegrees: tilt,
    lens,
    pictureWidth: Math.round(width),
    pictureHeight: Math.round(tall),
    ...(within(infrared, 0, 1000) ? { infraredMetres: infrared } : {}),
    ...(within(lamp, 0, 1000) ? { lampMetres: lamp } : {}),
  };
  return { aim };
}
