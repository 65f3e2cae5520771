// What a schedule is used by.

import type { SiteFile } from './file';

export type ScheduleUse = { readonly kind: 'rule' | 'quiet hours' | 'schedule'; readonly id: string; readonly name: string };

/** The rules that are on by it, the people whose quiet hours it is, the hours that are on whenever it is not. */
export const usesOfSchedule = ({ rules = [], people = [], schedules = [] }: SiteFile, id: string): ScheduleUse[] => [
  ...rules.filter((r) => r.schedule === id).map((r): ScheduleUse => ({ kind: 'rule', id: r.id, name: r.name })),
  ...people.filter((p) => p.quietHours === id).map((p): ScheduleUse => ({ kind: 'quiet hours', id: p.id, name: p.name })),
  ...schedules.filter((h) => h.outside === id).map((h): ScheduleUse => ({ kind: 'schedule', id: h.id, name: h.name })),
];
