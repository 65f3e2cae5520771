// What is kept of a camera's past, and letting go of it: as when a privacy mask was drawn too late.

import { Op } from 'sequelize';
import type { Instant } from '@nibber/core/time';
import type { Database } from './database';
import type { Detections } from './detections';
import type { Media } from './media';
import type { Removal } from './removal';
import { itemRole } from './walk-tests';
import type { WalkedItem } from '../base/events';

export type StoredDataOf = { readonly tracks: number; readonly events: number; readonly clips: number; readonly since: Instant | null };

export type Past = {
  kept(camera: string): Promise<StoredDataOf>;
  /**
   * Deletes every track, event, alert and delivery of a camera up to an instant, with their pictures and clips, and what walk tests and the
   * logbook show of them. @returns how much there was
   */
  forget(camera: string, upTo: Instant): Promise<StoredDataOf>;
};

export function openPast({ tables, write }: Database, media: Media, detections: Detections, removal: Removal): Past {
  const { tracks, events, deliveries, walkTests } = tables;
  const kept = async (camera: string): Promise<StoredDataOf> => {
    const oldest = await tracks.findOne({ attributes: ['firstSeen'], where: { camera }, order: [['firstSeen', 'ASC']] });
    return {
      tracks: await tracks.count({ where: { camera } }),
      events: await events.count({ where: { camera } }),
      clips: await tables.media.count({ where: { camera, holder: 'event', role: 'clip' } }),
      since: oldest?.firstSeen ?? null,
    };
  };
  return {
    kept,
    async forget(camera, upTo) {
      const before = await kept(camera);
      await write(async (transaction) => {
        const ids = async (of: Promise<readonly { id: string }[]>) => (await of).map((r) => r.id);
        const only = { attributes: ['id'] as string[], transaction, raw: true as const };
        const oldEvents = await ids(events.findAll({ ...only, where: { camera, at: { [Op.lte]: upTo } } }));
        const oldTracks = await ids(tracks.findAll({ ...only, where: { camera, lastSeen: { [Op.lte]: upTo } } }));
        const over = { camera, at: { [Op.lte]: upTo }, state: { [Op.ne]: 'due' as const } };
        const oldDeliveries = await ids(deliveries.findAll({ ...only, where: over }));
        const goneEvents = new Set(oldEvents);
        for (const test of await walkTests.findAll({ where: { startedAt: { [Op.lte]: upTo } }, transaction })) {
          const roles: string[] = [];
          const items = test.items.map(({ result, ...item }, i) => {
            if (result.state !== 'answered') return { ...item, result };
            const isOfIt = (result.event && goneEvents.has(result.event)) || (item.cameras.length === 1 && item.cameras[0] === camera);
            if (!isOfIt) return { ...item, result };
            roles.push(itemRole(i));
            return { ...item, result: { ...result, picture: undefined, event: undefined } };
          });
          if (roles.length === 0) continue;
          await walkTests.update({ items: items as WalkedItem[] }, { where: { id: test.id }, transaction });
          for (const role of roles) await media.letGo(transaction, 'walk test', [test.id], role);
        }
        const oldReadings = await ids(
          tables.readingValues.findAll({ ...only, where: { camera, at: { [Op.lte]: upTo }, hasPicture: true } }),
        );
        await media.letGo(transaction, 'reading', oldReadings);
        await tables.readingValues.update({ hasPicture: false }, { where: { id: oldReadings }, transaction });
        await removal.events(oldEvents, transaction);
        await removal.tracks(oldTracks, transaction);
        await deliveries.destroy({ where: { id: oldDeliveries }, transaction });
        await media.letGo(transaction, 'delivery', oldDeliveries);
      });
      detections.forget(camera);
      return before;
    },
  };
}
