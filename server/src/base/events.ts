// What passes between stations besides pictures: what was tracked, what is stored of it, walk tests, changes of the site.

import type { Transaction } from 'sequelize';
import type { Box } from '@nibber/core/boxes';
import type { SieveEvent, TrackView, Trail } from '@nibber/core/sieve';
import type { Instant } from '@nibber/core/time';
import type { Light, WalkItem, WalkResult } from '@nibber/core/walk-test';
import type { SafePicture } from './picture';
import type { Station } from './station';

/** `path`: [instant, box] for each picture it was seen in. */
export type PathPoint = readonly [at: Instant, box: Box];

/** A picture of a track, with where the track is in it. */
export type Snapshot = { readonly picture: SafePicture; readonly box: Box; readonly quality: number };

/** A track; or a zone of which something became so, whose picture is that of the moment. */
export type FollowedThing = {
  readonly kind: 'track' | 'zone';
  readonly id: string;
  readonly view: TrackView;
  readonly path: readonly PathPoint[];
  readonly best: Snapshot;
  /** Of a track of which events came: a few of its pictures, spread over it. */
  readonly snapshots: readonly Snapshot[];
};

export type Persister = {
  event(event: SieveEvent, track: FollowedThing): void;
  /** A clearly better picture was taken of a track after events of it were kept. */
  better(track: FollowedThing, events: readonly SieveEvent[]): void;
  ended(track: FollowedThing, trails: readonly Trail[]): void;
};

export type Stored = { readonly kind: 'event' | 'track' | 'clip'; readonly id: string };

/** The rows that belong into the same transaction; `refused` says why parts of it cannot be kept. */
export type WithIt = (transaction: Transaction, refused: readonly string[]) => Promise<unknown>;

/** A keeper that also keeps what a walk test made happen, marked as such. */
export type LivePersist = Persister &
  Station & {
    tested(event: SieveEvent, thing: FollowedThing, test: string): { readonly id: string; readonly written: Promise<void> };
    /** Whatever is given to the keeper while `work` runs is kept in one transaction with what is done in `withIt`. @returns once it is on disk */
    together(camera: string, work: () => void, withIt: WithIt): Promise<void>;
    /** Feeds the sieve what it knew before the program ended: its events were kept then, or will come of what is still due. */
    remembering(work: () => void): void;
    /** The program is about to end: from now on the disk is waited for only so long. */
    ending(): void;
  };

/** An item of a walk test with its names as they were then, what was shown of it, and a mark of what it rested on. */
export type WalkedItem = WalkItem & {
  readonly name: string;
  readonly cameras: readonly string[];
  readonly settingsHash: string;
  readonly result: WalkResult;
};

/** One item while it is walked: what was shown, the gates of the walk that came furthest of late, and what is there now. */
export type WalkedNow = WalkedItem & {
  readonly lights: readonly Light[];
  /** How many things it judges just now. */
  readonly there: number;
  /** Grows with every step forward, so that viewers know where something happens. */
  readonly steps: number;
};
export type WalkNow = { readonly id: string; readonly startedAt: Instant; readonly by: string; readonly items: readonly WalkedNow[] };

export type AreaMode = { readonly area: string; readonly mode: string; readonly since: number; readonly by: string };
export type SiteChange = { readonly kind: 'site' } | { readonly kind: 'mode'; readonly change: AreaMode };
