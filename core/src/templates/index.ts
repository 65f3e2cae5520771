// What a new site begins with: areas, modes and hours for a home, a shop, or a shop with a flat above. All of it can be changed afterwards.

import type { SiteFile } from '../site';

export const templateKinds = ['home', 'shop', 'shop-and-flat'] as const;
export type TemplateKind = (typeof templateKinds)[number];
export type Template = Required<Pick<SiteFile, 'areas' | 'modes' | 'schedules'>>;

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

const templates: Readonly<Record<TemplateKind, Template>> = {
  home: {
    areas: [{ id: first, name: 'Home' }],
    modes: [{ id: 'in', name: 'Someone in', armed: false }, sleeping, { id: 'out', name: 'Everyone out', armed: true }],
    schedules: [night],
  },
  shop: { areas: [{ id: first, name: 'Shop' }], modes: [open, closed], schedules: [opening, notOpening] },
  'shop-and-flat': {
    areas: [
      { id: first, name: 'Shop' },
      { id: 'flat', name: 'Flat' },
    ],
    modes: [open, closed, sleeping],
    schedules: [opening, notOpening, night],
  },
};

export const templateOf = (kind: TemplateKind): Template => templates[kind];

/** Whether a site has still what it was made with, and nothing that hangs on it. */
export const canBegin = ({ rules = [], schedules = [], modeSchedules = [] }: SiteFile): boolean =>
  rules.length === 0 && schedules.length === 0 && modeSchedules.length === 0;
