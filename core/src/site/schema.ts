// The site file as JSON Schema 2020-12. The types of this folder come from it; docs/site.schema.json is written from it.

import { cameraSchema } from './camera-schema';
import { aiSchema } from './ai-schema';
import { channelsSchema, personSchema, receiversSchema } from './people-schema';
import { readingSchema, reminderSchema } from './readings-schema';
import { retentionSchema } from './retention-schema';
import { ruleSchema } from './rule-schema';
import { closed, date, id, list, name, ofTheWeek, point, spans, switches } from './words-schema';

const seconds = (maximum: number) => ({ type: 'number', minimum: 0, maximum }) as const;
const aDay = 86_400;

export const scheduleSchema = {
  type: 'object',
  ...closed,
  required: ['id', 'name'],
  properties: {
    id,
    name,
    weekly: ofTheWeek(spans),
    /** `calendar`: the calendar file that one came from; read again, it is replaced. */
    exceptions: list({
      type: 'object',
      ...closed,
      required: ['date', 'spans'],
      properties: { date, name, spans, calendar: name },
    } as const),
    /** On whenever those hours are not. */
    outside: id,
  },
} as const;

const modeSchema = {
  type: 'object',
  ...closed,
  required: ['id', 'name', 'armed'],
  properties: {
    id,
    name,
    armed: { type: 'boolean' },
    exitDelaySeconds: seconds(3600),
    entryDelaySeconds: seconds(3600),
    /** After so long an alarm ends by itself and the area is armed again; until a person ends it if absent. */
    alarmSeconds: seconds(aDay),
    /** Who may end an alarm: people or roles; everyone if absent. */
    endedBy: list(id),
  },
} as const;

const modeScheduleSchema = {
  type: 'object',
  ...closed,
  required: ['id', 'areas', 'weekly'],
  properties: {
    id,
    areas: { type: 'array', minItems: 1, uniqueItems: true, items: id },
    weekly: ofTheWeek(switches),
    exceptions: list({ type: 'object', ...closed, required: ['date', 'switches'], properties: { date, name, switches } } as const),
  },
} as const;

const connectionSchema = {
  type: 'object',
  ...closed,
  properties: {
    periodSeconds: { type: 'number', minimum: 1, maximum: 3600 },
    alertAfter: { type: 'integer', minimum: 1, maximum: 1000 },
    reopenAfter: { type: 'integer', minimum: 1, maximum: 1000 },
    restartAfter: { type: 'integer', minimum: 1, maximum: 1000 },
    /** How often an alert about a lost camera is repeated until it is back; once if absent. */
    repeatSeconds: { type: 'number', minimum: 60, maximum: aDay },
    /** More changes an hour than this are one event: it flaps. */
    changesAnHour: { type: 'integer', minimum: 2, maximum: 1000 },
  },
} as const;

/** The name of a picture in the picture store. */
const pictureName = { type: 'string', pattern: '^[0-9a-f]{40}\\.jpg$' } as const;

/** The plan on which cameras stand; its up counts as north. `covers` is what should be covered, as shares of it from the upper left. */
export const planSchema = {
  type: 'object',
  ...closed,
  required: ['widthMetres', 'heightMetres'],
  properties: {
    widthMetres: { type: 'number', exclusiveMinimum: 0, maximum: 10_000 },
    heightMetres: { type: 'number', exclusiveMinimum: 0, maximum: 10_000 },
    picture: pictureName,
    covers: { type: 'array', items: point },
  },
} as const;

export const siteSchema = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: 'Nibber site file',
  type: 'object',
  ...closed,
  required: ['nibber', 'site', 'areas', 'cameras'],
  properties: {
    nibber: { const: 2 },
    site: {
      type: 'object',
      ...closed,
      required: ['name', 'timezone'],
      properties: {
        name,
        timezone: { type: 'string' },
        latitude: { type: 'number', minimum: -90, maximum: 90 },
        longitude: { type: 'number', minimum: -180, maximum: 180 },
      },
    },
    areas: list({
      type: 'object',
      ...closed,
      required: ['id', 'name'],
      /** Events of the same class within `threadSeconds` of one another are one thread: one sound. */
      properties: { id, name, threadSeconds: seconds(aDay) },
    } as const),
    people: list(personSchema),
    /** Other programs that get alerts. Their ids and those of people are unique. */
    receivers: receiversSchema,
    /** How people and programs are reached; `restSeconds` is the least time between two alerts of one rule by a channel. */
    channels: channelsSchema,
    /** What is asked about pictures, and of which service. */
    ai: aiSchema,
    /** Things and people that are known when they return. `?` stands for any one character. */
    known: list({
      type: 'object',
      ...closed,
      required: ['id', 'name'],
      properties: {
        id,
        name,
        plate: { type: 'string', minLength: 1, maxLength: 16 },
        picture: pictureName,
        fields: { type: 'object', maxProperties: 12, additionalProperties: { type: 'string', minLength: 1, maxLength: 80 } },
      },
    } as const),
    schedules: list(scheduleSchema),
    modes: list(modeSchema),
    modeSchedules: list(modeScheduleSchema),
    connection: connectionSchema,
    sensors: list({
      type: 'object',
      ...closed,
      required: ['id', 'name', 'area', 'kind'],
      properties: { id, name, area: id, kind: { enum: ['door', 'motion', 'leak', 'sound'] } },
    } as const),
    plan: planSchema,
    cameras: list(cameraSchema),
    rules: list(ruleSchema),
    readings: { ...list(readingSchema), maxItems: 200 },
    reminders: { ...list(reminderSchema), maxItems: 200 },
    /** How long what is stored is kept, and how full the disk may be. */
    retention: retentionSchema,
  },
} as const;
