// The world of the stand-ins: who walks where, how light it is, how late, what is broken. Pure but for the clock passed in.

import { maxCanoes } from '../cameras/canoes';
import { cast, type FigureName } from '../cameras/cast';
import type { Figure } from '../cameras/compose';
import { faultKinds, type FaultKind } from '../cameras/camera';
import { lights, type Light } from '../cameras/sheets';
import { plainCameras, type GroundPoint, type PlainCamera } from '../cameras/view';
import { walks, type Walk, type WalkName } from './walks';

export { walks, type Walk, type WalkName };

/** What can be put down somewhere, and is there until it is taken away. */
export const things = {
  parcel: { words: 'a parcel at the porch door', at: { x: 4.9, z: -7.5 }, heading: -1.1 },
  sign: { words: 'a sign with orders in the yard', at: { x: -3.6, z: -12 }, heading: -Math.PI / 2 },
} as const satisfies { readonly [name in FigureName]?: object };
export type ThingName = keyof typeof things;
const isThing = (figure: string): figure is ThingName => Object.hasOwn(things, figure);

export type Actor = { readonly id: number; readonly figure: FigureName; readonly walk: Walk; readonly startedAt: number };

export type World = {
  readonly actors: readonly Actor[];
  readonly light: Light;
  readonly offsetMs: number;
  readonly faults: Readonly<Record<PlainCamera, FaultKind>>;
  readonly life: boolean;
  /** How many are at home; none are painted where it is 0. */
  readonly canoes: number;
  readonly things: readonly ThingName[];
  /** How fast everyone walks, beside as usual. */
  readonly pace: number;
  readonly made: number;
};

export const newWorld = (offsetMs: number, life: boolean, pace = 1): World => ({
  actors: [],
  light: 'day',
  offsetMs,
  faults: Object.fromEntries(plainCameras.map((c) => [c, 'none'])) as Record<PlainCamera, FaultKind>,
  life,
  canoes: life ? maxCanoes : 0,
  things: [],
  pace,
  made: 0,
});

export type Direction =
  | { readonly kind: 'send'; readonly figure: FigureName; readonly walk: WalkName }
  | { readonly kind: 'clear' }
  | { readonly kind: 'light'; readonly light: Light }
  | { readonly kind: 'offset'; readonly offsetMs: number }
  | { readonly kind: 'fault'; readonly camera: PlainCamera; readonly fault: FaultKind }
  | { readonly kind: 'canoes'; readonly home: number }
  | { readonly kind: 'thing'; readonly thing: ThingName; readonly there: boolean }
  | { readonly kind: 'life'; readonly on: boolean };

/** The world after a direction. `now` is the machine's clock. */
export function direct(world: World, direction: Direction, now: number): World {
  switch (direction.kind) {
    case 'send': {
      const walk: Walk = walks[direction.walk];
      const paced = { ...walk, metresASecond: walk.metresASecond * world.pace };
      const actor = { id: world.made + 1, figure: direction.figure, walk: paced, startedAt: now };
      return { ...world, made: actor.id, actors: [...present(world.actors, now), actor] };
    }
    case 'clear':
      return { ...world, actors: [] };
    case 'light':
      return { ...world, light: direction.light };
    case 'offset':
      return { ...world, offsetMs: direction.offsetMs };
    case 'fault':
      return { ...world, faults: { ...world.faults, [direction.camera]: direction.fault } };
    case 'canoes':
      return { ...world, canoes: direction.home };
    case 'thing': {
      const others = world.things.filter((t) => t !== direction.thing);
      return { ...world, things: direction.there ? [...others, direction.thing] : others };
    }
    case 'life':
      return { ...world, life: direction.on };
  }
}

const lengthOf = (walk: Walk) =>
  walk.points.slice(1).reduce((sum, p, i) => sum + Math.hypot(p[0] - walk.points[i]![0], p[1] - walk.points[i]![1]), 0);
export const durationMs = (walk: Walk) => (lengthOf(walk) / walk.metresASecond + (walk.pauseSeconds ?? 0)) * 1000;

const present = (actors: readonly Actor[], now: number) => actors.filter((a) => now - a.startedAt < durationMs(a.walk));

/** Where everyone is. */
export const figuresAt = (world: World, now: number): Figure[] => present(world.actors, now).map((a) => placeOf(a, now));

/** All that a camera may see: the figures, and what was put down. */
export const seenAt = (world: World, now: number): Figure[] => [
  ...figuresAt(world, now),
  ...world.things.map((thing) => ({ figure: thing, at: things[thing].at, heading: things[thing].heading, walkedMetres: 0 })),
];

/** Where someone is who is still there. */
export function placeOf(actor: Actor, now: number): Figure {
  const { points, metresASecond } = actor.walk;
  const walkedMetres = Math.min(lengthOf(actor.walk), ((now - actor.startedAt) / 1000) * metresASecond);
  let left = walkedMetres;
  for (let i = 1; ; i++) {
    const [from, to] = [points[i - 1]!, points[i]!];
    const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
    if (left > length && i < points.length - 1) {
      left -= length;
      continue;
    }
    const t = Math.min(1, left / length);
    const at: GroundPoint = { x: from[0] + (to[0] - from[0]) * t, z: from[1] + (to[1] - from[1]) * t };
    return { figure: actor.figure, at, heading: Math.atan2(-(to[1] - from[1]), to[0] - from[0]), walkedMetres };
  }
}

const usual: readonly (readonly [FigureName, WalkName])[] = [
  ['red-hatchback', 'drive-by'],
  ['bo', 'along-lane'],
  ['dog', 'across-yard'],
  ['grey-saloon', 'drive-by'],
  ['cy', 'along-lane'],
];

/** What the quiet background script does as its nth act. */
export const lifeStep = (n: number): Direction => {
  const [figure, walk] = usual[n % usual.length]!;
  return { kind: 'send', figure, walk };
};

/** Who can be sent somewhere. */
export const whoWalks: readonly FigureName[] = (Object.keys(cast) as FigureName[]).filter((figure) => !isThing(figure));

/** Reads a direction that came from outside; undefined where it is none. */
export function parseDirection(value: unknown): Direction | undefined {
  const v = value as Record<string, unknown>;
  const one = <T extends string>(list: readonly string[], word: unknown) => (list.includes(word as string) ? (word as T) : undefined);
  switch (v?.kind) {
    case 'send': {
      const [figure, walk] = [one<FigureName>(whoWalks, v.figure), one<WalkName>(Object.keys(walks), v.walk)];
      return figure && walk && { kind: 'send', figure, walk };
    }
    case 'clear':
      return { kind: 'clear' };
    case 'canoes':
      return Number.isInteger(v.home) && (v.home as number) >= 0 && (v.home as number) <= maxCanoes
        ? { kind: 'canoes', home: v.home as number }
        : undefined;
    case 'thing': {
      const thing = one<ThingName>(Object.keys(things), v.thing);
      return thing && typeof v.there === 'boolean' ? { kind: 'thing', thing, there: v.there } : undefined;
    }
    case 'light': {
      const light = one<Light>(lights, v.light);
      return light && { kind: 'light', light };
    }
    case 'offset':
      return typeof v.offsetMs === 'number' && Number.isFinite(v.offsetMs) ? { kind: 'offset', offsetMs: v.offsetMs } : undefined;
    case 'fault': {
      const [camera, fault] = [one<PlainCamera>(plainCameras, v.camera), one<FaultKind>(faultKinds, v.fault)];
      return camera && fault && { kind: 'fault', camera, fault };
    }
    case 'life':
      return typeof v.on === 'boolean' ? { kind: 'life', on: v.on } : undefined;
    default:
      return undefined;
  }
}
