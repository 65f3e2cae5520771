// What passes between the routes and the thread that judges rules over the last days.

import type { DayAlerts, RehearsalResult } from '@nibber/core/rehearsal';
import type { Instant } from '@nibber/core/time';
import type { SiteFile } from '@nibber/core/site';

export type RehearsalAsked = {
  readonly number: number;
  /** The site with no rule but the one at hand: as it stands, which is none where it is new, and as it would be. */
  readonly before: SiteFile;
  readonly after: SiteFile;
  readonly cameras: readonly string[];
  readonly from: Instant;
  readonly to: Instant;
};

/** `since`: when its track was first seen; null for what is of no track. */
export type Changed = { readonly at: Instant; readonly camera: string; readonly since: Instant | null; readonly why: string };

export type RehearsalSaid = { readonly number: number } & (
  | { readonly kind: 'reading'; readonly done: number }
  | { readonly kind: 'judging'; readonly done: number; readonly days: readonly DayAlerts[] }
  | { readonly kind: 'done'; readonly result: RehearsalResult<Changed> }
  | { readonly kind: 'failed'; readonly message: string }
);
/** Messages to the worker: start, or stop one. */
export type RehearsalProgress = { readonly ask: RehearsalAsked } | { readonly stop: number };
