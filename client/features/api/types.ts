// What the server answers, as the client uses it (docs/openapi.yaml).

import type { Box, ClassName, TypeName } from '@nibber/core/boxes';
import type { GateName, Step } from '@nibber/core/sieve';
import type { Ability } from '@nibber/core/abilities';
import type { AbilityName, AimFile, Line, Role, Shown, SiteFile, TuningFile, Zone } from '@nibber/core/site';

export type Visitor = { name: string; role: Role; person?: string };
export type Session = { visitor: Visitor | null; isNew: boolean; siteName: string | null };
export type AreaMode = { area: string; mode: string; since: number; by: string };
export type Mode = NonNullable<SiteFile['modes']>[number];
export type HoursAnswer = { id: string; name: string; on: boolean; next: number | null; words: string };
export type Site = {
  place: SiteFile['site'];
  areas: SiteFile['areas'];
  modes: Mode[];
  hours: HoursAnswer[];
  people: NonNullable<SiteFile['people']>;
  areaModes: AreaMode[];
  /** What the site is set up to do and the server does not do yet. */
  notYet?: string[];
  now: number;
};
/** `unseenMs`: for how long it has not been seen; its box is where it should be. */
export type SeenTrack = { key: string; class: ClassName; type?: TypeName; score: number; box: Box; unseenMs: number };
export type CameraHealth = {
  state: 'connecting' | 'running' | 'silent';
  since: number;
  trouble?: string;
  picturesASecond: number;
  taken: number;
  dropped: number;
  looked: number;
  lookMs: number;
  /** How finely the detector looked last; absent before its first look. */
  input?: { width: number; height: number };
};
export type CameraAnswer = {
  id: string;
  /** Of the site as it was read. */
  version: number;
  name: string;
  area: string;
  /** Pulled by us, or sending by itself. */
  kind: 'streamed' | 'paired';
  hasSignIn: boolean;
  hasStill: boolean;
  /** Whether there is a newest picture to show. */
  hasPicture: boolean;
  shown: Shown;
  can: AbilityName[];
  relays: { lamp?: string; siren?: string };
  abilities: Ability[];
  /** How it stands and looks; null where nobody has said. */
  aim: AimFile | null;
  /** How finely it is looked at; null where everything is as usual and nobody has looked. */
  tuning: TuningFile | null;
  zones: Zone[];
  lines?: Line[];
  /** What the device says of itself; `words` where something is not as it should be. */
  says?: { kind: string; at: number; isSo: boolean | null; words: string | null }[];
  health: CameraHealth | null;
  tracks: SeenTrack[];
};
export type Mark = 'kept' | 'noise';
type Item = { id: string; at: number; camera: string; cameraName: string; class: ClassName; type: TypeName | null; box: Box | null };
export type EventItem = Item & {
  kind: 'event';
  rule: string;
  ruleName: string;
  picture: string;
  description: string | null;
  mark: Mark | null;
  /** Made in a walk test. */
  isTest?: boolean;
};
export type TrackItem = Item & { kind: 'track'; picture: string | null; stoppedAt: GateName | null; why: string; ruleName: string | null };
export type TrailAnswer = { rule: string; ruleName: string; stoppedAt: GateName | null; why: string; at: number; steps: Step[] };
export type AlertAnswer = {
  id: string;
  person: string;
  channel: string;
  state: 'waiting' | 'sent' | 'undeliverable' | 'held';
  why: string | null;
  sentAt: number | null;
};
export type Moment = (EventItem | (TrackItem & { description: null; mark: null })) & {
  path: [at: number, box: Box][];
  trails: TrailAnswer[];
  alerts: AlertAnswer[];
  clip: string | null;
  clipFrom: number | null;
  clipTrouble: string | null;
  descriptionTrouble: string | null;
};
export type SieveOfADay = { since: number; tracks: number; stoppedBy: Partial<Record<GateName, number>>; events: number; alerts: number };
export type SignInAnswer = {
  id: string;
  kind: 'browser' | 'bearer';
  name: string;
  person: string | null;
  role: Role;
  label: string | null;
  madeAt: number | null;
  lastSeenAt: number | null;
  expiresAt: number;
  isThis: boolean;
};
export type Phone = { id: string; label: string; person: string; createdAt: number };
export type LogEntry = { id: number; at: number; who: string; what: string; event: string | null };
export type ServerTrouble = { code: string; message: string; remedy: string };
