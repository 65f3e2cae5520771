// What is kept of a camera's past, and letting go of it: as when a privacy mask was drawn too late.

import { Op } from 'sequelize';
import type { Instant } from '@nibber/core/time';
import type { Record, WalkedItem } from './index';

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

/**
 * Deletes every track, event, alert and delivery of a camera up to an instant, with their pictures and clips, and what walk tests and the
 * logbook show of them. @returns how much there was
 */
export async function forgetPast(record: Record, camera: string, upTo: Instant, plan: string | undefined): Promise<KeptOf> {
  const { tracks, trails, events, deliveries, walkTests, logbook } = record.tables;
  const before = await keptOf(record, camera);
  const names = new Set<string>();
  await record.write(async (transaction) => {
    const oldEvents = await events.findAll({ where: { camera, at: { [Op.lte]: upTo } }, transaction });
    const oldTracks = await tracks.findAll({ where: { camera, lastSeen: { [Op.lte]: upTo } }, transaction });
    const over = { camera, at: { [Op.lte]: upTo }, state: { [Op.ne]: 'due' as const } };
    const oldDeliveries = await deliveries.findAll({ where: over, transaction });
    for (const e of oldEvents) for (const name of [e.picture, e.marked, e.crop, e.clip]) if (name) names.add(name);
    for (const { picture } of [...oldTracks, ...oldDeliveries]) if (picture) names.add(picture);
    const goneEvents = new Set(oldEvents.map((e) => e.id));
    for (const test of await walkTests.findAll({ where: { startedAt: { [Op.lte]: upTo } }, transaction })) {
      const items = test.items.map(({ result, ...item }) => {
        if (result.state !== 'answered') return { ...item, result };
        const isOfIt = (result.event && goneEvents.has(result.event)) || (item.cameras.length === 1 && item.cameras[0] === camera);
        if (!isOfIt) return { ...item, result };
        if (result.picture) names.add(result.picture);
        return { ...item, result: { ...result, picture: undefined, event: undefined } };
      });
      if (JSON.stringify(items) !== JSON.stringify(test.items))
        await walkTests.update({ items: items as WalkedItem[] }, { where: { id: test.id }, transaction });
    }
    await logbook.update({ event: null }, { where: { event: [...goneEvents] }, transaction });
    await events.destroy({ where: { id: [...goneEvents] }, transaction });
    const own = oldTracks.map((t) => t.id);
    const stillUsed = new Set((await events.findAll({ attributes: ['track'], where: { track: own }, transaction })).map((e) => e.track));
    const free = own.filter((id) => !stillUsed.has(id));
    await trails.destroy({ where: { track: free }, transaction });
    await tracks.destroy({ where: { id: free }, transaction });
    await deliveries.destroy({ where: { id: oldDeliveries.map((d) => d.id) }, transaction });
  });
  await removeUnused(record, names, plan);
  return before;
}

/**
 * Removes pictures and clips that nothing names any more: the same bytes may be kept for something else.
 * @param plan the picture of the site's plan, which the site file names
 */
export async function removeUnused({ tables, pictures }: Record, names: ReadonlySet<string>, plan: string | undefined): Promise<void> {
  const { tracks, events, deliveries, walkTests } = tables;
  if (names.size === 0) return;
  const tests = JSON.stringify(await walkTests.findAll({ attributes: ['items'], raw: true }));
  for (const name of names) {
    if (name === plan || tests.includes(name)) continue;
    const others = await Promise.all([
      events.count({ where: { [Op.or]: [{ picture: name }, { marked: name }, { crop: name }, { clip: name }] } }),
      tracks.count({ where: { picture: name } }),
      deliveries.count({ where: { picture: name } }),
    ]);
    if (others.every((n) => n === 0)) await pictures.remove(name);
  }
}
