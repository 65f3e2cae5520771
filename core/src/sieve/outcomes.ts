// What goes into the sieve, and what comes out.

import type { Box, ClassName, Looks, TypeName } from '../boxes';
import type { ModeChange, PresenceChange, SensorReport } from '../detections';
import type { Instant } from '../time';
import type { Frame, Track } from '../tracks';
import type { Trail } from './words';

export type Input =
  | { readonly kind: 'frame'; readonly frame: Frame }
  | { readonly kind: 'mode'; readonly change: ModeChange }
  | { readonly kind: 'sensor'; readonly report: SensorReport }
  | { readonly kind: 'presence'; readonly change: PresenceChange }
  /** What an AI service says about the object of a track. */
  | { readonly kind: 'learnt'; readonly at: Instant; readonly camera: string; readonly track: string; readonly looks: Looks }
  /** Time has come this far on every camera. */
  | { readonly kind: 'clock'; readonly at: Instant }
  /** Nothing more will come: every track ends. */
  | { readonly kind: 'end'; readonly at: Instant };

/** A track as others see it. */
export type TrackView = {
  readonly camera: string;
  readonly key: string;
  readonly name: string;
  readonly class: ClassName;
  readonly type?: TypeName | undefined;
  readonly score: number;
  readonly box: Box;
  readonly firstSeen: Instant;
  readonly lastSeen: Instant;
};

/** What came through: a track, or (`track` undefined) a zone's emptiness or low number, or a sensor. */
export type SieveEvent = {
  readonly kind: 'event';
  readonly at: Instant;
  readonly rule: string;
  readonly area: string;
  readonly camera: string | undefined;
  readonly sensor: string | undefined;
  readonly track: TrackView | undefined;
  /** The thread it belongs to; one that joins an open thread makes no new sound. */
  readonly thread: { readonly id: string; readonly joins: boolean };
  readonly trail: Trail;
};

export type Outcome =
  | SieveEvent
  | { readonly kind: 'ended'; readonly at: Instant; readonly track: TrackView; readonly trails: readonly Trail[] }
  /** What each rule of a sensor made of its report. */
  | { readonly kind: 'reported'; readonly at: Instant; readonly sensor: string; readonly trails: readonly Trail[] };

export const view = (camera: string, t: Track, box: Box = t.box): TrackView => ({
  camera,
  key: t.key,
  name: t.name,
  class: t.class,
  type: t.type,
  score: t.score,
  box,
  firstSeen: t.firstSeen,
  lastSeen: t.lastSeen,
});
