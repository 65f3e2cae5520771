// Removing events and tracks whole: with their alerts and jobs, which the database removes itself, their files, and every pointer to them.

import type { Transaction } from 'sequelize';
import type { Database } from './database';
import type { Media } from './media';

/** Each answers the bytes of the files that go with it. */
export type Removal = {
  /** Events, and those of their tracks of which no other event is left. */
  events(ids: readonly string[], transaction: Transaction): Promise<number>;
  /** Tracks of which no event is left. */
  tracks(ids: readonly string[], transaction: Transaction): Promise<number>;
};

export function openRemoval({ tables: { events, tracks, trails, logbook, sent } }: Database, media: Media): Removal {
  const removeTracks: Removal['tracks'] = async (ids, transaction) => {
    const used = await events.findAll({ attributes: ['track'], where: { track: [...ids] }, transaction, raw: true });
    const stillUsed = new Set(used.map((e) => e.track));
    const free = ids.filter((id) => !stillUsed.has(id));
    await trails.destroy({ where: { track: free }, transaction });
    await tracks.destroy({ where: { id: free }, transaction });
    return media.letGo(transaction, 'track', free);
  };
  return {
    tracks: removeTracks,
    async events(ids, transaction) {
      const where = { id: [...ids] };
      const of = await events.findAll({ attributes: ['track'], where, transaction, raw: true });
      await logbook.update({ event: null }, { where: { event: [...ids] }, transaction });
      // What a service said of it goes with it; that it was asked, and what that cost, stays.
      await sent.update({ event: null, said: null }, { where: { event: [...ids] }, transaction });
      await events.destroy({ where, transaction });
      const own = [...new Set(of.flatMap((e) => e.track ?? []))];
      return (await media.letGo(transaction, 'event', ids)) + (await removeTracks(own, transaction));
    },
  };
}
