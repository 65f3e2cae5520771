// Where cameras stand on the plan, and what a finger or a key does to that.

import type { PlanPoint, PlanView } from '@nibber/core/plan';
import type { CameraAnswer } from '../../state/api/types';
import type { Standing } from '../../state/plan';

const stepMetres = 0.5;
const stepDegrees = 5;

export const tenth = (v: number) => Math.round(v * 10) / 10;

export const placesOf = (cameras: readonly CameraAnswer[]): Standing[] =>
  cameras.flatMap(({ id, aim }) =>
    aim?.east === undefined || aim.north === undefined
      ? []
      : [{ camera: id, east: aim.east, north: aim.north, headingDegrees: aim.headingDegrees ?? 0 }],
  );

/** A camera as it stands in the draft. */
export function placedAs({ id, name, aim }: CameraAnswer, places: readonly Standing[]) {
  if (!aim) return { id, name };
  const { east: _east, north: _north, ...rest } = aim;
  const place = places.find((c) => c.camera === id);
  return { id, name, aim: place ? { ...rest, east: place.east, north: place.north, headingDegrees: place.headingDegrees } : rest };
}

/** The camera that a finger means. */
export const nearest = ({ placed }: PlanView, [east, north]: PlanPoint, within: number): string | undefined =>
  placed
    .map((c) => ({ id: c.id, far: Math.hypot(c.at[0] - east, c.at[1] - north) }))
    .filter((c) => c.far <= within)
    .sort((a, b) => a.far - b.far)[0]?.id;

/** Arrows move a camera, and < and > turn it; undefined for any other key. */
export function pressed(place: Standing, key: string): Standing | undefined {
  const by = { ArrowLeft: [-stepMetres, 0], ArrowRight: [stepMetres, 0], ArrowUp: [0, stepMetres], ArrowDown: [0, -stepMetres] }[key];
  const turn = { '<': -stepDegrees, '>': stepDegrees }[key];
  if (!by && turn === undefined) return undefined;
  const [east, north] = by ?? [0, 0];
  return {
    ...place,
    east: tenth(place.east + east!),
    north: tenth(place.north + north!),
    headingDegrees: (place.headingDegrees + (turn ?? 0) + 360) % 360,
  };
}
