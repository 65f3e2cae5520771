// What is kept of a camera's past, and letting go of it: as when a privacy mask was drawn too late.

import { Op } from 'sequelize';
import type { Instant } from '@nibber/core/time';
import type { Record } from './index';

export type KeptOf = { readonly tracks: number; readonly events: number; readonly clips: number; readonly since: Instant | null };

export async function keptOf({ tables }: Record, camera: string): Promise<KeptOf> {
  const { tracks, events } = tables;
  const oldest = await tracks.findOne({ where: { camera }, order: [['firstSeen', 'ASC']] });
  return {
    tracks: await tracks.count({ where: { camera } }),
    events: await events.count({ where: { camera } }),
    clips: await events.count({ where: { camera, clip: { [Op.ne]: null } } }),
    since: oldest?.firstSeen ?? null,
  };
}

/** Deletes every track, event, alert and delivery of a camera up to an instant, with their pictures and clips. */
export async function forgetPast(record: Record, camera: string, upTo: Instant): Promise<KeptOf> {
  const { tracks, trails, events, deliveries } = record.tables;
  const before = await keptOf(record, camera);
  const names = new Set<string>();
  await record.write(async (transaction) => {
    const oldEvents = await events.findAll({ where: { camera, at: { [Op.lte]: upTo } }, transaction });
    const oldTracks = await tracks.findAll({ where: { camera, lastSeen: { [Op.lte]: upTo } }, transaction });
    const oldDeliveries = await deliveries.findAll({ where: { camera, at: { [Op.lte]: upTo }, state: 'done' }, transaction });
    for (const e of oldEvents) for (const name of [e.picture, e.marked, e.crop, e.clip]) if (name) names.add(name);
    for (const { picture } of [...oldTracks, ...oldDeliveries]) if (picture) names.add(picture);
    await events.destroy({ where: { id: oldEvents.map((e) => e.id) }, transaction });
    const own = oldTracks.map((t) => t.id);
    const stillUsed = await events.findAll({ attributes: ['track'], where: { track: own }, transaction });
    const free = own.filter((id) => !stillUsed.some((e) => e.track === id));
    await trails.destroy({ where: { track: free }, transaction });
    await tracks.destroy({ where: { id: free }, transaction });
    await deliveries.destroy({ where: { id: oldDeliveries.map((d) => d.id) }, transaction });
  });
  await removeUnused(record, names);
  return before;
}

/** Removes pictures and clips that nothing names any more: the same bytes may be kept for something else. */
export async function removeUnused({ tables, pictures }: Record, names: ReadonlySet<string>): Promise<void> {
  const { tracks, events, deliveries } = tables;
  for (const name of names) {
    const others = await Promise.all([
      events.count({ where: { [Op.or]: [{ picture: name }, { marked: name }, { crop: name }, { clip: name }] } }),
      tracks.count({ where: { picture: name } }),
      deliveries.count({ where: { picture: name } }),
    ]);
    if (others.every((n) => n === 0)) await pictures.remove(name);
  }
}
