// A picture for a reading: one that is not older than the question where the camera can give it, else the newest there is, with its age.

import type { Camera } from '@nibber/core/site';
import { freshStill } from '../intake/fresh';
import type { Recordings } from '../intake/recordings';
import type { Masks } from '../media/masks';
import type { ClipBuffer } from '../media/clip-buffer';
import { safePicture, safeWayOf } from '../media/safe';
import { isByInfrared } from '../media/small';
import type { Ground } from '../db/ground';

export type ReadingPicture = { readonly jpeg: Buffer; readonly takenAt: number; readonly isInfrared: boolean };

type Needs = Pick<Ground, 'clock' | 'cameraLogins'> & {
  readonly recent: ClipBuffer;
  readonly masks: Masks;
  readonly recordings: Recordings;
};

/** A stream's newest picture is as fresh as that. */
const freshMs = 2000;
const patienceMs = 10_000;

/** @returns why there is none, in words, where that is so */
export async function pictureFor(needs: Needs, camera: Camera, end: AbortSignal): Promise<ReadingPicture | { readonly why: string }> {
  const { clock, recent, masks, cameraLogins, recordings } = needs;
  const askedAt = clock.now();
  const safe = async (picture: NonNullable<ReturnType<ClipBuffer['latest']>>): Promise<ReadingPicture> => {
    const { jpeg, at, isInfrared } = await masks.upToDate(picture);
    return { jpeg: Buffer.from(jpeg), takenAt: at, isInfrared };
  };
  const latest = recent.latest(camera.id);
  if (latest && askedAt - latest.at <= freshMs) return safe(latest);
  const still = camera.source.still;
  if (still) {
    const taken = await freshStill(recordings.resolve(still), await cameraLogins.of(camera.id, still), askedAt).catch(() => undefined);
    if (taken) {
      const jpeg = Buffer.from(await safePicture(taken.jpeg, safeWayOf(camera)));
      return { jpeg, takenAt: taken.takenAt, isInfrared: await isByInfrared(jpeg) };
    }
  } else if (camera.source.kind === 'streamed') {
    const next = await nextPicture(recent, camera.id, end);
    if (next) return safe(next);
  }
  const old = recent.latest(camera.id);
  return old ? safe(old) : { why: `No picture of ${camera.name}` };
}

const nextPicture = (recent: ClipBuffer, camera: string, end: AbortSignal) =>
  new Promise<ReturnType<ClipBuffer['latest']>>((resolve) => {
    const done = (picture: ReturnType<ClipBuffer['latest']>) => {
      clearTimeout(timer);
      stop();
      end.removeEventListener('abort', ended);
      resolve(picture);
    };
    const ended = () => done(undefined);
    const timer = setTimeout(ended, patienceMs);
    const stop = recent.onPicture(camera, done);
    end.addEventListener('abort', ended);
  });
