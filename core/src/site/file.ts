// What a site is set up as. Types come from the schema; `compile.ts` makes it ready for the sieve.

import type { FromSchema } from 'json-schema-to-ts';
import type { ClassName } from '../boxes';
import type { capabilityNames, aimSchema, cameraSchema, lineSchema, tuningSchema, zoneSchema } from './camera-schema';
import type { aiUses } from './ai-schema';
import type { promptSchema, looksSchema, ruleSchema } from './rule-schema';
import type { roles } from './people-schema';
import type { planSchema, siteSchema } from './schema';

export type SiteFile = FromSchema<typeof siteSchema>;
export type Rule = FromSchema<typeof ruleSchema>;
export type Zone = FromSchema<typeof zoneSchema>;
export type Line = FromSchema<typeof lineSchema>;
export type AskedLooks = FromSchema<typeof looksSchema>;
export type Prompt = FromSchema<typeof promptSchema>;
export type AskedField = NonNullable<Prompt['fields']>[number];
export type AimFile = FromSchema<typeof aimSchema>;
export type PlanFile = FromSchema<typeof planSchema>;
export type TuningFile = FromSchema<typeof tuningSchema>;
export type Camera = FromSchema<typeof cameraSchema>;
export type CapabilityName = (typeof capabilityNames)[number];
export type Orientation = NonNullable<Camera['orientation']>;
export type Paired = Extract<Camera['source'], { kind: 'paired' }>;
export type Streamed = Extract<Camera['source'], { kind: 'streamed' }>;
export type Role = (typeof roles)[number];
export type Channels = NonNullable<SiteFile['channels']>;
export type AiService = NonNullable<NonNullable<SiteFile['ai']>['services']>[number];
export type AiUse = (typeof aiUses)[number];
export type Reading = NonNullable<SiteFile['readings']>[number];
export type Reminder = NonNullable<SiteFile['reminders']>[number];
export type Receiver = NonNullable<SiteFile['receivers']>[number];
export type Schedule = NonNullable<SiteFile['schedules']>[number];
export type Person = NonNullable<SiteFile['people']>[number];
export type Mode = NonNullable<SiteFile['modes']>[number];

/** Whether a rule that names these classes or types means this thing. */
export const means = (names: ReadonlySet<string>, cls: ClassName, type: string | undefined): boolean =>
  names.has(cls) || (type !== undefined && names.has(type));

/** The people that a rule's `to` names: one by id, or all of a role. */
export const peopleNamed = (file: SiteFile, to: string): readonly Person[] =>
  (file.people ?? []).filter((p) => p.id === to || p.role === to);
