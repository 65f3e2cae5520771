// What a track does, followed from picture to picture: whether it is where the rule looks, and whether it does what the rule asks.

import type { Behaviour } from '../site';
import type { Instant } from '../time';
import type { Track } from '../tracks';
import { isIn, type AnchorRule } from '../zones';
import { isConfirmed, notePresence, type Presence } from './presence';

export type Doing = LastingDoing | GoingDoing;

type LastingDoing = {
  readonly kind: 'lasts';
  inside: Presence | undefined;
  isInside: boolean;
  whereabouts: string | undefined;
  holds: boolean;
};

type GoingDoing = {
  readonly kind: 'goes';
  inFrom: Presence | undefined;
  inTo: Presence | undefined;
  isInside: boolean;
  /** The name of the zone it is in now. */
  whereabouts: string | undefined;
  /** The zone it was first confirmed in. */
  first: 'from' | 'to' | undefined;
  /** The zone it was last confirmed in. */
  last: 'from' | 'to' | undefined;
  /** Holds at the frame of arrival alone. */
  holds: boolean;
};

export function startDoing(behaviour: Behaviour): Doing {
  return behaviour.kind === 'lasts'
    ? { kind: 'lasts', inside: undefined, isInside: false, whereabouts: undefined, holds: false }
    : {
        kind: 'goes',
        inFrom: undefined,
        inTo: undefined,
        isInside: false,
        whereabouts: undefined,
        first: undefined,
        last: undefined,
        holds: false,
      };
}

/** Takes one picture of the track in. `doing` is changed in place; it belongs to the track. */
export function note(doing: Doing, behaviour: Behaviour, anchor: AnchorRule, track: Track, at: Instant): void {
  if (doing.kind === 'lasts' && behaviour.kind === 'lasts') {
    doing.isInside = behaviour.zone === undefined || isIn(behaviour.zone.polygon, track.box, anchor);
    doing.whereabouts = doing.isInside ? (behaviour.zone?.name ?? 'the picture') : undefined;
    doing.inside = notePresence(doing.inside, doing.isInside, at, behaviour.graceMs);
    doing.holds = doing.isInside && isConfirmed(doing.inside, behaviour);
  } else if (doing.kind === 'goes' && behaviour.kind === 'goes') {
    const isInFrom = isIn(behaviour.from.polygon, track.box, anchor);
    const isInTo = isIn(behaviour.to.polygon, track.box, anchor);
    doing.isInside = isInFrom || isInTo;
    doing.whereabouts = isInTo ? behaviour.to.name : isInFrom ? behaviour.from.name : undefined;
    doing.inFrom = notePresence(doing.inFrom, isInFrom, at, behaviour.graceMs);
    doing.inTo = notePresence(doing.inTo, isInTo, at, behaviour.graceMs);
    noteArrival(doing, behaviour, isInFrom, isInTo);
  }
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
  doing.holds = behaviour.either || (arrival === 'to' && doing.first === 'from');
}
