// The recorded week of the landing, made at the first start: the stage's script through the very sieve and keeper that run live, with a picture
// drawn only where one is kept. The same seed gives the same week.

import { machineClock } from '@nibber/server/base/clock';
import { theProgram } from '@nibber/core/permissions';
import { setTimeout as pause } from 'node:timers/promises';
import { Op } from 'sequelize';
import sharp from 'sharp';
import { composer } from '@nibber/standins/cameras/compose';
import { depth } from '@nibber/standins/cameras/sheets';
import { plainCameras, type PlainCamera } from '@nibber/standins/cameras/view';
import { framesOf, lightAt, scriptOf, thereAt } from '@nibber/standins/stage/week';
import { laneOf, startFollow } from '@nibber/server/tracking/index';
import type { Change } from '@nibber/server/base/events';
import { startPersist } from '@nibber/server/persist/index';
import type { Masks } from '@nibber/server/media/masks';
import { openClipBuffer } from '@nibber/server/media/clip-buffer';
import { masked, safeWayOf } from '@nibber/server/media/safe';
import { openBus } from '@nibber/server/base/bus';
import type { Record } from '@nibber/server/db/index';
import { openSiteBook } from '@nibber/server/db/site';
import type { Channel } from '@nibber/server/notify/channels/index';
import { throwing } from '@nibber/server/base/failures';

const seed = 11;
const pictureWidth = 640;
/** Things that may wait to be written. */
const maxPending = 24;
/** What takes longer was set aside; the rest goes on. */
const longestWriteMs = 10_000;
const tickMs = 1000;
/** The sieve's time runs a little behind its input, as it does live. */
const restMs = 1000;

export type WeekNeeds = {
  readonly record: Record;
  readonly siteText: string;
  /** Where the week ends: now at the place. */
  readonly to: number;
  readonly zone: string;
  /** The share that is done, 0..1. */
  readonly progress: (done: number) => void;
};

export async function recordWeek({ record, siteText, to, zone, progress }: WeekNeeds): Promise<void> {
  const week = scriptOf(to, zone, seed);
  let now = week.from;
  const clock = { ...machineClock(), now: () => now, machine: () => now };
  const site = await openSiteBook(record, clock);
  await site.replace(siteText, { by: theProgram('Site file'), what: 'applied withy-landing.yaml' });

  const lenses = new Map(await Promise.all(plainCameras.map(async (name) => [name, await composer(name)] as const)));
  const depths = Object.fromEntries(await Promise.all(plainCameras.map(async (n) => [n, await depth(n)] as const))) as never;
  const drawn = async (name: PlainCamera, at: number): Promise<Buffer> => {
    const [lens, light] = [lenses.get(name)!, lightAt(at, zone)];
    const made = await lens.compose(thereAt(week, at), light, pictureWidth);
    const { width, height, data } = made?.pixels ?? (await lens.empty(light, pictureWidth));
    const jpeg = await sharp(data, { raw: { width, height, channels: 3 } })
      .jpeg({ quality: 80 })
      .toBuffer();
    const camera = site.file.cameras.find((c) => c.id === name)!;
    return Buffer.from(await masked(jpeg, safeWayOf(camera).privacy));
  };
  const masks: Masks = {
    upToDate: async (picture) => ({ ...picture, jpeg: await drawn(picture.camera as PlainCamera, picture.at) }),
  };
  // The phone took everything; nothing of it is sent again.
  const notifiedThen: Channel = {
    name: 'push',
    reach: async () => ({ of: () => ['then'], why: () => '' }),
    recipientOf: async () => undefined,
    fillsIn: true,
    send: async () => ({ kind: 'accepted' }),
  };
  let [given, written] = [0, 0];
  let room = () => {};
  const persist = await startPersist({
    record,
    site,
    clock,
    masks,
    recent: openClipBuffer(openBus(throwing)),
    channels: [notifiedThen],
    canMakeClips: false,
    // No one else waits for the machine yet.
    budgets: { spend: async () => {} },
    stored({ kind }) {
      if (kind === 'clip') return;
      written++;
      room();
    },
  });
  const follow = startFollow(site, [], { detections: record.detections, now: () => now });
  const take = (changes: readonly Change[]) => {
    for (const change of changes) {
      given += change.kind === 'better' ? change.events.length : 1;
      void persist.commit({ lane: laneOf(change), changes: [change] });
    }
  };
  site.onChange((change) => take(follow.changed(change)));
  const jpeg = Buffer.alloc(0);
  let nextSwitch = 0;
  let tickedAt = now;
  const goTo = async (at: number) => {
    // While no one is there a few ticks are enough to end what was followed.
    for (let tick = tickedAt + tickMs; tick <= Math.min(at, tickedAt + 70_000); tick += tickMs) take(follow.tick((now = tick) - restMs));
    for (; nextSwitch < week.switches.length && week.switches[nextSwitch]!.at <= at; nextSwitch++) {
      const { at: since, mode, by } = week.switches[nextSwitch]!;
      now = Math.max(now, since);
      await site.setMode('landing', mode, { name: by });
    }
    if (at - tickedAt >= tickMs) take(follow.tick((tickedAt = at) - restMs));
    now = at;
  };
  for (const frame of framesOf(week, zone, seed + 1, depths)) {
    if (frame.at - tickedAt >= tickMs) {
      await goTo(frame.at);
      progress((frame.at - week.from) / (to - week.from));
      for (let before = -1; given - written > maxPending && written > before;) {
        before = written;
        await Promise.race([new Promise<void>((resolve) => (room = resolve)), pause(longestWriteMs)]);
      }
    }
    now = Math.max(now, frame.at);
    const picture = {
      camera: frame.camera,
      at: frame.at,
      jpeg,
      motion: { parts: [], share: 0, isLightChange: false },
      isInfrared: lightAt(frame.at, zone) === 'night',
    };
    // What stands whole in the picture, near its middle, shows best.
    take(follow.watched({ picture, frame, sightings: frame.objects.map((o) => ({ ...o, quality: o.score * o.box[3] * wholeIn(o.box) })) }));
  }
  await goTo(to);
  take(follow.stop((now = to)));
  await persist.close();
  await settle(record);
  progress(1);
}

const wholeIn = ([x, y, w, h]: readonly [number, number, number, number]) => {
  const seen = Math.max(0, Math.min(1, x + w) - Math.max(0, x)) * Math.max(0, Math.min(1, y + h) - Math.max(0, y));
  return (seen / (w * h)) ** 2;
};

/** All alerts were sent then: nothing is due, and there were no clips. */
const settle = ({ tables, sequelize, write }: Record): Promise<void> =>
  write(async (transaction) => {
    await tables.outbox.destroy({ where: {}, transaction });
    await sequelize.query(
      `UPDATE alerts SET state = 'sent', sentAt = (SELECT at FROM events WHERE events.id = alerts.event) + 900 WHERE state = 'waiting'`,
      { transaction },
    );
    await tables.events.update(
      { clipProblem: 'Of the recorded week only pictures are kept.' },
      { where: { kind: { [Op.in]: ['track', 'zone'] } }, transaction },
    );
  });
