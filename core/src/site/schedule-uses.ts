// What a plan of hours is used by.

import type { SiteFile } from '.';

export type HoursUse = { readonly kind: 'rule' | 'quiet hours' | 'hours'; readonly id: string; readonly name: string };

/** The rules that are on by it, the people whose quiet hours it is, the hours that are on whenever it is not. */
export const usesOfHours = ({ rules = [], people = [], hours = [] }: SiteFile, id: string): HoursUse[] => [
  ...rules.filter((r) => r.hours === id).map((r): HoursUse => ({ kind: 'rule', id: r.id, name: r.name })),
  ...people.filter((p) => p.quietHours === id).map((p): HoursUse => ({ kind: 'quiet hours', id: p.id, name: p.name })),
  ...hours.filter((h) => h.outside === id).map((h): HoursUse => ({ kind: 'hours', id: h.id, name: h.name })),
];
