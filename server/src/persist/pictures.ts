// The pictures of an event: the whole, the same with the thing marked, the thing cut out, and what a notification has room for. Made of one
// picture, and made again where another shows the thing better.

import type { Box, ClassName } from '@nibber/core/boxes';
import type { Transaction } from 'sequelize';
import { croppedPicture, markedPicture, noticePicture } from '../media/drawings';
import type { Record } from '../db';
import { laneOf } from '../db/jobs';
import type { StoredFile } from '../base/picture';
import type { StoreFile } from '../db/media';
import type { Channel } from '../notify/channels';

export type EventPictures = {
  readonly picture: StoredFile;
  readonly marked: StoredFile;
  readonly crop: StoredFile;
  readonly notice: StoredFile;
};

export async function eventPictures(storeFile: StoreFile, jpeg: Buffer, box: Box, cls: ClassName): Promise<EventPictures> {
  const store = async (bytes: Promise<Buffer> | Buffer) => storeFile(await bytes, 'jpg');
  const [picture, marked, crop, notice] = await Promise.all([
    store(jpeg),
    store(markedPicture(jpeg, box, cls)),
    store(croppedPicture(jpeg, box)),
    store(noticePicture(jpeg, box, cls)),
  ]);
  return { picture, marked, crop, notice };
}

/** Which of an event's shots is its picture: the machine's choice, or a person's, which stays. */
export type Chosen = { readonly at: number; readonly box: Box; readonly by: string | null };

/**
 * Gives an event other pictures, and fills in its alerts on channels that can.
 * @returns whether it did: what a person chose, or what is gone meanwhile, stays as it is
 */
export async function showBetter(
  { record, channels, machine }: { readonly record: Record; readonly channels: readonly Channel[]; readonly machine: number },
  event: string,
  pictures: EventPictures,
  chosen: Chosen,
  transaction: Transaction,
): Promise<boolean> {
  const row = await record.events.find(event, transaction);
  if (!row || (row.chosenBy !== null && chosen.by === null)) return false;
  const holding = { holder: 'event', holderId: event, camera: row.camera, takenAt: chosen.at } as const;
  // A recipient of a moment ago, or a viewer, still fetches the one before.
  await record.media.keepBefore(transaction, 'event', event, Object.keys(pictures));
  await record.media.hold(transaction, ...Object.entries(pictures).map(([role, file]) => ({ ...holding, role, file: file as StoredFile })));
  await record.events.change(event, { pictureBox: chosen.box, chosenBy: chosen.by }, transaction);
  const notified = (await record.jobs.notifiedOf(event, transaction)).filter(({ lane }) =>
    channels.some((c) => c.fillsIn === true && lane.startsWith(laneOf(c.name, ''))),
  );
  const fillIn = { kind: 'fill-in' as const, event };
  await record.jobs.add(
    notified.map(({ alert, target, lane }) => ({ ...fillIn, alert, target, lane })),
    machine,
    transaction,
  );
  return true;
}
