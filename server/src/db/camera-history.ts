// What is stored of a camera's past, and deleting it: as when a privacy mask was drawn too late, or for a day that nobody else should see.

import { Op, type Transaction } from 'sequelize';
import type { Instant } from '@nibber/core/time';
import { pause } from '../base/pause';
import type { WalkedItem } from '../base/events';
import type { Database } from './database';
import type { Detections } from './detections';
import type { Media } from './media';
import type { Removal } from './removal';
import { itemRole } from './walk-tests';

/** From one instant to another, both included. */
export type Span = { readonly from: Instant; readonly to: Instant };

export type StoredDataOf = { readonly tracks: number; readonly events: number; readonly clips: number; readonly since: Instant | null };

export type Past = {
  stored(camera: string, span: Span): Promise<StoredDataOf>;
  /**
   * Deletes every track, event, alert and delivery of a camera in a span of time, with their pictures and clips, and what walk tests and the
   * logbook show of them; recorded detections by the hour. In batches that delay nothing: a kill leaves those that were not reached.
   * @returns how much there was
   */
  forget(camera: string, span: Span): Promise<StoredDataOf>;
};

const batchRows = 400;
const betweenBatchesMs = 5;

export function openPast({ tables, write }: Database, media: Media, detections: Detections, removal: Removal): Past {
  const { tracks, events, deliveries, walkTests, readingValues } = tables;
  const within = ({ from, to }: Span) => ({ [Op.between]: [from, to] });

  const stored = async (camera: string, span: Span): Promise<StoredDataOf> => {
    const [ofTracks, ofEvents] = [
      { camera, lastSeen: within(span) },
      { camera, at: within(span) },
    ];
    const oldest = await tracks.findOne({ attributes: ['firstSeen'], where: ofTracks, order: [['lastSeen', 'ASC']] });
    return {
      tracks: await tracks.count({ where: ofTracks }),
      events: await events.count({ where: ofEvents }),
      clips: await tables.media.count({ where: { camera, takenAt: within(span), holder: 'event', role: 'clip' } }),
      since: oldest?.firstSeen ?? null,
    };
  };

  type Ids = readonly { readonly id: string }[];
  /** Removes by id what `find` answers, in order of id, until there is no more. */
  const inBatches = async (
    find: (asked: object) => Promise<Ids>,
    where: object,
    remove: (ids: readonly string[], transaction: Transaction) => Promise<unknown>,
  ): Promise<void> => {
    for (let last = ''; ;) {
      const ids = await write(async (transaction) => {
        const asked = { attributes: ['id'], where: { ...where, id: { [Op.gt]: last } }, order: [['id', 'ASC']], limit: batchRows };
        const found = (await find({ ...asked, transaction, raw: true })).map((row) => row.id);
        if (found.length > 0) await remove(found, transaction);
        return found;
      });
      if (ids.length < batchRows) return;
      last = ids.at(-1)!;
      await pause(betweenBatchesMs);
    }
  };

  /** What walk tests show of it is shown no more; that they passed stays. */
  const letGoOfWalkTests = (camera: string, span: Span) =>
    write(async (transaction) => {
      for (const test of await walkTests.findAll({ where: { startedAt: { [Op.lte]: span.to } }, transaction })) {
        const shown = test.items.flatMap(({ result }) => (result.state === 'answered' && result.event ? [result.event] : []));
        const where = { id: shown, camera, at: within(span) };
        const gone = new Set((await events.findAll({ attributes: ['id'], where, transaction, raw: true })).map((e) => e.id));
        const isWithin = test.startedAt >= span.from;
        const roles: string[] = [];
        const items = test.items.map(({ result, ...item }, i) => {
          if (result.state !== 'answered') return { ...item, result };
          const isOfCamera = isWithin && item.cameras.length === 1 && item.cameras[0] === camera;
          if (!isOfCamera && !(result.event && gone.has(result.event))) return { ...item, result };
          roles.push(itemRole(i));
          return { ...item, result: { ...result, picture: undefined, event: undefined } };
        });
        if (roles.length === 0) continue;
        await walkTests.update({ items: items as WalkedItem[] }, { where: { id: test.id }, transaction });
        for (const role of roles) await media.letGo(transaction, 'walk test', [test.id], role);
      }
    });

  return {
    stored,
    async forget(camera, span) {
      const before = await stored(camera, span);
      await letGoOfWalkTests(camera, span);
      await inBatches(
        (asked) => readingValues.findAll(asked),
        { camera, at: within(span), hasPicture: true },
        async (ids, transaction) => {
          await media.letGo(transaction, 'reading', ids);
          await readingValues.update({ hasPicture: false }, { where: { id: [...ids] }, transaction });
        },
      );
      await inBatches((asked) => events.findAll(asked), { camera, at: within(span) }, removal.events);
      await inBatches((asked) => tracks.findAll(asked), { camera, lastSeen: within(span) }, removal.tracks);
      await inBatches(
        (asked) => deliveries.findAll(asked),
        { camera, at: within(span), state: { [Op.ne]: 'due' } },
        async (ids, transaction) => {
          await deliveries.destroy({ where: { id: [...ids] }, transaction });
          await media.letGo(transaction, 'delivery', ids);
        },
      );
      detections.forget(camera, span);
      return before;
    },
  };
}
