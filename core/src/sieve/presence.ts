// How long a thing has been in a zone, counted in pictures and in time, short absences forgiven.

import type { Instant } from '../time';

export type Presence = { since: Instant; frames: number; lastIn: Instant; left: boolean };

/** What is known after one more picture; undefined when the thing is not there (any more). */
export function notePresence(before: Presence | undefined, isInside: boolean, at: Instant, graceMs: number): Presence | undefined {
  if (!isInside) {
    if (!before || at - before.lastIn >= graceMs) return undefined;
    before.left = true;
    return before;
  }
  if (!before || (before.left && at - before.lastIn >= graceMs)) return { since: at, frames: 1, lastIn: at, left: false };
  before.frames++;
  before.lastIn = at;
  before.left = false;
  return before;
}

export const isConfirmed = (p: Presence | undefined, asked: { readonly frames: number; readonly seconds: number }): boolean =>
  p !== undefined && p.frames >= asked.frames && p.lastIn - p.since >= asked.seconds * 1000;
