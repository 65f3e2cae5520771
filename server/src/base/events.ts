// What passes between stations besides pictures: what was tracked, what happened and is to be stored, walk tests, changes of the site.

import type { Transaction } from 'sequelize';
import type { Box } from '@nibber/core/boxes';
import type { SieveEvent, TrackView, Trail } from '@nibber/core/sieve';
import type { Instant } from '@nibber/core/time';
import type { Light, WalkItem, WalkResult } from '@nibber/core/walk-test';
import type { SafePicture, StoredFile } from './picture';
import type { Station } from './station';

/** Who does something, as the logbook knows them: by the person where it is one, by name alone where the program does it by itself. */
export type Doer = { readonly name: string; readonly person?: string | undefined };

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

/** A picture of what happened: taken now, to be stored; or stored already. */
export type EventPicture = { readonly taken: Snapshot } | { readonly stored: StoredFile; readonly takenAt: Instant };

/** What is known of every new event. `rule`: the rule, or the reminder, that says who is notified; none where no one is. */
type Happened = {
  readonly id: string;
  readonly at: Instant;
  readonly area: string;
  readonly rule: string | undefined;
  readonly picture: EventPicture | undefined;
};

/** Something that happened, on its way to be stored and sent: through `commit`, and no other way. */
export type NewEvent = Happened &
  (
    | {
        readonly kind: 'track' | 'zone';
        readonly thing: FollowedThing;
        readonly passed: SieveEvent;
        /** The walk test it was made in; undefined of what happened by itself. */
        readonly test: string | undefined;
      }
    | { readonly kind: 'motion' | 'sound' | 'button'; readonly camera: string }
    | {
        readonly kind: 'sensor';
        readonly sensor: string;
        readonly state: string;
        /** The camera that looks where the sensor is. */
        readonly camera: string | undefined;
        readonly passed: SieveEvent | undefined;
      }
    | { readonly kind: 'alarm'; readonly state: 'raised' | 'ended' | 'delayed' }
    | { readonly kind: 'health'; readonly camera: string; readonly change: 'lost' | 'back' | 'unstable' | 'covered' | 'moved' }
    | { readonly kind: 'reading'; readonly camera: string; readonly says: string }
  );

/** One thing that is to be on disk. */
export type Change =
  | { readonly kind: 'event'; readonly event: NewEvent }
  /** A track is over. `trails`: how far it came by each rule. */
  | { readonly kind: 'track'; readonly thing: FollowedThing; readonly trails: readonly Trail[] }
  /** A clearly better picture was taken of a track after these events of it were stored. */
  | { readonly kind: 'better'; readonly thing: FollowedThing; readonly events: readonly string[] };

/** Everything that belongs together: one transaction. */
export type UnitOfWork = {
  /** Units of one lane are stored in the order in which they come: a camera's, a sensor's, an area's. */
  readonly lane: string;
  readonly changes: readonly Change[];
  /** The delivery that caused it; it is done with it, or set aside where a part of it can never be stored. */
  readonly delivery?: string;
  readonly log?: readonly { readonly who: Doer; readonly what: string; readonly event?: string }[];
  /** Further rows of the station whose work it is. */
  readonly rows?: (transaction: Transaction) => Promise<unknown>;
};

export type Stored = { readonly kind: 'event' | 'track' | 'clip'; readonly id: string };

/** The one door of events. */
export type Persist = Station & {
  /**
   * Writes everything in `unit` in one transaction, then publishes it. What the disk does not take now is written later; what can never be
   * stored is set aside, and reported.
   * @returns once it is on disk
   * @throws where the program ends while the disk takes nothing
   */
  commit(unit: UnitOfWork): Promise<void>;
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
