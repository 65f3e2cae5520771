// What is reported of a rule's last days while they are calculated, and at the end.

import type { Box } from '../boxes';
import type { Instant } from '../time';

/** How often the rule would have fired on a day of the site: as saved, and as edited. */
export type DayAlerts = { readonly date: string; readonly before: number; readonly after: number };

/** An event that the edit adds or removes, with what is stored of it. */
export type ChangedItem = {
  readonly at: Instant;
  readonly cameraName: string;
  /** What keeps it back now, or kept it back before. */
  readonly why: string;
  /** The event or track it belongs to; null where nothing of it is stored. */
  readonly event: string | null;
  readonly picture: string | null;
  readonly box: Box | null;
};

/** `Item` is how those that differ are said. */
export type RehearsalResult<Item> = {
  readonly days: readonly DayAlerts[];
  /** The newest of those that differ, and how many do. */
  readonly gained: readonly Item[];
  readonly lost: readonly Item[];
  readonly gainedInAll: number;
  readonly lostInAll: number;
  /** Why it can never fire, each in a sentence; nothing where it can. */
  readonly never: readonly string[];
  /** Since when it is recorded; null where nothing is. */
  readonly since: Instant | null;
  /** How sure the detector was at best of each thing that the rule could be about, counted in equal steps from 0 to 1. */
  readonly sureness: readonly number[];
};

/** A line of the answer. `done`: the share that is, 0..1. */
export type RehearsalLine =
  | { readonly kind: 'reading'; readonly done: number }
  | { readonly kind: 'judging'; readonly done: number; readonly days: readonly DayAlerts[] }
  | ({ readonly kind: 'done' } & RehearsalResult<ChangedItem>)
  | { readonly kind: 'failed'; readonly message: string };
