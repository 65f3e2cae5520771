// The rows of the tables. Instants of the site are milliseconds; `…Machine` are milliseconds of the machine's clock.

import type { Box, ClassName } from '@nibber/core/boxes';
import type { Channel } from '@nibber/core/channels';
import type { ReminderState } from '@nibber/core/readings';
import type { Prompt, AiUse, Person, Role } from '@nibber/core/site';
import type { GateName, Step } from '@nibber/core/sieve';
import type { Instant } from '@nibber/core/time';
import type { Frame } from '@nibber/core/tracks';
import type { NewEvent, PathPoint, WalkedItem } from '../base/events';

export type SettingRow = { key: string; value: string };
/** `paths`: the places that it changed; null of what was stored before they were. */
export type SiteVersionRow = { id: number; at: Instant; by: string; what: string; text: string; paths: string[] | null };
export type AccountRow = { id: string; name: string; person: string; role: Role; passwordHash: string; createdAtMachine: number };
/** `id` names it where its token must not be shown; `label` is what it was called, or the browser it is of. */
export type SessionRow = {
  tokenHash: string;
  id: string;
  account: string | null;
  role: Role;
  kind: 'browser' | 'bearer';
  label: string | null;
  madeAtMachine: number | null;
  lastSeenAtMachine: number | null;
  expiresAtMachine: number;
  /** When the password was given last: at the beginning, or to confirm. */
  confirmedAtMachine: number | null;
};
export type AreaModeRow = { area: string; mode: string; since: Instant; by: string };
export type TrackRow = {
  id: string;
  camera: string;
  class: ClassName;
  type: string | null;
  firstSeen: Instant;
  lastSeen: Instant;
  path: PathPoint[];
  /** Where it is in its picture. */
  pictureBox: Box | null;
  /** Whether a rule let it through. */
  hasEvent: boolean;
  /** Of one that none let through: the gate that stopped it, the rule that let it come furthest, and why that stopped it. */
  stoppedAt: GateName | null;
  stoppedBy: string | null;
  why: string | null;
  /** The walk test it was followed for; null of what happened by itself. */
  test: string | null;
};
/** How far a track came by one rule. */
export type TrailRow = {
  track: string;
  rule: string;
  stoppedAt: GateName | null;
  why: string;
  at: Instant;
  steps: Step[];
};
export type Mark = 'useful' | 'noise';
/** What an event is of. */
export type EventKind = NewEvent['kind'];
export type EventRow = {
  id: string;
  kind: EventKind;
  /** The rule that let it through, with its name as it was then. */
  rule: string | null;
  ruleName: string;
  camera: string | null;
  sensor: string | null;
  area: string;
  track: string | null;
  at: Instant;
  class: ClassName | null;
  type: string | null;
  box: Box | null;
  /** Where the thing is in the event's picture. */
  pictureBox: Box | null;
  /** Who chose its picture; null: it is the one that scores best. */
  chosenBy: string | null;
  /** The pictures there are of the thing, spread over its track; null of what came before they were kept. Held as `shot` and the number. */
  snapshots: StoredSnapshot[] | null;
  clipProblem: string | null;
  steps: Step[];
  description: string | null;
  descriptionProblem: string | null;
  /** What an AI service knew of what was asked, by name; null where nothing was. */
  fields: { readonly [name: string]: string | number | boolean } | null;
  /** The check before alerting; null where none was asked. */
  question: StoredQuestion | null;
  mark: Mark | null;
  /** Events of one area and class that come soon after one another are one thread; one that joins makes no new sound. */
  thread: string | null;
  joins: boolean | null;
  /** The walk test it was made in; null of what happened by itself. */
  test: string | null;
};
/** `notifies` null: no answer yet. `pictures` are files, as they were sent. */
export type StoredQuestion = {
  readonly words: string | null;
  readonly unlessKnown: boolean;
  readonly notifies: boolean | null;
  readonly answer: boolean | null;
  readonly known: string | null;
  readonly why: string;
  readonly seconds: number | null;
  readonly service: string | null;
  readonly pictures: readonly string[];
};
/** A picture of a thing: where it is in it, and how well it shows it (core/stills, `pictureScore`). */
export type StoredSnapshot = { readonly at: Instant; readonly box: Box; readonly quality: number };

/** What a file is held for. */
export type MediaHolder = 'event' | 'reading' | 'track' | 'delivery' | 'walk test' | 'plan' | 'known';
/**
 * Who holds which file: an event its `picture`, the same `marked`, the `crop`, the `notice` that a notification shows and the `clip`; others their `picture`. `takenAt` is of the
 * picture, or of a clip's first; `bytes` null where they were not counted yet.
 */
export type MediaRow = {
  id: number;
  name: string;
  role: string;
  holder: MediaHolder;
  holderId: string;
  camera: string | null;
  takenAt: Instant | null;
  bytes: number | null;
};
export type AlertRow = {
  id: string;
  event: string;
  /** A person, or another program that gets alerts. */
  person: string;
  channel: Channel;
  /** Suppressed: access, quiet hours, a snooze or the summary held it back. Rerouted: another channel sends it. Combined: another alert covers it. */
  state: 'waiting' | 'sent' | 'undeliverable' | 'suppressed' | 'rerouted' | 'combined';
  why: string | null;
  sentAt: Instant | null;
  /** The alert that covers this one too; a summary names itself. */
  combinedInto: string | null;
  /** Whether it waits for the morning summary. */
  inSummary: boolean;
  madeAtMachine: number | null;
};
/** By which someone comes in once: a new person, or one of the site who chooses a new password. */
export type InvitationRow = {
  id: string;
  tokenHash: string;
  person: string | null;
  name: string | null;
  role: Role;
  access: Person['access'] | null;
  until: string | null;
  madeBy: string;
  /** Who made it, as `authorOf` names them; null of what was made before they were kept. */
  author: string | null;
  madeAtMachine: number;
  expiresAtMachine: number;
  usedAtMachine: number | null;
};
/** A picture that was sent to an AI service: where to, why, and what came of it. `picture`: its name in the store, as long as it is kept. */
export type SentRow = {
  id: number;
  at: Instant;
  event: string | null;
  camera: string;
  service: string;
  model: string;
  why: string;
  /** Files, as they went; none where words alone did. */
  pictures: readonly string[];
  ms: number | null;
  outcome: 'waiting' | 'answered' | 'failed';
  said: string | null;
  /** Of the site file, or `at-start`. */
  serviceId: string;
  use: AiUse;
  tokensIn: number | null;
  tokensOut: number | null;
  /** In `currency`; null where the service has no price, or does not say what it used. */
  cost: number | null;
  currency: string | null;
};
/** One time that a reading was taken. `value` is null where it came to nothing, with `why`. */
export type ReadingValueRow = {
  id: string;
  reading: string;
  camera: string;
  at: Instant;
  /** For which set time; null of one that was asked for. */
  due: Instant | null;
  /** When its picture was taken. */
  takenAt: Instant | null;
  value: string | number | boolean | null;
  why: string | null;
  seconds: number | null;
  service: string | null;
  cost: number | null;
  currency: string | null;
  hasPicture: boolean;
  /** What a person says that it was. */
  corrected: string | number | boolean | null;
  correctedBy: string | null;
};
/** A stored event on which a rule's prompts are tested; `checks` are lines (core/describing, `checkOfLine`). */
export type ExampleRow = { rule: string; event: string; place: number; checks: readonly string[] };
export type PromptVersionRow = { id: string; rule: string; at: Instant; by: string; prompt: Prompt };
/** The result of a prompt on an event by a service; `before` is the line of the previous test. */
export type ResultRow = {
  promptVersion: string;
  event: string;
  service: string;
  at: Instant;
  line: string | null;
  fields: { readonly [name: string]: string | number | boolean };
  problems: readonly string[];
  why: string | null;
  seconds: number;
  cost: number | null;
  pictures: readonly string[];
  before: string | null;
};
export type ReminderStateRow = { reminder: string; state: ReminderState };
/** What someone does not want to hear of; `until` null: until the mode changes. */
export type SnoozeRow = {
  id: string;
  person: string;
  rule: string | null;
  camera: string | null;
  area: string | null;
  until: Instant | null;
  madeAt: Instant;
};
/** When someone first looked at an event. */
export type ViewRow = { event: string; person: string; at: Instant };
/** What was done from a notification; each once. */
export type UsedActionRow = { alert: string; action: string; at: Instant };
/** How a channel does: `mail`, `text`, `push/` and the phone, `webhook/` or `mqtt/` and the receiver. */
export type ChannelStateRow = { key: string; acceptedAt: Instant | null; refusedAt: Instant | null; why: string | null };
export type PhoneRow = {
  id: string;
  person: string;
  label: string;
  endpoint: string;
  p256dh: string;
  auth: string;
  createdAt: Instant;
  goneAt: Instant | null;
  /** The sign-in that it goes with. */
  session: string | null;
};
/** `target`: what a channel reaches, such as a phone; `lane`: what waits for one another (jobs.ts). */
export type JobRow = {
  id: number;
  kind: 'alert' | 'describe' | 'fill-in' | 'question';
  event: string;
  alert: string | null;
  target: string | null;
  lane: string;
  attempts: number;
  nextAtMachine: number;
  state: 'due' | 'done' | 'given-up';
  lastError: string | null;
};
/** A secret, encrypted with the key that is stored outside the database (sealed.ts). */
export type SealedRow = { name: string; box: string };
export type CameraTokenRow = { camera: string; tokenHash: string; madeAt: Instant };
/** What a paired camera sent, stored before it is answered. `key` identifies a delivery. */
export type DeliveryRow = {
  id: string;
  camera: string;
  key: string;
  at: Instant;
  form: 'json' | 'xml';
  body: string;
  understood: string;
  /** Set aside: what became of it can never be kept; `why` says the reason. */
  state: 'due' | 'done' | 'set-aside';
  /** Its frames, so that it is understood once; null of what came before this was kept. */
  frames: Frame[] | null;
  seen: SeenInDelivery | null;
  /** When the camera says that it was. */
  saidAt: Instant | null;
  isInfrared: boolean | null;
  why: string | null;
};
/** By class or type: the least and the greatest score. */
export type SeenInDelivery = { readonly [name: string]: readonly [min: number, max: number] };
/** What can never be kept, with the reason. */
export type SetAsideRow = { id: number; at: Instant; camera: string; what: string; why: string };
export type WalkTestRow = { id: string; startedAt: Instant; endedAt: Instant | null; by: string; items: WalkedItem[] };
export type LogRow = { id: number; at: Instant; who: string; person: string | null; what: string; event: string | null };
