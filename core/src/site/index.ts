// What a site is set up as. Types come from the schema; `compile.ts` makes it ready for the sieve.

export * from './file';
export { capabilityNames, aimSchema, cameraSchema, tuningSchema, zoneSchema } from './camera-schema';
export { aiSchema, aiServiceSchema, aiUses } from './ai-schema';
export { channelsSchema, personSchema, receiverSchema, roles } from './people-schema';
export { readingSchema, reminderSchema } from './readings-schema';
export { promptSchema, ruleSchema } from './rule-schema';
export { retentionSchema } from './retention-schema';
export { scheduleSchema, planSchema, siteSchema } from './schema';
export { compileSchedule, compileSite, minConfidence, noMode, ruleKey, defaultGraceSeconds } from './compile';
export { usesOfSchedule, type ScheduleUse } from './schedule-uses';
export type {
  Behaviour,
  CompiledCamera,
  CompiledRule,
  CompiledSensor,
  CompiledSite,
  IgnoredPart,
  LooksAsked,
  Returning,
  RuleSchedule,
  Spot,
  WatchedLine,
  WatchedZone,
} from './compiled';
