// Tracks, and how far each came by every rule.

import { col, fn, Op, type Transaction } from 'sequelize';
import type { ClassName } from '@nibber/core/boxes';
import type { Instant } from '@nibber/core/time';
import { byItself, type Database } from './database';
import { filteredPage, type PageAsked, type SeenPart } from './page';
import type { TrackRow, TrailRow } from './rows';
import type { PathPoint } from '../base/events';

export type Around = {
  readonly events: readonly string[];
  readonly tracks: readonly string[];
  readonly before: Instant | null;
  readonly after: Instant | null;
};

export type Tracks = {
  /** Once an event came of it, that stays so. */
  keep(track: TrackRow, transaction: Transaction): Promise<void>;
  keepTrail(trail: TrailRow, transaction: Transaction): Promise<void>;
  find(id: string): Promise<TrackRow | undefined>;
  some(ids: readonly string[]): Promise<TrackRow[]>;
  /** The ids of a camera's events in a span of time and of its tracks without one, and when it saw something last before and first after. */
  around(camera: string, from: Instant, to: Instant, max: number): Promise<Around>;
  trailsOf(tracks: readonly string[]): Promise<TrailRow[]>;
  /** Those of which no event came, newest first. */
  quietPage(asked: PageAsked): Promise<TrackRow[]>;
  paths(camera: string, since: Instant, max: number): Promise<{ class: ClassName; path: readonly PathPoint[] }[]>;
  /** Those of a camera that were first seen at these instants. */
  begunAt(camera: string, instants: readonly Instant[]): Promise<Pick<TrackRow, 'id' | 'firstSeen' | 'pictureBox'>[]>;
  count(since: Instant, seen?: SeenPart): Promise<number>;
  /** How many tracks since an instant each gate stopped. */
  stopped(since: Instant, seen?: SeenPart): Promise<{ readonly [gate: string]: number }>;
};

const onCameras = (seen: SeenPart | undefined) => (seen ? { camera: [...seen.cameras] } : {});

export function openTracks({ tables: { tracks, trails, events } }: Database): Tracks {
  return {
    async keep(track, transaction) {
      const known = await tracks.findByPk(track.id, { attributes: ['hasEvent'], transaction });
      const hasEvent = track.hasEvent || known?.hasEvent === true;
      const stop = hasEvent ? { stoppedAt: null, stoppedBy: null, why: null } : {};
      await tracks.upsert({ ...track, ...stop, hasEvent }, { transaction });
    },
    keepTrail: async (trail, transaction) => void (await trails.upsert(trail, { transaction })),
    find: async (id) => (await tracks.findByPk(id))?.get({ plain: true }),
    some: async (ids) => (await tracks.findAll({ where: { id: [...ids] } })).map((t) => t.get({ plain: true })),
    async around(camera, from, to, max) {
      const own = { ...byItself, camera };
      const [notified, quiet, before, after] = await Promise.all([
        events.findAll({ attributes: ['id'], where: { ...own, at: { [Op.between]: [from, to] } }, limit: max, raw: true }),
        tracks.findAll({
          attributes: ['id'],
          where: { ...own, hasEvent: false, firstSeen: { [Op.lte]: to }, lastSeen: { [Op.gte]: from } },
          limit: max,
          raw: true,
        }),
        tracks.findOne({
          attributes: ['lastSeen'],
          where: { ...own, lastSeen: { [Op.lt]: from } },
          order: [['lastSeen', 'DESC']],
          raw: true,
        }),
        tracks.findOne({
          attributes: ['firstSeen'],
          where: { ...own, lastSeen: { [Op.gt]: to }, firstSeen: { [Op.gt]: to } },
          order: [['lastSeen', 'ASC']],
          raw: true,
        }),
      ]);
      return {
        events: notified.map((e) => e.id),
        tracks: quiet.map((t) => t.id),
        before: before?.lastSeen ?? null,
        after: after?.firstSeen ?? null,
      };
    },
    trailsOf: async (of) => (await trails.findAll({ where: { track: [...of] } })).map((t) => t.get({ plain: true })),
    quietPage: async (asked) =>
      (await tracks.findAll(filteredPage('lastSeen', asked, { ...byItself, hasEvent: false, [Op.and]: [onCameras(asked.seen)] }))).map(
        (t) => t.get({ plain: true }),
      ),
    async paths(camera, since, max) {
      const rows = await tracks.findAll({
        attributes: ['class', 'path'],
        where: { ...byItself, camera, lastSeen: { [Op.gte]: since } },
        order: [['lastSeen', 'DESC']],
        limit: max,
      });
      return rows.map((r) => ({ class: r.class, path: r.path }));
    },
    async begunAt(camera, instants) {
      if (instants.length === 0) return [];
      const rows = await tracks.findAll({
        attributes: ['id', 'firstSeen', 'pictureBox'],
        where: { ...byItself, camera, lastSeen: { [Op.gte]: Math.min(...instants) }, firstSeen: [...instants] },
      });
      return rows.map((r) => r.get({ plain: true }));
    },
    count: (since, seen) => tracks.count({ where: { ...byItself, lastSeen: { [Op.gte]: since }, ...onCameras(seen) } }),
    async stopped(since, seen) {
      const rows = (await tracks.findAll({
        attributes: ['stoppedAt', [fn('COUNT', col('id')), 'n']],
        where: { ...byItself, lastSeen: { [Op.gte]: since }, stoppedAt: { [Op.ne]: null as never }, ...onCameras(seen) },
        group: ['stoppedAt'],
        raw: true,
      })) as unknown as { stoppedAt: string; n: number }[];
      return Object.fromEntries(rows.map((r) => [r.stoppedAt, r.n]));
    },
  };
}
