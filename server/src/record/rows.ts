// The tables, as types. Instants of the place are milliseconds; `…Machine` are milliseconds of the machine's clock.

import { DataTypes, type Model, type ModelStatic, type Sequelize } from 'sequelize';
import type { Box, ClassName } from '@nibber/core/boxes';
import type { Role } from '@nibber/core/site';
import type { WalkItem, WalkResult } from '@nibber/core/walk-test';
import type { GateName, Step } from '@nibber/core/sieve';
import type { Instant } from '@nibber/core/time';
import type { Frame } from '@nibber/core/tracks';

export type SettingRow = { key: string; value: string };
export type SiteVersionRow = { id: number; at: Instant; by: string; what: string; text: string };
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
};
export type AreaModeRow = { area: string; mode: string; since: Instant; by: string };
/** `path`: [instant, box] for each picture it was seen in. */
export type PathPoint = readonly [at: Instant, box: Box];
export type TrackRow = {
  id: string;
  camera: string;
  class: ClassName;
  type: string | null;
  firstSeen: Instant;
  lastSeen: Instant;
  path: PathPoint[];
  picture: string | null;
  pictureBox: Box | null;
  /** The walk test it was followed for; null of what happened by itself. */
  test: string | null;
};
/** `camera` and `lastSeen` stand here again so that counting by gate and paging need no join. */
export type TrailRow = {
  track: string;
  rule: string;
  camera: string;
  lastSeen: Instant;
  stoppedAt: GateName | null;
  why: string;
  at: Instant;
  steps: Step[];
};
export type Mark = 'kept' | 'noise';
export type EventRow = {
  id: string;
  rule: string;
  ruleName: string;
  camera: string;
  area: string;
  track: string;
  at: Instant;
  class: ClassName;
  type: string | null;
  box: Box;
  pictureAt: Instant;
  pictureBox: Box;
  picture: string;
  marked: string;
  crop: string;
  clip: string | null;
  clipFrom: Instant | null;
  clipTrouble: string | null;
  steps: Step[];
  description: string | null;
  descriptionTrouble: string | null;
  mark: Mark | null;
  /** Events of one area and class that come soon after one another are one thread; one that joins makes no new sound. */
  thread: string | null;
  joins: boolean | null;
  /** The walk test it was made in; null of what happened by itself. */
  test: string | null;
};
export type AlertRow = {
  id: string;
  event: string;
  person: string;
  channel: 'push';
  /** Held: quiet hours or a snooze kept it back. */
  state: 'waiting' | 'sent' | 'undeliverable' | 'held';
  why: string | null;
  sentAt: Instant | null;
};
export type PhoneRow = {
  id: string;
  person: string;
  label: string;
  endpoint: string;
  p256dh: string;
  auth: string;
  createdAt: Instant;
  goneAt: Instant | null;
};
export type OutboxRow = {
  id: number;
  kind: 'alert' | 'describe' | 'fill-in';
  event: string;
  alert: string | null;
  phone: string | null;
  attempts: number;
  nextAtMachine: number;
  state: 'due' | 'done' | 'given-up';
  lastError: string | null;
};
/** A secret, closed with the key that stands outside the database (sealed.ts). */
export type SealedRow = { name: string; box: string };
export type CameraTokenRow = { camera: string; tokenHash: string; madeAt: Instant };
/** What a paired camera sent, kept before it is answered. `key` tells one delivery from another; `picture` may be absent. */
export type DeliveryRow = {
  id: string;
  camera: string;
  key: string;
  at: Instant;
  form: 'json' | 'xml';
  body: string;
  picture: string | null;
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
export type SeenInDelivery = { readonly [name: string]: readonly [least: number, most: number] };
/** What can never be kept, with the reason. */
export type SetAsideRow = { id: number; at: Instant; camera: string; what: string; why: string };
/** An item of a walk test with its names as they were then, what was shown of it, and a mark of what it rested on. */
export type WalkedItem = WalkItem & {
  readonly name: string;
  readonly cameras: readonly string[];
  readonly grounds: string;
  readonly result: WalkResult;
};
export type WalkTestRow = { id: string; startedAt: Instant; endedAt: Instant | null; by: string; items: WalkedItem[] };
export type LogRow = { id: number; at: Instant; who: string; what: string; event: string | null };

type Table<T extends object> = ModelStatic<Model<T, Partial<T>> & T>;

const text = { type: DataTypes.TEXT, allowNull: false };
const maybeText = { type: DataTypes.TEXT, allowNull: true };
const whole = { type: DataTypes.BIGINT, allowNull: false };
const maybeWhole = { type: DataTypes.BIGINT, allowNull: true };
const json = { type: DataTypes.JSON, allowNull: false };
const maybeJson = { type: DataTypes.JSON, allowNull: true };
const maybeBoolean = { type: DataTypes.BOOLEAN, allowNull: true };
const key = { ...text, primaryKey: true };
const counter = { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true };

/** Binds the tables that the migrations made. */
export function tablesOf(sequelize: Sequelize) {
  const table = <T extends object>(name: string, columns: Record<keyof T, object>): Table<T> => {
    // Sequelize writes into what it is given; each column gets an object of its own.
    const own = Object.fromEntries(Object.entries(columns).map(([column, options]) => [column, { ...(options as object) }]));
    return sequelize.define(name, own as never, { tableName: name, timestamps: false }) as unknown as Table<T>;
  };
  return {
    settings: table<SettingRow>('settings', { key, value: text }),
    siteVersions: table<SiteVersionRow>('site_versions', { id: counter, at: whole, by: text, what: text, text }),
    accounts: table<AccountRow>('accounts', { id: key, name: text, person: text, role: text, passwordHash: text, createdAtMachine: whole }),
    sessions: table<SessionRow>('sessions', {
      tokenHash: key,
      id: text,
      account: maybeText,
      role: text,
      kind: text,
      label: maybeText,
      madeAtMachine: maybeWhole,
      lastSeenAtMachine: maybeWhole,
      expiresAtMachine: whole,
    }),
    areaModes: table<AreaModeRow>('area_modes', { area: key, mode: text, since: whole, by: text }),
    tracks: table<TrackRow>('tracks', {
      id: key,
      camera: text,
      class: text,
      type: maybeText,
      firstSeen: whole,
      lastSeen: whole,
      path: json,
      picture: maybeText,
      pictureBox: maybeJson,
      test: maybeText,
    }),
    trails: table<TrailRow>('trails', {
      track: key,
      rule: key,
      camera: text,
      lastSeen: whole,
      stoppedAt: maybeText,
      why: text,
      at: whole,
      steps: json,
    }),
    events: table<EventRow>('events', {
      id: key,
      rule: text,
      ruleName: text,
      camera: text,
      area: text,
      track: text,
      at: whole,
      class: text,
      type: maybeText,
      box: json,
      pictureAt: whole,
      pictureBox: json,
      picture: text,
      marked: text,
      crop: text,
      clip: maybeText,
      clipFrom: maybeWhole,
      clipTrouble: maybeText,
      steps: json,
      description: maybeText,
      descriptionTrouble: maybeText,
      mark: maybeText,
      thread: maybeText,
      joins: maybeBoolean,
      test: maybeText,
    }),
    alerts: table<AlertRow>('alerts', {
      id: key,
      event: text,
      person: text,
      channel: text,
      state: text,
      why: maybeText,
      sentAt: maybeWhole,
    }),
    phones: table<PhoneRow>('phones', {
      id: key,
      person: text,
      label: text,
      endpoint: text,
      p256dh: text,
      auth: text,
      createdAt: whole,
      goneAt: maybeWhole,
    }),
    outbox: table<OutboxRow>('outbox', {
      id: counter,
      kind: text,
      event: text,
      alert: maybeText,
      phone: maybeText,
      attempts: whole,
      nextAtMachine: whole,
      state: text,
      lastError: maybeText,
    }),
    sealed: table<SealedRow>('sealed', { name: key, box: text }),
    cameraTokens: table<CameraTokenRow>('camera_tokens', { camera: key, tokenHash: text, madeAt: whole }),
    deliveries: table<DeliveryRow>('deliveries', {
      id: key,
      camera: text,
      key: text,
      at: whole,
      form: text,
      body: text,
      picture: maybeText,
      understood: text,
      state: text,
      frames: maybeJson,
      seen: maybeJson,
      saidAt: maybeWhole,
      isInfrared: maybeBoolean,
      why: maybeText,
    }),
    setAside: table<SetAsideRow>('set_aside', { id: counter, at: whole, camera: text, what: text, why: text }),
    walkTests: table<WalkTestRow>('walk_tests', { id: key, startedAt: whole, endedAt: maybeWhole, by: text, items: json }),
    logbook: table<LogRow>('logbook', { id: counter, at: whole, who: text, what: text, event: maybeText }),
  };
}

export type Tables = ReturnType<typeof tablesOf>;
