// The week before today at the landing, as a script: who came when, on which camera it was seen, and what went wrong. The same for a seed. What a
// detector would have reported is scattered as the built-in one scatters on the stage (docs/bench.md: shares found, no false finds at 0.45).

import { DateTime } from 'luxon';
import type { ColourName } from '@nibber/core/boxes';
import type { Frame, SeenObject } from '@nibber/core/tracks';
import { cast, type FigureName } from '../cameras/cast';
import type { Figure } from '../cameras/compose';
import type { Depth, Light } from '../cameras/sheets';
import { plainCameras, type PlainCamera } from '../cameras/view';
import { scatter, seenOn, sizedOn } from './day';
import { durationMs, placeOf, walks, type Actor, type WalkName } from './world';

export type Week = {
  readonly from: number;
  readonly to: number;
  /** In order of when they set out. */
  readonly actors: readonly (Actor & { readonly walkName: WalkName })[];
  /** When someone switched the landing. */
  readonly switches: readonly { readonly at: number; readonly mode: 'open' | 'closed'; readonly by: string }[];
  readonly lost: { readonly camera: PlainCamera; readonly from: number; readonly to: number };
  /** While it rains more is missed, and boxes shake. */
  readonly rain: { readonly from: number; readonly to: number };
};

const minuteMs = 60_000;
const everyMs = 400;
const days = 7;

/** Light by the hour: infrared from half past seven in the evening. */
export function lightAt(at: number, zone: string): Light {
  const { hour, minute } = DateTime.fromMillis(at, { zone });
  const time = hour * 60 + minute;
  return time >= 6 * 60 + 30 && time < 19 * 60 + 30 ? 'day' : 'night';
}

/** @param to where the week ends: now */
export function scriptOf(to: number, zone: string, seed: number): Week {
  const random = scatter(seed);
  const one = <T>(of: readonly T[]) => of[Math.floor(random() * of.length)]!;
  const people = ['bo', 'cy', 'ada'] as const;
  const cars = ['red-hatchback', 'grey-saloon'] as const;
  const acts: { at: number; figure: FigureName; walk: WalkName }[] = [];
  const switches: { at: number; mode: 'open' | 'closed'; by: string }[] = [];
  const first = DateTime.fromMillis(to, { zone }).startOf('day').minus({ days });
  let [rain, lost] = [
    { from: to, to },
    { from: to, to },
  ];
  for (let d = 0; d <= days; d++) {
    const day = first.plus({ days: d });
    const at = (time: string, spreadMinutes = 0) => {
      const [hour, minute] = time.split(':').map(Number) as [number, number];
      return day.set({ hour, minute }).toMillis() + random() * spreadMinutes * minuteMs;
    };
    const act = (when: number, figure: FigureName, walk: WalkName) => acts.push({ at: when, figure, walk });
    const isOpen = day.weekday !== 2;
    if (isOpen) {
      switches.push({ at: at('09:20', 8), mode: 'open', by: 'Rowan' }, { at: at('18:06', 12), mode: 'closed', by: 'Tess' });
      // Hirers: in through the gate, to the racks, out on the jetty; and back an hour or two later.
      for (let hour = 10; hour < 17; hour++) {
        const hirers = (day.weekday >= 6 ? 2 : 1) + (random() < 0.3 ? 1 : 0);
        for (let i = 0; i < hirers; i++) {
          const [who, when] = [one(people), at(`${hour}:05`, 50)];
          if (random() < 0.5) act(when - 3 * minuteMs, one(cars), 'drive-in');
          act(when, who, random() < 0.6 ? 'to-racks' : 'lane-to-yard');
          act(when + 4 * minuteMs, who, 'onto-jetty');
          act(when + (60 + random() * 50) * minuteMs, who, 'off-jetty');
          act(when + (66 + random() * 50) * minuteMs, who, 'yard-to-lane');
        }
      }
      for (const time of ['10:20', '13:40', '16:30']) act(at(time, 40), 'ada', 'through-workshop');
    }
    // The lane goes on by itself.
    for (let hour = 6; hour < 23; hour++) {
      act(at(`${hour}:00`, 58), one(cars), 'drive-by');
      if (random() < 0.6) act(at(`${hour}:00`, 58), one(people), 'along-lane');
    }
    act(at('02:10', 200), one(cars), 'drive-by');
    for (const time of ['07:30', '12:10', '15:20', '17:45']) act(at(time, 40), 'dog', one(['jetty-steps', 'across-yard'] as const));
    if (day.weekday === 3) rain = { from: at('14:00'), to: at('16:30') };
    // Two people after closing.
    if (day.weekday === 4) {
      act(at('22:31'), 'bo', 'to-racks');
      act(at('22:31') + 9000, 'cy', 'lane-to-yard');
    }
    if (day.weekday === 5) lost = { from: at('03:12'), to: at('08:40') };
    // One who takes a canoe.
    if (day.weekday === 6) {
      act(at('23:38'), 'cy', 'to-racks');
      act(at('23:39') + 50_000, 'cy', 'from-racks');
    }
  }
  const own = acts.filter((a) => a.at >= first.toMillis() && a.at + durationMs(walks[a.walk]) < to).sort((a, b) => a.at - b.at);
  return {
    from: first.toMillis(),
    to,
    actors: own.map(({ at, figure, walk }, i) => ({ id: i + 1, figure, walk: walks[walk], walkName: walk, startedAt: Math.round(at) })),
    switches: switches.filter((s) => s.at < to).map((s) => ({ ...s, at: Math.round(s.at) })),
    lost: { camera: 'workshop', ...lost },
    rain,
  };
}

export const thereAt = ({ actors }: Pick<Week, 'actors'>, at: number): Figure[] =>
  actors.filter((a) => a.startedAt <= at && at < a.startedAt + durationMs(a.walk)).map((a) => placeOf(a, at));

const looksOf: { readonly [name in FigureName]?: SeenObject['looks'] } = {
  ada: worn('blue', 'blue'),
  bo: worn('red', 'grey'),
  cy: worn('black', 'black'),
  dog: { colour: 'brown' },
  'red-hatchback': { colour: 'red' },
  'grey-saloon': { colour: 'grey' },
  'white-van': { colour: 'white' },
  'green-van': { colour: 'green' },
};
function worn(upper: ColourName, lower: ColourName) {
  return { upper, lower };
}

/** Where a flag, headlights or the water are taken for someone now and then: too uncertain and too brief to fire. */
const mistaken = { racks: [0.12, 0.42, 0.05, 0.14], jetty: [0.53, 0.12, 0.03, 0.09] } as const;

/**
 * What the cameras would have reported of the week, in order of time.
 * @param depths how far away the place itself is, by camera: who stands behind a hedge is not seen
 */
export function* framesOf(week: Week, zone: string, seed: number, depths: Readonly<Record<PlainCamera, Depth>>): Generator<Frame> {
  const random = scatter(seed);
  const { actors, rain, lost } = week;
  let next = 0;
  let there: (typeof actors)[number][] = [];
  let glint: { camera: 'racks' | 'jetty'; until: number } | undefined;
  for (let at = week.from; at < week.to; at += everyMs) {
    while (next < actors.length && actors[next]!.startedAt <= at) {
      const actor = actors[next++]!;
      there.push(actor);
      const isNight = lightAt(at, zone) === 'night';
      if (actor.walkName === 'drive-by' && isNight && random() < 0.5) glint = { camera: 'racks', until: at + 1600 };
      else if (random() < 0.02) glint = { camera: 'jetty', until: at + 1200 };
    }
    there = there.filter((a) => at < a.startedAt + durationMs(a.walk));
    if (there.length === 0 && !(glint && at < glint.until)) {
      // No one is there until the next one comes.
      if (next >= actors.length) return;
      at += Math.max(0, Math.floor((actors[next]!.startedAt - at) / everyMs) - 1) * everyMs;
      continue;
    }
    const isWet = at >= rain.from && at < rain.to;
    const figures = there.map((a) => placeOf(a, at));
    for (const camera of plainCameras) {
      if (camera === lost.camera && at >= lost.from && at < lost.to) continue;
      const objects = figures.flatMap((figure) => seenIn(camera, figure, depths[camera], isWet, random));
      if (glint?.camera === camera && at < glint.until) {
        const [x, y, w, h] = mistaken[glint.camera];
        objects.push({ class: 'person', score: 0.3 + random() * 0.14, box: [x + random() * 0.01, y, w, h], moves: 0.6 });
      }
      const wasThere = objects.length > 0 || random() < 0.2;
      if (wasThere) yield { at: at + Math.floor(random() * 90), camera, objects, begins: 0.4, looked: [0, 0, 1, 1] };
    }
  }
}

function seenIn(camera: PlainCamera, figure: Figure, depth: Depth, isWet: boolean, random: () => number): SeenObject[] {
  const placed = sizedOn(camera, figure);
  if (!placed) return [];
  const { box, metres } = placed;
  const [x, y] = [box[0] + box[2] / 2, box[1] + box[3] / 2];
  const high = Math.round((depth.width * 9) / 16);
  const hides = depth.metresAt(
    Math.min(depth.width - 1, Math.max(0, Math.floor(x * depth.width))),
    Math.min(high - 1, Math.max(0, Math.floor(y * high))),
  );
  if (hides < metres - 0.5) return [];
  return seenOn(camera, figure, random, isWet ? 0.3 : 0.06).map((o) => ({
    ...o,
    // What is small is less sure.
    score: Math.min(0.97, Math.max(0.26, 0.42 + Math.min(0.4, o.box[3] * 1.6) + (random() - 0.5) * (isWet ? 0.34 : 0.22))),
    looks: looksOf[figure.figure],
    ...(cast[figure.figure].kind === 'car' ? { type: 'car' as const } : cast[figure.figure].kind === 'dog' ? { type: 'dog' as const } : {}),
  }));
}
