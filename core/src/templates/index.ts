// What a new site begins with: areas, modes and hours for a home, a shop, or a shop with a flat above. All of it can be changed afterwards.

import type { SiteFile } from '../site';

export const beginningKinds = ['home', 'shop', 'shop-and-flat'] as const;
export type BeginningKind = (typeof beginningKinds)[number];
export type Beginning = Required<Pick<SiteFile, 'areas' | 'modes' | 'hours'>>;

/** The first area keeps the id of that of an empty site, since a camera may stand in it already. */
const first = 'main';
const workdays = ['mon', 'tue', 'wed', 'thu', 'fri'] as const;
const everyDay = [...workdays, 'sat', 'sun'] as const;
const on = (days: readonly (typeof everyDay)[number][], span: string) => Object.fromEntries(days.map((day) => [day, [span]]));

const night = { id: 'night', name: 'Night', weekly: on(everyDay, '22:30-06:30') };
const opening = { id: 'opening', name: 'Opening hours', weekly: { ...on(workdays, '09:00-17:30'), sat: ['09:00-13:00'] } };
const notOpening = { id: 'not-opening', name: 'Outside opening hours', outside: 'opening' };
const [open, closed] = [
  { id: 'open', name: 'Open', armed: false },
  { id: 'closed', name: 'Closed', armed: true },
];
const sleeping = { id: 'night', name: 'Night', armed: true };

const beginnings: Readonly<Record<BeginningKind, Beginning>> = {
  home: {
    areas: [{ id: first, name: 'Home' }],
    modes: [{ id: 'in', name: 'Someone in', armed: false }, sleeping, { id: 'out', name: 'Everyone out', armed: true }],
    hours: [night],
  },
  shop: { areas: [{ id: first, name: 'Shop' }], modes: [open, closed], hours: [opening, notOpening] },
  'shop-and-flat': {
    areas: [
      { id: first, name: 'Shop' },
      { id: 'flat', name: 'Flat' },
    ],
    modes: [open, closed, sleeping],
    hours: [opening, notOpening, night],
  },
};

export const beginningOf = (kind: BeginningKind): Beginning => beginnings[kind];

/** Whether a site has still what it was made with, and nothing that hangs on it. */
export const canBegin = ({ rules = [], hours = [], switching = [] }: SiteFile): boolean =>
  rules.length === 0 && hours.length === 0 && switching.length === 0;
