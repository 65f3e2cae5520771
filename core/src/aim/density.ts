// Pixel density: how many pixels of a camera's picture a metre of the site gets, and what that is good for.

/**
 * Least pixels per metre for each task, lowest first.
 * Source: IEC/EN 62676-4:2015, table of operational requirements.
 */
export const levels = { monitor: 12.5, detect: 25, observe: 62.5, recognise: 125, identify: 250, inspect: 1000 } as const;
export type Level = keyof typeof levels;
export const levelNames = Object.keys(levels) as Level[];

/** Common practice for reading plates: least pixels per metre, and most degrees off the plate's own axis. */
export const plateRule = { pixelsPerMetre: 150, degreesOff: 30 } as const;

export type Lens =
  | { readonly horizontalDegrees: number; readonly panorama?: boolean }
  | { readonly focalMillimetres: number; readonly sensorWidthMillimetres: number };

const radians = Math.PI / 180;

/** Horizontal angle of view, degrees. From focal length f and sensor width s: 2 atan(s / 2f). */
export const fieldDegrees = (lens: Lens): number =>
  'horizontalDegrees' in lens
    ? lens.horizontalDegrees
    : (2 * Math.atan(lens.sensorWidthMillimetres / (2 * lens.focalMillimetres))) / radians;

export const isPanorama = (lens: Lens): boolean => 'horizontalDegrees' in lens && lens.panorama === true;

/** Pixels a metre is wide at unit distance: w / (2 tan(a/2)), or w / a on a cylindrical panorama. */
export const pixelsAtOneMetre = (lens: Lens, pictureWidth: number): number => {
  const a = fieldDegrees(lens) * radians;
  return isPanorama(lens) ? pictureWidth / a : pictureWidth / (2 * Math.tan(a / 2));
};

/**
 * Pixels per metre at a distance along the view.
 * @param metres above 0
 */
export const density = (lens: Lens, pictureWidth: number, metres: number): number => pixelsAtOneMetre(lens, pictureWidth) / metres;

/** How far away a level is still reached, metres. */
export const distanceFor = (lens: Lens, pictureWidth: number, pixelsPerMetre: number): number =>
  pixelsAtOneMetre(lens, pictureWidth) / pixelsPerMetre;

/** The highest level that a density is good for; undefined below the lowest. */
export const levelAt = (pixelsPerMetre: number): Level | undefined =>
  [...levelNames].reverse().find((level) => pixelsPerMetre >= levels[level]);
