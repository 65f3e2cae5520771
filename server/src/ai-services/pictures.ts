// What of an event's pictures goes to an AI service: the whole with the thing framed, the thing close up, or both, and the same at other
// moments of its track. All of them are cut from pictures that have their masks burnt in.

import sharp from 'sharp';
import { shownOf, type Shown } from '@nibber/core/describing';
import { grown, inPixels, type Box } from '@nibber/core/boxes';
import { spreadOver } from '@nibber/core/stills';
import type { Prompt } from '@nibber/core/site';
import type { EventRow, Record } from '../db';
import { isByInfrared } from '../media/small';
import type { Picture } from './conversation';

export type Sendable = { readonly pictures: readonly Picture[]; readonly shown: Shown; readonly isInfrared: boolean };

/** A plate or lettering needs its pixels: nothing is made larger than it was taken. */
const maxWhole = 1280;
const maxClose = 960;
const margin = 1.5;

/** @returns why none can be sent, in words, where that is so */
export async function sendableOf(
  media: Record['media'],
  event: Pick<EventRow, 'id' | 'pictureBox' | 'snapshots'>,
  prompt: Prompt,
): Promise<Sendable | { readonly why: string }> {
  const held = (await media.of('event', [event.id])).get(event.id);
  if (!held?.picture || !held.marked || !event.pictureBox) return { why: 'No picture of it.' };
  const read = await Promise.all([media.read(held.picture.name), media.read(held.marked.name)]).catch(() => undefined);
  if (!read) return { why: 'The picture is no longer stored.' };
  const [picture, marked] = read;
  const { isWhole, close } = shownOf(prompt);
  const own = held.picture.takenAt;
  const snapshots = (event.snapshots ?? []).flatMap(({ at, box, quality }, i) =>
    held[`snapshot ${i}`] && at !== own ? [{ at, box, quality, name: held[`snapshot ${i}`]!.name }] : [],
  );
  const others = close > 1 ? spreadOver(snapshots, close - 1) : [];
  const closeUps = close === 0 ? [] : [await closeUp(picture, event.pictureBox)];
  for (const { name, box } of others) {
    // One that is gone meanwhile is one fewer.
    const jpeg = await media.read(name).catch(() => undefined);
    if (jpeg) closeUps.push(await closeUp(jpeg, box));
  }
  const whole = isWhole ? [await wholeOf(marked)] : [];
  return {
    pictures: [...whole, ...closeUps].map((jpeg) => ({ jpeg })),
    shown: { isWhole, close: closeUps.length },
    isInfrared: await isByInfrared(picture),
  };
}

/** The whole, with the thing framed. */
export async function wholeOf(marked: Buffer): Promise<Buffer> {
  const { width } = await sharp(marked).metadata();
  return width <= maxWhole ? marked : sharp(marked).resize({ width: maxWhole }).jpeg({ quality: 88 }).toBuffer();
}

/** The thing with some of what stands around it. */
export async function closeUp(jpeg: Buffer, box: Box): Promise<Buffer> {
  const { width, height } = await sharp(jpeg).metadata();
  const cut = sharp(jpeg).extract(inPixels(grown(box, margin), width, height));
  return cut.resize({ width: maxClose, height: maxClose, fit: 'inside', withoutEnlargement: true }).jpeg({ quality: 92 }).toBuffer();
}
