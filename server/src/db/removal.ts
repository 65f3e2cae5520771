// Removing events and tracks whole: with their alerts and jobs, which the database removes itself, their files, and every pointer to them.

import type { Transaction } from 'sequelize';
import type { Database } from './database';
import type { Media } from './media';

export type Removed = { readonly events: number; readonly tracks: number; readonly bytes: number };

export type Removal = {
  /** Events, and those of their tracks of which no other event is left. */
  events(ids: readonly string[], transaction: Transaction): Promise<Removed>;
  /** Tracks of which no event is left. */
  tracks(ids: readonly string[], transaction: Transaction): Promise<Removed>;
};

export function openRemoval({ tables: { events, tracks, trails, logbook } }: Database, media: Media): Removal {
  const removeTracks: Removal['tracks'] = async (ids, transaction) => {
    const used = await events.findAll({ attributes: ['track'], where: { track: [...ids] }, transaction, raw: true });
    const stillUsed = new Set(used.map((e) => e.track));
    const free = ids.filter((id) => !stillUsed.has(id));
    await trails.destroy({ where: { track: free }, transaction });
    const count = await tracks.destroy({ where: { id: free }, transaction });
    return { events: 0, tracks: count, bytes: await media.letGo(transaction, 'track', free) };
  };
  return {
    tracks: removeTracks,
    async events(ids, transaction) {
      const where = { id: [...ids] };
      const of = await events.findAll({ attributes: ['track'], where, transaction, raw: true });
      await logbook.update({ event: null }, { where: { event: [...ids] }, transaction });
      const count = await events.destroy({ where, transaction });
      const bytes = await media.letGo(transaction, 'event', ids);
      const own = await removeTracks([...new Set(of.flatMap((e) => e.track ?? []))], transaction);
      return { events: count, tracks: own.tracks, bytes: bytes + own.bytes };
    },
  };
}
