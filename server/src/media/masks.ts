// Privacy masks hold from the moment they are saved, also for pictures that were taken just before and are only kept now.

import type { Camera } from '@nibber/core/site';
import type { Clock } from '../base/clock';
import type { SiteBook } from '../db/site';
import { masked, safeWayOf } from './safe';
import type { SafePicture } from '../base/picture';

export type Masks = {
  /** The picture with the masks of now. @throws never for a picture that was decoded once */
  upToDate(picture: SafePicture): Promise<SafePicture>;
};

/** A picture may be under way in the decoder for so long. */
const underWayMs = 5000;

/** @param forget called where pictures that were taken in must not be seen any more */
export function holdMasks(site: SiteBook, clock: Clock, forget: (camera: string) => void): Masks {
  const privacyOf = (c: Camera) => JSON.stringify(safeWayOf(c).privacy);
  const known = new Map(site.file.cameras.map((c) => [c.id, privacyOf(c)]));
  const changedAt = new Map<string, number>();
  site.onChange((change) => {
    if (change.kind !== 'site') return;
    for (const camera of site.file.cameras) {
      const [before, now] = [known.get(camera.id), privacyOf(camera)];
      known.set(camera.id, now);
      if (before === undefined || before === now) continue;
      changedAt.set(camera.id, clock.now());
      forget(camera.id);
    }
  });
  return {
    async upToDate(picture) {
      const since = changedAt.get(picture.camera);
      const camera = site.file.cameras.find((c) => c.id === picture.camera);
      if (since === undefined || !camera || picture.at > since + underWayMs) return picture;
      return { ...picture, jpeg: Buffer.from(await masked(picture.jpeg, safeWayOf(camera).privacy)) };
    },
  };
}
