// The tables that the migrations made, bound to the types of their rows.

import { DataTypes, type Model, type ModelStatic, type Sequelize } from 'sequelize';
import type {
  SettingRow,
  SiteVersionRow,
  AccountRow,
  SessionRow,
  AreaModeRow,
  TrackRow,
  TrailRow,
  EventRow,
  MediaRow,
  AlertRow,
  SentRow,
  PhoneRow,
  JobRow,
  SealedRow,
  CameraTokenRow,
  DeliveryRow,
  SetAsideRow,
  WalkTestRow,
  LogRow,
  InvitationRow,
  SnoozeRow,
  LookRow,
  UsedActionRow,
  ChannelStateRow,
} from './rows';

export type Table<T extends object> = ModelStatic<Model<T, Partial<T>> & T>;

const text = { type: DataTypes.TEXT, allowNull: false };
const maybeText = { type: DataTypes.TEXT, allowNull: true };
const whole = { type: DataTypes.BIGINT, allowNull: false };
const maybeWhole = { type: DataTypes.BIGINT, allowNull: true };
const json = { type: DataTypes.JSON, allowNull: false };
const maybeJson = { type: DataTypes.JSON, allowNull: true };
const boolean = { type: DataTypes.BOOLEAN, allowNull: false };
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
      pictureBox: maybeJson,
      hasEvent: boolean,
      test: maybeText,
    }),
    trails: table<TrailRow>('trails', {
      track: key,
      rule: key,
      stoppedAt: maybeText,
      why: text,
      at: whole,
      steps: json,
    }),
    events: table<EventRow>('events', {
      id: key,
      kind: text,
      rule: maybeText,
      ruleName: text,
      camera: maybeText,
      sensor: maybeText,
      area: text,
      track: maybeText,
      at: whole,
      class: maybeText,
      type: maybeText,
      box: maybeJson,
      pictureBox: maybeJson,
      pictureBy: maybeText,
      shots: maybeJson,
      clipTrouble: maybeText,
      steps: json,
      description: maybeText,
      descriptionTrouble: maybeText,
      fields: maybeJson,
      mark: maybeText,
      thread: maybeText,
      joins: maybeBoolean,
      test: maybeText,
    }),
    media: table<MediaRow>('media', {
      id: counter,
      name: text,
      role: text,
      holder: text,
      holderId: text,
      camera: maybeText,
      takenAt: maybeWhole,
      bytes: maybeWhole,
    }),
    alerts: table<AlertRow>('alerts', {
      id: key,
      event: text,
      person: text,
      channel: text,
      state: text,
      why: maybeText,
      sentAt: maybeWhole,
      joined: maybeText,
      inSummary: boolean,
      madeAtMachine: maybeWhole,
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
      session: maybeText,
    }),
    outbox: table<JobRow>('outbox', {
      id: counter,
      kind: text,
      event: text,
      alert: maybeText,
      target: maybeText,
      lane: text,
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
    invitations: table<InvitationRow>('invitations', {
      id: key,
      tokenHash: text,
      person: maybeText,
      name: maybeText,
      role: text,
      sees: maybeJson,
      until: maybeText,
      madeBy: text,
      madeAtMachine: whole,
      expiresAtMachine: whole,
      usedAtMachine: maybeWhole,
    }),
    snoozes: table<SnoozeRow>('snoozes', {
      id: key,
      person: text,
      rule: maybeText,
      camera: maybeText,
      area: maybeText,
      until: maybeWhole,
      madeAt: whole,
    }),
    looks: table<LookRow>('looks', { event: key, person: key, at: whole }),
    usedActions: table<UsedActionRow>('used_actions', { alert: key, action: key, at: whole }),
    channelStates: table<ChannelStateRow>('channel_states', { key, acceptedAt: maybeWhole, refusedAt: maybeWhole, why: maybeText }),
    sent: table<SentRow>('sent', {
      id: counter,
      at: whole,
      event: maybeText,
      camera: text,
      service: text,
      model: text,
      why: text,
      picture: text,
      ms: maybeWhole,
      outcome: text,
      said: maybeText,
    }),
    logbook: table<LogRow>('logbook', { id: counter, at: whole, who: text, what: text, event: maybeText }),
  };
}

export type Tables = ReturnType<typeof tablesOf>;
