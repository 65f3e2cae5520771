// Readings and reminders of the site file as JSON Schema.

import { channelNames } from '../channels';
import { classes, typeNames } from '../boxes';
import { closed, id, name } from './words-schema';

const end = { type: 'string', pattern: '^([01]\\d|2[0-3]):[0-5]\\d$|^(sunrise|sunset)( ?[+-] ?\\d{1,3} ?min)?$' } as const;
const days = {
  type: 'array',
  minItems: 1,
  maxItems: 7,
  uniqueItems: true,
  items: { enum: ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] },
} as const;
const at = { type: 'array', minItems: 1, maxItems: 24, uniqueItems: true, items: end } as const;
const number = { type: 'number', minimum: -1_000_000, maximum: 1_000_000 } as const;
const text = { type: 'string', minLength: 1, maxLength: 80 } as const;

/** What is read off one picture of a camera, at set times or when it is asked for. */
export const readingSchema = {
  type: 'object',
  ...closed,
  required: ['id', 'name', 'camera', 'by'],
  properties: {
    id,
    name,
    camera: id,
    by: {
      anyOf: [
        {
          type: 'object',
          ...closed,
          required: ['question', 'kind'],
          properties: {
            /** What an AI service is asked. */
            question: { type: 'string', minLength: 3, maxLength: 300 },
            kind: { enum: ['number', 'one of', 'yes or no', 'text'] },
            of: { type: 'array', minItems: 2, maxItems: 24, uniqueItems: true, items: text },
          },
        },
        {
          type: 'object',
          ...closed,
          required: ['counts'],
          properties: {
            /** The detector counts things of a class, or of a type, in a zone or in the whole picture. */
            counts: { enum: [...classes, ...typeNames] },
            zone: id,
          },
        },
      ],
    },
    /** Of a number: what it is counted in, and between what it can be at all. */
    unit: { type: 'string', minLength: 1, maxLength: 20 },
    min: number,
    max: number,
    /** Where it should be. */
    target: { type: 'object', ...closed, minProperties: 1, properties: { min: number, max: number } },
    times: {
      type: 'object',
      ...closed,
      minProperties: 1,
      properties: {
        at,
        everyMinutes: { type: 'integer', minimum: 1, maximum: 1440 },
        /** On these days of the week alone. */
        days,
        /** While these hours are on. */
        schedule: id,
        /** So long after the area of its camera is set to one of these. */
        afterMode: {
          type: 'object',
          ...closed,
          required: ['modes', 'minutes'],
          properties: {
            modes: { type: 'array', minItems: 1, uniqueItems: true, items: id },
            minutes: { type: 'integer', minimum: 0, maximum: 1440 },
          },
        },
      },
    },
  },
} as const;

/** Who is reminded of a reading, from when on, and how often again until it is resolved. */
export const reminderSchema = {
  type: 'object',
  ...closed,
  required: ['id', 'name', 'reading', 'is', 'notify'],
  properties: {
    id,
    name,
    on: { type: 'boolean' },
    reading: id,
    is: {
      type: 'object',
      ...closed,
      minProperties: 1,
      properties: { under: number, over: number, equal: { anyOf: [text, { type: 'boolean' }] } },
    },
    /** Looked at then; whenever it is read if absent. */
    at,
    days,
    /** On days on which these hours are on at some time. */
    openDays: id,
    /** It must have been so for as long. */
    forMinutes: { type: 'integer', minimum: 1, maximum: 1440 },
    againMinutes: { type: 'integer', minimum: 1, maximum: 1440 },
    /** Not repeated after this. */
    until: end,
    urgent: { type: 'boolean' },
    notify: {
      type: 'array',
      minItems: 1,
      items: { type: 'object', ...closed, required: ['to', 'channel'], properties: { to: id, channel: { enum: channelNames } } },
    },
  },
} as const;
