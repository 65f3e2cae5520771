// What a site is set up as. Types come from the schema; `compile.ts` makes it ready for the sieve.

import type { FromSchema } from 'json-schema-to-ts';
import type { ClassName } from '../boxes';
import type { abilityNames, aimSchema, cameraSchema, lineSchema, tuningSchema, zoneSchema } from './camera-schema';
import type { describingUses } from './describing-schema';
import type { asksSchema, looksSchema, ruleSchema } from './rule-schema';
import type { roles } from './people-schema';
import type { planSchema, siteSchema } from './schema';

export { abilityNames, aimSchema, cameraSchema, tuningSchema, zoneSchema } from './camera-schema';
export { describingSchema, describingServiceSchema, describingUses } from './describing-schema';
export { channelsSchema, personSchema, receiverSchema, roles } from './people-schema';
export { readingSchema, reminderSchema } from './readings-schema';
export { asksSchema, ruleSchema } from './rule-schema';
export { hoursSchema, planSchema, siteSchema } from './schema';
export { compileHours, compileSite, leastConfidence, noMode, ruleKey, usualGraceSeconds } from './compile';
export { usesOfHours, type HoursUse } from './schedule-uses';
export type {
  Behaviour,
  CompiledCamera,
  CompiledRule,
  CompiledSensor,
  CompiledSite,
  IgnoredPart,
  LooksAsked,
  Returning,
  RuleHours,
  Spot,
  WatchedLine,
  WatchedZone,
} from './compiled';

export type SiteFile = FromSchema<typeof siteSchema>;
export type Rule = FromSchema<typeof ruleSchema>;
export type Zone = FromSchema<typeof zoneSchema>;
export type Line = FromSchema<typeof lineSchema>;
export type AskedLooks = FromSchema<typeof looksSchema>;
export type Asks = FromSchema<typeof asksSchema>;
export type AskedField = NonNullable<Asks['fields']>[number];
export type AimFile = FromSchema<typeof aimSchema>;
export type PlanFile = FromSchema<typeof planSchema>;
export type TuningFile = FromSchema<typeof tuningSchema>;
export type Camera = FromSchema<typeof cameraSchema>;
export type AbilityName = (typeof abilityNames)[number];
export type Shown = NonNullable<Camera['shown']>;
export type Paired = Extract<Camera['source'], { kind: 'paired' }>;
export type Streamed = Extract<Camera['source'], { kind: 'streamed' }>;
export type Role = (typeof roles)[number];
export type Channels = NonNullable<SiteFile['channels']>;
export type DescribingService = NonNullable<NonNullable<SiteFile['describing']>['services']>[number];
export type DescribingUse = (typeof describingUses)[number];
export type Reading = NonNullable<SiteFile['readings']>[number];
export type Reminder = NonNullable<SiteFile['reminders']>[number];
export type Receiver = NonNullable<SiteFile['receivers']>[number];
export type Hours = NonNullable<SiteFile['hours']>[number];
export type Person = NonNullable<SiteFile['people']>[number];
export type Mode = NonNullable<SiteFile['modes']>[number];

/** Whether a rule that names these classes or types means this thing. */
export const means = (names: ReadonlySet<string>, cls: ClassName, type: string | undefined): boolean =>
  names.has(cls) || (type !== undefined && names.has(type));

/** The people that a rule's `to` names: one by id, or all of a role. */
export const peopleNamed = (file: SiteFile, to: string): readonly Person[] =>
  (file.people ?? []).filter((p) => p.id === to || p.role === to);
