// A day of the stage as a detector would report it: who is where is known, what is found of it is scattered a little, the same for a seed.

import type { Box } from '@nibber/core/boxes';
import type { Frame, SeenObject } from '@nibber/core/tracks';
import { cast, classOfKind, type FigureName } from '../cameras/cast';
import type { Figure } from '../cameras/compose';
import { poses, project, seenFrom, type PlainCamera } from '../cameras/view';
import { direct, figuresAt, newWorld, type WalkName, type World } from './world';

/** Height and width of figures, metres; made up. */
const sizes = { person: [1.75, 0.6], dog: [0.6, 0.9], car: [1.45, 3.6], parcel: [0.42, 0.6], sign: [1.8, 2.1] } as const;
const everyMs = 400;
const dayMs = 86_400_000;
const nearest = 1;
const farthest = 60;
const aspect = 16 / 9;
const cameras = ['yard', 'lane-gate'] as const;
const ways = [
  'lane-to-yard',
  'along-lane',
  'yard-to-lane',
  'across-yard',
  'lane-wait',
  'drive-by',
  'drive-in',
] as const satisfies readonly WalkName[];

/** Numbers that look random and are the same each time, 0..1. */
export function scatter(seed: number): () => number {
  let s = seed >>> 0;
  return () => (s = (Math.imul(s, 1_664_525) + 1_013_904_223) >>> 0) / 2 ** 32;
}

/**
 * The frames of a day on two cameras, in order of time.
 * @param actEveryMs someone is sent this often, more by day than by night
 */
export function* stageDay(start: number, seed: number, actEveryMs = 240_000): Generator<Frame> {
  const random = scatter(seed);
  const figures = Object.keys(cast) as FigureName[];
  const one = <T>(of: readonly T[]) => of[Math.floor(random() * of.length)]!;
  let world: World = newWorld(0, false);
  let next = start;
  for (let at = start; at < start + dayMs; at += everyMs) {
    if (at >= next) {
      world = direct(world, { kind: 'send', figure: one(figures), walk: one(ways) }, at);
      const hour = new Date(at).getUTCHours();
      next = at + actEveryMs * (0.3 + random()) * (hour >= 7 && hour < 20 ? 1 : 5);
    }
    const there = figuresAt(world, at);
    if (there.length === 0) continue;
    for (const camera of cameras) {
      const objects = there.flatMap((figure) => seenOn(camera, figure, random));
      if (objects.length > 0 || random() < 0.05)
        yield { at: at + Math.floor(random() * 90), camera, objects, begins: 0.4, looked: [0, 0, 1, 1] };
    }
  }
}

/** Where a figure is on a camera's picture, and how far away; nothing where it is out of the picture. */
export function sizedOn(
  camera: PlainCamera,
  { figure, at }: Pick<Figure, 'figure' | 'at'>,
): { readonly box: Box; readonly metres: number } | undefined {
  const seen = seenFrom(poses[camera], at);
  if (seen.z > -nearest || seen.z < -farthest) return undefined;
  const { x, y, depth } = project(seen, 1);
  const [tall, width] = sizes[cast[figure].kind].map((metres) => (metres * 0.892) / depth) as [number, number];
  // Shares of the height are longer than those of the width, in which the projection counts.
  const [feet, high] = [y * aspect, tall * aspect];
  const box: Box = [x - width / 2, feet - high, width, high];
  return box[0] > 1 || box[0] + box[2] < 0 || box[1] > 1 || feet < 0 ? undefined : { box, metres: depth };
}

/** One figure as a detector reports it; nothing where it is out of the picture, or is missed. */
export function seenOn(camera: PlainCamera, figure: Figure, random: () => number, missed = 0.08): SeenObject[] {
  const placed = sizedOn(camera, figure);
  if (!placed || random() < missed) return [];
  const jitter = () => (random() - 0.5) * 0.004;
  const [x, y, w, h] = placed.box;
  const score = 0.3 + random() * 0.6;
  return [{ class: classOfKind[cast[figure.figure].kind], score, box: [x + jitter(), y + jitter(), w, h], moves: 0.2 + random() * 0.8 }];
}
