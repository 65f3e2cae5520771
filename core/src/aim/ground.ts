// Where on flat ground each pixel of an aimed camera lies. Pinhole model with height, tilt and roll; a cylinder for panoramas.

import type { Box, Point } from '../boxes';
import type { Polygon } from '../zones';
import { fieldDegrees, isPanorama, levels, pixelsAtOneMetre, plateRule, type Lens, type Level } from './density';

export type Aim = {
  readonly heightMetres: number;
  /** Down from level. */
  readonly tiltDegrees: number;
  /** Clockwise as seen from behind the camera. */
  readonly rollDegrees?: number;
  /** Clockwise from north. */
  readonly headingDegrees?: number;
  readonly east?: number;
  readonly north?: number;
  readonly lens: Lens;
  readonly pictureWidth: number;
  readonly pictureHeight: number;
  readonly infraredMetres?: number;
  readonly lampMetres?: number;
};

/** Metres from the point under the camera: to its right, and ahead of it. */
export type Ground = readonly [right: number, ahead: number];

export type GroundModel = {
  readonly aim: Aim;
  /** Where a pixel lies; undefined at and above the horizon. `depth` is the distance along the view, metres. */
  at(point: Point): { readonly ground: Ground; readonly depth: number } | undefined;
  /** Where a point at a height over the ground is on the picture; undefined behind the camera. May lie off the picture. */
  pixel(ground: Ground, upMetres?: number): Point | undefined;
};

const radians = Math.PI / 180;

/** @param aim as the schema allows it */
export function groundModel(aim: Aim): GroundModel {
  return isPanorama(aim.lens) ? cylinder(aim) : pinhole(aim);
}

function pinhole(aim: Aim): GroundModel {
  const { heightMetres: h, pictureWidth, pictureHeight } = aim;
  const halfWidth = Math.tan((fieldDegrees(aim.lens) * radians) / 2);
  const halfHeight = (halfWidth * pictureHeight) / pictureWidth;
  const [tilt, roll] = [aim.tiltDegrees * radians, (aim.rollDegrees ?? 0) * radians];
  const [sinT, cosT, sinR, cosR] = [Math.sin(tilt), Math.cos(tilt), Math.sin(roll), Math.cos(roll)];
  return {
    aim,
    at([u, v]) {
      const [x, y] = [(u - 0.5) * 2 * halfWidth, (v - 0.5) * 2 * halfHeight];
      const right = x * cosR - y * sinR;
      const down = x * sinR + y * cosR;
      const falls = sinT + down * cosT;
      if (falls <= 1e-9) return undefined;
      const depth = h / falls;
      return { ground: [depth * right, depth * (cosT - down * sinT)], depth };
    },
    pixel([right, ahead], up = 0) {
      const below = h - up;
      const depth = ahead * cosT + below * sinT;
      if (depth <= 1e-9) return undefined;
      const [r, d] = [right / depth, (below * cosT - ahead * sinT) / depth];
      return [0.5 + (r * cosR + d * sinR) / (2 * halfWidth), 0.5 + (d * cosR - r * sinR) / (2 * halfHeight)];
    },
  };
}

/** Tilt moves the horizon of a panorama; roll has no meaning for it. */
function cylinder(aim: Aim): GroundModel {
  const field = fieldDegrees(aim.lens) * radians;
  const tall = (field * aim.pictureHeight) / aim.pictureWidth;
  const slope = Math.tan(aim.tiltDegrees * radians);
  return {
    aim,
    at([u, v]) {
      const falls = (v - 0.5) * tall + slope;
      if (falls <= 1e-9) return undefined;
      const [azimuth, depth] = [(u - 0.5) * field, aim.heightMetres / falls];
      return { ground: [depth * Math.sin(azimuth), depth * Math.cos(azimuth)], depth };
    },
    pixel([right, ahead], up = 0) {
      const depth = Math.hypot(right, ahead);
      if (depth <= 1e-9) return undefined;
      return [0.5 + Math.atan2(right, ahead) / field, 0.5 + ((aim.heightMetres - up) / depth - slope) / tall];
    },
  };
}

const feetOf = (box: Box): Point => [box[0] + box[2] / 2, box[1] + box[3]];

/** Ground distance of a thing's feet from the point under the camera, metres; Infinity at and above the horizon. */
export function distanceOf(model: GroundModel, box: Box): number {
  const found = model.at(feetOf(box));
  return found ? Math.hypot(found.ground[0], found.ground[1]) : Infinity;
}

/** How tall a thing is that stands upright at its feet, metres; undefined where its feet are on no ground. */
export function metresHigh(model: GroundModel, box: Box): number | undefined {
  const found = model.at(feetOf(box));
  if (!found) return undefined;
  const top = box[1];
  // The picture's row falls with the height over the ground, steadily: the height at which it reaches the top is found by halving.
  let [low, high] = [0, 4 * Math.max(model.aim.heightMetres, 5)];
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    const seen = model.pixel(found.ground, middle);
    if (seen && seen[1] > top) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** How many pixels tall a thing of so many metres is where it stands; undefined where it is behind the camera. */
export function pixelsHigh(model: GroundModel, ground: Ground, metres: number): number | undefined {
  const [feet, head] = [model.pixel(ground), model.pixel(ground, metres)];
  return feet && head ? (feet[1] - head[1]) * model.aim.pictureHeight : undefined;
}

/** Pixels per metre on the ground at a pixel; 0 at and above the horizon. */
export function densityAt(model: GroundModel, point: Point): number {
  const found = model.at(point);
  return found ? pixelsAtOneMetre(model.aim.lens, model.aim.pictureWidth) / found.depth : 0;
}

/** Least and greatest density inside a zone, pixels per metre. Density changes along straight lines only one way, so the corners have both. */
export function densityIn(model: GroundModel, zone: Polygon): { readonly min: number; readonly max: number } {
  const all = zone.map((p) => densityAt(model, p));
  return { min: Math.min(...all), max: Math.max(...all) };
}

/** Nearest ground that the picture shows, metres; Infinity where it shows none. Nearer than this is dead ground. */
export const deadMetres = (model: GroundModel): number => Math.min(...border().map((p) => distanceOfPoint(model, p)));

function distanceOfPoint(model: GroundModel, p: Point): number {
  const found = model.at(p);
  return found ? Math.hypot(...found.ground) : Infinity;
}

const stepsASide = 24;

/** Points round the picture's edge: up the left side, along the top, down the right, back along the bottom. */
function border(): Point[] {
  const steps = Array.from({ length: stepsASide }, (_, i) => i / stepsASide);
  return [
    ...steps.map((t): Point => [0, 1 - t]),
    ...steps.map((t): Point => [t, 0]),
    ...steps.map((t): Point => [1, t]),
    ...steps.map((t): Point => [1 - t, 1]),
  ];
}

/** The ground that a camera shows, as far as `farthest` metres; metres right and ahead of the point under it. Empty where it shows none. */
export function footprint(model: GroundModel, farthest: number): Ground[] {
  const corners = border().map((p): Ground | undefined => {
    const found = model.at(p);
    if (found && Math.hypot(...found.ground) <= farthest) return found.ground;
    // Beyond: the same direction, as far as is asked. A row just under the horizon shows it.
    const direction = found?.ground ?? directionAbove(model, p);
    const length = direction && Math.hypot(...direction);
    return direction && length ? [(direction[0] / length) * farthest, (direction[1] / length) * farthest] : undefined;
  });
  if (deadMetres(model) > farthest) return [];
  return corners.filter((c): c is Ground => c !== undefined);
}

function directionAbove(model: GroundModel, [u]: Point): Ground | undefined {
  for (let v = 0; v <= 1; v += 1 / 512) {
    const found = model.at([u, v]);
    if (found) return found.ground;
  }
  return undefined;
}

/** A point of the ground on the site's plan, metres east and north. */
export function onPlan({ headingDegrees = 0, east = 0, north = 0 }: Aim, [right, ahead]: Ground): readonly [east: number, north: number] {
  const heading = headingDegrees * radians;
  return [east + ahead * Math.sin(heading) + right * Math.cos(heading), north + ahead * Math.cos(heading) - right * Math.sin(heading)];
}

/** How far a level reaches along the view, metres; by night also no farther than the light. Without light a night shows nothing. */
export function reach({ lens, pictureWidth, infraredMetres, lampMetres }: Aim, level: Level, isNight: boolean): number {
  const byDay = pixelsAtOneMetre(lens, pictureWidth) / levels[level];
  return isNight ? Math.min(byDay, Math.max(infraredMetres ?? 0, lampMetres ?? 0)) : byDay;
}

export type PlateView = { readonly pixelsPerMetre: number; readonly degreesOff: number; readonly problems: readonly ('far' | 'aslant')[] };

const plateUpMetres = 0.5;

/**
 * Whether a plate can be read at a place.
 * @param facing where the vehicle's front (or back) points, clockwise from the camera's own direction; 180 comes straight at it
 */
export function plateAt(model: GroundModel, ground: Ground, facing: number): PlateView {
  const [right, ahead] = ground;
  const up = model.aim.heightMetres - plateUpMetres;
  const far = Math.hypot(right, ahead, up);
  const pixel = model.pixel(ground, plateUpMetres);
  // The plate's own direction against the direction from it to the camera.
  const turned = facing * radians;
  const cosine = (-right * Math.sin(turned) - ahead * Math.cos(turned)) / far;
  const degreesOff = Math.acos(Math.min(1, Math.max(-1, cosine))) / radians;
  const pixelsPerMetre = pixel ? pixelsAtOneMetre(model.aim.lens, model.aim.pictureWidth) / far : 0;
  const problems: ('far' | 'aslant')[] = [];
  if (pixelsPerMetre < plateRule.pixelsPerMetre) problems.push('far');
  if (degreesOff >= plateRule.degreesOff) problems.push('aslant');
  return { pixelsPerMetre, degreesOff, problems };
}
