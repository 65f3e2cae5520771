// A day of the stage as a detector would tell of it: who is where is known, what is found of it is scattered a little, the same for a seed.

import type { Box, ClassName } from '@nibber/core/boxes';
import type { Frame, SeenObject } from '@nibber/core/tracks';
import { cast, type FigureName } from '../cameras/cast';
import type { Figure } from '../cameras/compose';
import { plainCameras, poses, project, seenFrom, type PlainCamera } from '../cameras/view';
import { direct, figuresAt, newWorld, walks, type WalkName, type World } from './world';

/** Height and width of figures, metres; made up. */
const sizes = { person: [1.75, 0.6], dog: [0.6, 0.9], car: [1.45, 3.6] } as const;
const classOfKind = { person: 'person', dog: 'pet', car: 'vehicle' } as const satisfies { [kind: string]: ClassName };
const everyMs = 400;
const dayMs = 86_400_000;
const nearest = 1;

/** Numbers that look random and are the same each time, 0..1. */
function scatter(seed: number): () => number {
  let s = seed >>> 0;
  return () => (s = (Math.imul(s, 1_664_525) + 1_013_904_223) >>> 0) / 2 ** 32;
}

/**
 * The frames of a day on both plain cameras, in order of time.
 * @param actEveryMs somebody is sent this often, more by day than by night
 */
export function* stageDay(start: number, seed: number, actEveryMs = 240_000): Generator<Frame> {
  const random = scatter(seed);
  const [figures, ways] = [Object.keys(cast) as FigureName[], Object.keys(walks) as WalkName[]];
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
    for (const camera of plainCameras) {
      const objects = there.flatMap((figure) => seenOn(camera, figure, random));
      if (objects.length > 0 || random() < 0.05)
        yield { at: at + Math.floor(random() * 90), camera, objects, begins: 0.4, looked: [0, 0, 1, 1] };
    }
  }
}

/** One figure on a camera's picture; nothing where it is out of the picture, or is missed. */
function seenOn(camera: PlainCamera, { figure, at }: Figure, random: () => number): SeenObject[] {
  const { kind } = cast[figure];
  const seen = seenFrom(poses[camera], at);
  if (seen.z > -nearest || random() < 0.08) return [];
  const { x, y, depth } = project(seen, 1);
  const [height, width] = sizes[kind].map((metres) => (metres * 0.892) / depth) as [number, number];
  const jitter = () => (random() - 0.5) * 0.004;
  const tall = height * 1.0;
  const feet = (y * 16) / 9;
  const box: Box = [x - width / 2 + jitter(), feet - tall + jitter(), width, tall];
  if (box[0] > 1 || box[0] + box[2] < 0 || box[1] > 1 || feet < 0) return [];
  return [{ class: classOfKind[kind], score: 0.3 + random() * 0.6, box, moves: 0.2 + random() * 0.8 }];
}
