// Pictures of the site's plan. The site file names the one that is used; of those that were sent and are not used the newest is kept.

import type { Database } from './database';
import type { StoredFile } from '../base/picture';
import type { Media } from './media';

export type Plans = {
  /** @param used the one that the site file names */
  hold(picture: StoredFile, used: string | undefined): Promise<void>;
};

export const openPlans = ({ tables, write }: Database, media: Media): Plans => ({
  hold: (picture, used) =>
    write(async (transaction) => {
      const held = await tables.media.findAll({ attributes: ['holderId'], where: { holder: 'plan' }, transaction, raw: true });
      const over = held.map((m) => m.holderId).filter((name) => name !== used && name !== picture.name);
      const holding = { holder: 'plan', role: 'picture', camera: null, takenAt: null } as const;
      await media.hold(transaction, { ...holding, holderId: picture.name, file: picture });
      await media.letGo(transaction, 'plan', over);
    }),
});
