// What has grown old: found by its age in small batches and deleted, one kind after the other. What is due, and what examples rest on, stays.

import { QueryTypes, type Transaction } from 'sequelize';
import type { PressureKind, RetentionKind } from '@nibber/core/retention';
import type { Instant } from '@nibber/core/time';
import type { Database } from './database';
import type { Media } from './media';
import type { Removal } from './removal';

/** Recorded detections are files, and have limits of their own (detections.ts). */
export type AgingKind = Exclude<RetentionKind, 'detections'> | PressureKind;

/** One camera; or all but some, and what is of none. */
export type OfCameras = { readonly only: string } | { readonly except: readonly string[] };

export type Batch = {
  readonly deleted: number;
  readonly bytes: number;
  /** Where the next batch begins; undefined where nothing older is left. */
  readonly next: Instant | undefined;
};

export type Aging = {
  /** Deletes at most `max` of a kind, the oldest from an instant on to before another. `whyNoClip` is said of events whose clip goes. */
  batch(kind: AgingKind, from: Instant, before: Instant, cameras: OfCameras, max: number, whyNoClip: string): Promise<Batch>;
};

/** The newest site versions stay, however old they are. */
const versionsKept = 20;

type Row = { readonly id: string; readonly at: Instant };
type Rule = {
  readonly find: string;
  readonly remove: (ids: readonly string[], transaction: Transaction, whyNoClip: string) => Promise<number>;
};

const ofCamera = (column: string) => `(:only IS NULL OR ${column} = :only) AND (${column} IS NULL OR ${column} NOT IN (:except))`;
const useful = `mark = 'useful'`;
const notUseful = `mark IS NOT 'useful'`;
const span = (column: string) => `${column} >= :from AND ${column} < :before`;
const noExample = `NOT EXISTS (SELECT 1 FROM examples WHERE examples.event = events.id)`;
const oldest = `ORDER BY at LIMIT :max`;
const eventsThat = (mark: string) =>
  `SELECT id, at FROM events WHERE ${span('at')} AND ${mark} AND ${noExample} AND ${ofCamera('camera')} ${oldest}`;
/** Events and their tracks that still hold a picture, or a clip; by when it was taken. */
const holdersOf = (role: string, mark: string) => `
  SELECT media.holderId AS id, media.takenAt AS at FROM media JOIN events ON events.id = media.holderId
  WHERE media.holder = 'event' AND ${span('media.takenAt')} AND media.role ${role} AND events.${mark} AND ${noExample} AND ${ofCamera('media.camera')}
  ORDER BY media.takenAt LIMIT :max`;

export function openAging(database: Database, media: Media, removal: Removal): Aging {
  const { tables, sequelize, write } = database;
  type Plain = 'sent' | 'logbook' | 'outbox' | 'siteVersions' | 'trails';
  const rowsOf =
    (table: Plain): Rule['remove'] =>
    async (ids, transaction) => {
      const { tableName } = tables[table] as unknown as { tableName: string };
      await sequelize.query(`DELETE FROM ${tableName} WHERE rowid IN (:ids)`, { replacements: { ids: [...ids] }, transaction });
      return 0;
    };
  const clips: Rule['remove'] = async (ids, transaction, why) => {
    await tables.events.update({ clipProblem: why }, { where: { id: [...ids] }, transaction });
    return media.letGo(transaction, 'event', ids, 'clip');
  };
  const rules: { readonly [K in AgingKind]: Rule } = {
    events: { find: eventsThat(notUseful), remove: removal.events },
    usefulEvents: { find: eventsThat(useful), remove: removal.events },
    filteredOut: {
      find: `SELECT id, lastSeen AS at FROM tracks WHERE ${span('lastSeen')} AND hasEvent = 0 AND ${ofCamera('camera')} ${oldest}`,
      remove: removal.tracks,
    },
    // Those of an event stay with it: they say why it was sent.
    trails: {
      find: `SELECT trails.rowid AS id, at FROM trails JOIN tracks ON tracks.id = trails.track WHERE ${span('at')} AND hasEvent = 0 AND ${ofCamera('camera')} ${oldest}`,
      remove: rowsOf('trails'),
    },
    pictures: {
      find: holdersOf(`<> 'clip'`, notUseful),
      async remove(ids, transaction) {
        const of = await tables.events.findAll({ attributes: ['track'], where: { id: [...ids] }, transaction, raw: true });
        const tracks = of.flatMap((e) => e.track ?? []);
        return (await media.letGo(transaction, 'event', ids, { not: 'clip' })) + (await media.letGo(transaction, 'track', tracks));
      },
    },
    clips: { find: holdersOf(`= 'clip'`, notUseful), remove: clips },
    usefulClips: { find: holdersOf(`= 'clip'`, useful), remove: clips },
    deliveries: {
      find: `SELECT id, at FROM deliveries WHERE ${span('at')} AND state <> 'due' AND ${ofCamera('camera')} ${oldest}`,
      async remove(ids, transaction) {
        await tables.deliveries.destroy({ where: { id: [...ids] }, transaction });
        return media.letGo(transaction, 'delivery', ids);
      },
    },
    aiRequests: { find: `SELECT id, at FROM sent WHERE ${span('at')} AND outcome <> 'waiting' ${oldest}`, remove: rowsOf('sent') },
    readings: {
      find: `SELECT id, at FROM reading_values WHERE ${span('at')} ${oldest}`,
      async remove(ids, transaction) {
        await tables.readingValues.destroy({ where: { id: [...ids] }, transaction });
        return media.letGo(transaction, 'reading', ids);
      },
    },
    logbook: { find: `SELECT id, at FROM logbook WHERE ${span('at')} ${oldest}`, remove: rowsOf('logbook') },
    sessions: {
      find: `SELECT tokenHash AS id, expiresAtMachine AS at FROM sessions WHERE ${span('expiresAtMachine')} ${oldest}`,
      async remove(ids, transaction) {
        await tables.sessions.destroy({ where: { tokenHash: [...ids] }, transaction });
        return 0;
      },
    },
    jobs: {
      find: `SELECT id, nextAtMachine AS at FROM outbox WHERE ${span('nextAtMachine')} AND state <> 'due' ${oldest}`,
      remove: rowsOf('outbox'),
    },
    siteVersions: {
      find: `SELECT id, at FROM site_versions WHERE ${span('at')} AND id <= (SELECT MAX(id) FROM site_versions) - ${versionsKept} ${oldest}`,
      remove: rowsOf('siteVersions'),
    },
  };

  return {
    async batch(kind, from, before, cameras, max, whyNoClip) {
      const { find, remove } = rules[kind];
      const replacements = {
        from,
        before,
        max,
        only: 'only' in cameras ? cameras.only : null,
        except: 'except' in cameras && cameras.except.length ? [...cameras.except] : [''],
      };
      const rows = await sequelize.query<Row>(find, { replacements, type: QueryTypes.SELECT });
      if (rows.length === 0) return { deleted: 0, bytes: 0, next: undefined };
      const ids = [...new Set(rows.map((r) => r.id))];
      const bytes = await write((transaction) => remove(ids, transaction, whyNoClip));
      return { deleted: ids.length, bytes, next: rows.length < max ? undefined : rows.at(-1)!.at };
    },
  };
}
