// What the live stream says, by the name of its event. Each brings what has changed, so that no one need ask for it.

import type { PersonAccess } from '@nibber/core/people';
import { cameraAnswer } from '../cameras/answer';
import { listItem } from '../events/answer';
import { sieveAnswer } from '../events/sieve';
import { list, named, object, oneOf, orNull, text, type AnswerOf } from '../schema';
import { areaMode, health, instant, seenTrack, stationProblem, walkNow } from '../shapes';

export const liveMessage = named('LiveMessage', {
  anyOf: [
    object({ kind: oneOf('seen'), camera: text, at: instant, tracks: list(seenTrack) }),
    // An event or a track is new, or has changed.
    object({ kind: oneOf('item'), item: listItem }),
    object({ kind: oneOf('sieve'), sieve: sieveAnswer }),
    object({ kind: oneOf('mode'), mode: areaMode }),
    // The site was set up otherwise: what was read of it is old.
    object({ kind: oneOf('site') }),
    // A camera has said something of itself, or a paired one has sent something.
    object({ kind: oneOf('camera'), camera: cameraAnswer }),
    object({ kind: oneOf('arrived'), camera: text }),
    // How far a walk test has come; null when none is going on any more.
    object({ kind: oneOf('walk'), now: orNull(walkNow) }),
    object({
      kind: oneOf('time'),
      now: instant,
      problems: list(stationProblem),
      cameras: list(object({ id: text, health: orNull(health) })),
    }),
  ],
} as const);

export type LiveMessage = AnswerOf<typeof liveMessage>;

/** A message as far as someone may see what it is of; undefined where they may not. */
export function asSeen(message: LiveMessage, visible: PersonAccess): LiveMessage | undefined {
  if (visible.isWhole) return message;
  switch (message.kind) {
    case 'seen':
    case 'arrived':
      return visible.camera(message.camera) ? message : undefined;
    case 'camera':
      return visible.camera(message.camera.id) ? message : undefined;
    case 'item':
      return message.item.camera !== null && visible.camera(message.item.camera) ? message : undefined;
    case 'mode':
      return visible.area(message.mode.area) ? message : undefined;
    case 'site':
      return message;
    case 'time':
      return { ...message, problems: [], cameras: message.cameras.filter((c) => visible.camera(c.id)) };
    // Of the whole: what of it is theirs is asked for.
    case 'sieve':
    case 'walk':
      return undefined;
  }
}
