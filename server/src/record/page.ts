// Pages of lists that grow at their head: by time and then by id, so that of several at the same instant none is left out between two.

import { Op, type FindOptions } from 'sequelize';
import type { Instant } from '@nibber/core/time';

/** What comes before this place in the list. */
export type Before = { readonly at: Instant; readonly id: string };

export type PageAsked = {
  readonly before: Before;
  readonly camera?: string | undefined;
  readonly class?: string | undefined;
  readonly most: number;
};

export const filteredPage = (time: 'at' | 'lastSeen', { before, camera, class: cls, most }: PageAsked, more: object): FindOptions => ({
  where: {
    ...more,
    ...(camera ? { camera } : {}),
    ...(cls ? { class: cls } : {}),
    [Op.or]: [{ [time]: { [Op.lt]: before.at } }, { [time]: before.at, id: { [Op.lt]: before.id } }],
  },
  order: [
    [time, 'DESC'],
    ['id', 'DESC'],
  ],
  limit: most,
});
