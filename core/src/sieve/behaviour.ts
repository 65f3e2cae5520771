// What a track does, followed from picture to picture: whether it is where the rule looks, and whether it does what the rule asks.

import { distanceOf, type GroundModel } from '../aim';
import { anchorPoint, type Looks } from '../boxes';
import type { Behaviour, CompiledRule, Returning } from '../site';
import type { Instant } from '../time';
import type { Track } from '../tracks';
import { noteCrossing, startCrossing, type Crossing } from './crossing';
import { likeness } from './looks';
import { isConfirmed, notePresence, type Presence } from './presence';

export type Doing = LastingDoing | GoingDoing | CrossingDoing | CountedDoing | NoDoing;

type Where = {
  /** The look at a box that it was last brought up to; rules that ask for the same share it. */
  mark: number;
  /** Whether it is where the rule looks. */
  isInside: boolean;
  /** The name of the zone it is in now. */
  whereabouts: string | undefined;
};

type LastingDoing = Where & {
  readonly kind: 'lasts';
  inside: Presence | undefined;
  /** Metres from the camera, where the rule asks for them. */
  distance: number;
  /** The plate or the field by which it is known, where the rule asks; and whose it is. */
  identity: string | undefined;
  owner: string | undefined;
  holds: boolean;
};

type GoingDoing = Where & {
  readonly kind: 'goes';
  inFrom: Presence | undefined;
  inTo: Presence | undefined;
  /** The zone it was first confirmed in. */
  first: 'from' | 'to' | undefined;
  /** The zone it was last confirmed in. */
  last: 'from' | 'to' | undefined;
  /** Holds at the frame of arrival alone. */
  holds: boolean;
};

type CrossingDoing = Where & {
  readonly kind: 'crosses';
  readonly path: Crossing;
  /** The last crossing, in whichever direction. */
  crossed: 'forward' | 'back' | undefined;
  /** Holds at the frame of the crossing alone. */
  holds: boolean;
};

/** Numbers belong to the zone (`numbers.ts`); a track only knows since when it is there. */
type CountedDoing = Where & { readonly kind: 'number'; inside: Presence | undefined; counts: boolean };
type NoDoing = Where & { readonly kind: 'reports' };

export function startDoing(behaviour: Behaviour): Doing {
  const where = { mark: -1, isInside: false, whereabouts: undefined };
  switch (behaviour.kind) {
    case 'lasts':
      return { kind: 'lasts', ...where, inside: undefined, distance: NaN, identity: undefined, owner: undefined, holds: false };
    case 'goes':
      return { kind: 'goes', ...where, inFrom: undefined, inTo: undefined, first: undefined, last: undefined, holds: false };
    case 'crosses':
      return { kind: 'crosses', ...where, path: startCrossing(), crossed: undefined, holds: false };
    case 'number':
      return { kind: 'number', ...where, inside: undefined, counts: false };
    case 'reports':
      return { kind: 'reports', ...where };
  }
}

/** Whether it holds only at the frame at which it happens, and can happen again. */
export const isMomentary = ({ kind }: Behaviour): boolean => kind === 'goes' || kind === 'crosses';

/** Whether the track's box is in a spot of its camera now. */
export type InSpot = (spot: number) => boolean;

/** Takes one picture of the track in. `doing` is changed in place; it belongs to the track. `mark` is another for each look at a box. */
export function note(
  doing: Doing,
  mark: number,
  rule: CompiledRule,
  track: Track,
  at: Instant,
  inSpot: InSpot,
  ground: GroundModel | undefined,
): void {
  if (doing.mark === mark) return;
  doing.mark = mark;
  const { behaviour } = rule;
  if (doing.kind === 'lasts' && behaviour.kind === 'lasts') noteLasting(doing, behaviour, track, at, inSpot, ground);
  else if (doing.kind === 'goes' && behaviour.kind === 'goes') {
    const isInFrom = inSpot(behaviour.fromSpot);
    const isInTo = inSpot(behaviour.toSpot);
    doing.isInside = isInFrom || isInTo;
    doing.whereabouts = isInTo ? behaviour.to.name : isInFrom ? behaviour.from.name : undefined;
    doing.inFrom = notePresence(doing.inFrom, isInFrom, at, behaviour.graceMs);
    doing.inTo = notePresence(doing.inTo, isInTo, at, behaviour.graceMs);
    noteArrival(doing, behaviour, isInFrom, isInTo);
  } else if (doing.kind === 'crosses' && behaviour.kind === 'crosses') {
    const point = anchorPoint(track.box, typeof rule.anchor === 'string' ? rule.anchor : 'feet');
    const found = noteCrossing(doing.path, behaviour.line.points, behaviour.margin, point);
    doing.isInside = true;
    doing.whereabouts = 'the picture';
    if (found !== 0) doing.crossed = found > 0 ? 'forward' : 'back';
    doing.holds = found !== 0 && (behaviour.direction === 'both' || behaviour.direction === doing.crossed);
  } else if (doing.kind === 'number' && behaviour.kind === 'number') {
    doing.isInside = behaviour.spot < 0 || inSpot(behaviour.spot);
    doing.whereabouts = doing.isInside ? (behaviour.zone?.name ?? 'the picture') : undefined;
    doing.inside = notePresence(doing.inside, doing.isInside, at, behaviour.graceMs);
  }
}

function noteLasting(
  doing: LastingDoing,
  behaviour: Extract<Behaviour, { kind: 'lasts' }>,
  track: Track,
  at: Instant,
  inSpot: InSpot,
  ground: GroundModel | undefined,
): void {
  doing.isInside = behaviour.spot < 0 || inSpot(behaviour.spot);
  doing.whereabouts = doing.isInside ? (behaviour.zone?.name ?? 'the picture') : undefined;
  let meets = doing.isInside;
  if (behaviour.metres !== undefined) {
    doing.distance = ground ? distanceOf(ground, track.box) : NaN;
    meets = meets && doing.distance <= behaviour.metres;
  }
  if (behaviour.returning) meets = recognise(doing, behaviour.returning, track.looks) && meets;
  doing.inside = notePresence(doing.inside, meets, at, behaviour.graceMs);
  doing.holds = meets && isConfirmed(doing.inside, behaviour);
}

/** Whether what is known of a track answers to what is asked; of someone not yet read neither "known" nor "unknown" holds. */
function recognise(doing: LastingDoing, { by, known, who }: Returning, looks: Looks | undefined): boolean {
  doing.identity = by === 'plate' ? looks?.plate : looks?.fields?.[by];
  if (doing.identity === undefined) return false;
  const { identity } = doing;
  doing.owner = who.find((w) => likeness(w.pattern, identity))?.name;
  return (doing.owner !== undefined) === known;
}

function noteArrival(doing: GoingDoing, behaviour: Extract<Behaviour, { kind: 'goes' }>, isInFrom: boolean, isInTo: boolean): void {
  const before = doing.last;
  const arrivesFrom = isInFrom && before !== 'from' && isConfirmed(doing.inFrom, behaviour);
  const arrivesTo = isInTo && before !== 'to' && isConfirmed(doing.inTo, behaviour);
  // Where zones share ground, a thing that stands in both stays with the zone it was in.
  const arrival =
    arrivesTo && !(before === undefined && arrivesFrom)
      ? 'to'
      : arrivesFrom && !isInTo
        ? 'from'
        : arrivesFrom && before === undefined
          ? 'from'
          : undefined;
  doing.holds = false;
  if (arrival === undefined) return;
  doing.first ??= arrival;
  doing.last = arrival;
  if (before === undefined) return;
  doing.holds = behaviour.bothDirections || (arrival === 'to' && doing.first === 'from');
}
