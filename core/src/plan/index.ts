// The plan of a site: where each camera stands, what ground it covers at a level, where cameras overlap, and what no one covers.

import clipping, { type MultiPolygon, type Ring } from 'polygon-clipping';
import { groundModel, groundSeen, onPlan, type Aim, type Level } from '../aim';
import type { Camera, PlanFile } from '../site';
import { polygonArea, type Polygon } from '../zones';

/** Metres east and north of the plan's lower left corner; the plan's up counts as north. */
export type PlanPoint = readonly [east: number, north: number];

/** What the plan asks of a camera. */
export type PlanCamera = Pick<Camera, 'id' | 'name'> & { readonly aim?: Camera['aim'] };

export type PlacedCamera = {
  readonly id: string;
  readonly name: string;
  readonly at: PlanPoint;
  readonly headingDegrees: number;
  /** The ground it covers; empty where the level is reached nowhere on the ground. */
  readonly covers: Polygon;
};

export type Overlap = { readonly cameras: readonly [string, string]; readonly squareMetres: number };

/** Outer rings and holes of areas, as an even-odd filled path has them. */
export type Rings = readonly Polygon[];

export type PlanView = {
  readonly placed: readonly PlacedCamera[];
  /** Cameras of which no one has said where they stand, or how. */
  readonly unplaced: readonly { readonly id: string; readonly name: string; readonly lacks: 'place' | 'aim' }[];
  readonly overlaps: readonly Overlap[];
  /** Where at least two cover the same ground. */
  readonly shared: Rings;
  /** What should be covered and is not. */
  readonly gaps: Rings;
  readonly gapSquareMetres: number;
  /** Share of what should be covered that is, 0..1. */
  readonly coveredShare: number;
};

/** The usual plan of a site that has none: a blank grid. */
export const blankPlan = { widthMetres: 60, heightMetres: 40 } as const satisfies PlanFile;

/** Less than this is where two drawings touch, not where cameras overlap. */
const minSquareMetres = 0.5;

/** @param isNight whether only what infrared or a lamp lights counts */
export function planView(plan: PlanFile, cameras: readonly PlanCamera[], level: Level, isNight: boolean): PlanView {
  const placed = cameras.flatMap((c) => placedCamera(c, level, isNight));
  const areas = placed.filter((p) => p.covers.length > 2).map((p) => ({ id: p.id, area: [ringOf(p.covers)] }));
  const pairs = areas.flatMap((a, i) =>
    areas.slice(i + 1).flatMap((b) => {
      const both = clipping.intersection([a.area], [b.area]);
      const squareMetres = areaOf(both);
      return squareMetres < minSquareMetres ? [] : [{ cameras: [a.id, b.id] as const, squareMetres, both }];
    }),
  );
  const wanted: MultiPolygon = [[ringOf(wantedGround(plan))]];
  const all = areas.map((a) => [a.area] as MultiPolygon);
  const open = all.length ? clipping.difference(wanted, ...all) : wanted;
  const [wantedMetres, openMetres] = [areaOf(wanted), areaOf(open)];
  return {
    placed,
    unplaced: cameras.flatMap((c) => {
      const lacks = !c.aim ? 'aim' : isPlaced(c) ? undefined : 'place';
      return lacks ? [{ id: c.id, name: c.name, lacks } as const] : [];
    }),
    overlaps: pairs.map(({ cameras, squareMetres }) => ({ cameras, squareMetres })),
    shared: pairs.length ? ringsOf(clipping.union(pairs[0]!.both, ...pairs.slice(1).map((p) => p.both))) : [],
    gaps: ringsOf(open),
    gapSquareMetres: openMetres,
    coveredShare: wantedMetres > 0 ? 1 - openMetres / wantedMetres : 0,
  };
}

const isPlaced = ({ aim }: PlanCamera) => aim?.east !== undefined && aim.north !== undefined;

function placedCamera(camera: PlanCamera, level: Level, isNight: boolean): PlacedCamera[] {
  if (!isPlaced(camera)) return [];
  const aim = camera.aim as Aim;
  const covers = groundSeen(groundModel(aim), level, isNight).map((g) => onPlan(aim, g));
  return [{ id: camera.id, name: camera.name, at: [aim.east!, aim.north!], headingDegrees: aim.headingDegrees ?? 0, covers }];
}

/** What should be covered, metres: what was drawn on the plan, or all of it. */
function wantedGround({ widthMetres, heightMetres, covers }: PlanFile): Polygon {
  const corners = [
    [0, 0],
    [1, 0],
    [1, 1],
    [0, 1],
  ] as const;
  return ((covers as unknown as Polygon | undefined) ?? corners).map(([x, y]) => [x * widthMetres, (1 - y) * heightMetres]);
}

const ringOf = (polygon: Polygon): Ring => polygon.map(([x, y]) => [x, y]);
const ringsOf = (all: MultiPolygon): Rings => all.flat();
/** Rings after the first are holes. */
const areaOf = (all: MultiPolygon): number =>
  all.reduce((sum, [outer, ...holes]) => sum + polygonArea(outer!) - holes.reduce((s, h) => s + polygonArea(h), 0), 0);
