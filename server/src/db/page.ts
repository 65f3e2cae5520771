// Pages of lists that grow at their head: by time and then by id, so that of several at the same instant none is left out between two.

import { Op, type FindOptions } from 'sequelize';
import type { Instant } from '@nibber/core/time';

/** What comes before this place in the list. */
export type Before = { readonly at: Instant; readonly id: string };

/** What someone sees who does not see everything: these cameras, and what is of none in these areas. */
export type SeenPart = { readonly cameras: readonly string[]; readonly areas: readonly string[] };

/** The condition of an event that it is seen; nothing is asked of one who sees everything. */
export const whereSeen = (seen: SeenPart | undefined): object =>
  seen ? { [Op.or]: [{ camera: [...seen.cameras] }, { camera: null, area: [...seen.areas] }] } : {};

export type PageAsked = {
  readonly seen?: SeenPart | undefined;
  readonly before: Before;
  readonly camera?: string | undefined;
  readonly class?: string | undefined;
  readonly max: number;
};

export const filteredPage = (time: 'at' | 'lastSeen', { before, camera, class: cls, max }: PageAsked, more: object): FindOptions => ({
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
  limit: max,
});
