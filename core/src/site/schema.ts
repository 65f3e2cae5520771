// The site file as JSON Schema 2020-12. The types of site.ts come from it; docs/site.schema.json is written from it.

import { classes, typeNames } from '../boxes';

const id = { type: 'string', pattern: '^[a-z0-9][a-z0-9-]{0,39}$' } as const;
const name = { type: 'string', minLength: 1, maxLength: 80 } as const;
const share = { type: 'number', minimum: 0, maximum: 1 } as const;
const point = { type: 'array', items: { type: 'number' }, minItems: 2, maxItems: 2 } as const;
const spans = { type: 'array', maxItems: 48, items: { type: 'string', pattern: '^\\d{2}:\\d{2}-\\d{2}:\\d{2}$' } } as const;
const closed = { additionalProperties: false } as const;

export const zoneSchema = {
  type: 'object',
  ...closed,
  required: ['id', 'name', 'purpose', 'polygon'],
  properties: {
    id,
    name,
    purpose: { enum: ['watch', 'ignore', 'privacy'] },
    /** Of an ignored part: what is ignored there; everything if absent. */
    classes: { type: 'array', minItems: 1, items: { enum: [...classes, 'motion'] } },
    polygon: { type: 'array', items: point },
  },
} as const;

export const ruleSchema = {
  type: 'object',
  ...closed,
  required: ['id', 'name', 'cameras', 'classes', 'does'],
  properties: {
    id,
    name,
    on: { type: 'boolean' },
    cameras: { type: 'array', minItems: 1, uniqueItems: true, items: id },
    classes: { type: 'array', minItems: 1, uniqueItems: true, items: { enum: [...classes, ...typeNames] } },
    confidence: share,
    size: { type: 'object', ...closed, properties: { least: share, most: share } },
    anchor: {
      anyOf: [{ enum: ['feet', 'centre'] }, { type: 'object', ...closed, required: ['overlap'], properties: { overlap: share } }],
    },
    does: {
      type: 'object',
      ...closed,
      required: ['kind'],
      properties: {
        kind: { enum: ['appears', 'stays', 'goes'] },
        zone: id,
        from: id,
        to: id,
        either: { type: 'boolean' },
        frames: { type: 'integer', minimum: 1, maximum: 10000 },
        seconds: { type: 'number', minimum: 0, maximum: 86400 },
        graceSeconds: { type: 'number', minimum: 0, maximum: 3600 },
      },
    },
    modes: { type: 'array', uniqueItems: true, items: id },
    hours: id,
    restSeconds: { type: 'number', minimum: 0, maximum: 604800 },
    message: { type: 'object', ...closed, properties: { picture: { type: 'boolean' }, description: { type: 'boolean' } } },
    tell: {
      type: 'array',
      items: { type: 'object', ...closed, required: ['to', 'by'], properties: { to: id, by: { enum: ['push'] } } },
    },
  },
} as const;

const hoursSchema = {
  type: 'object',
  ...closed,
  required: ['id', 'name'],
  properties: {
    id,
    name,
    weekly: {
      type: 'object',
      ...closed,
      properties: { mon: spans, tue: spans, wed: spans, thu: spans, fri: spans, sat: spans, sun: spans },
    },
    exceptions: {
      type: 'array',
      items: {
        type: 'object',
        ...closed,
        required: ['date', 'spans'],
        properties: { date: { type: 'string', pattern: '^\\d{4}-\\d{2}-\\d{2}$' }, spans },
      },
    },
    /** On whenever those hours are not. */
    outside: id,
  },
} as const;

const cameraSchema = {
  type: 'object',
  ...closed,
  required: ['id', 'name', 'area', 'source'],
  properties: {
    id,
    name,
    area: id,
    source: {
      type: 'object',
      ...closed,
      required: ['kind', 'low'],
      properties: {
        kind: { enum: ['streamed'] },
        low: { type: 'string', pattern: '^https?://' },
        full: { type: 'string', pattern: '^https?://' },
        still: { type: 'string', pattern: '^https?://' },
      },
    },
    zones: { type: 'array', maxItems: 64, items: zoneSchema },
    lines: {
      type: 'array',
      items: {
        type: 'object',
        ...closed,
        required: ['id', 'name', 'points'],
        properties: { id, name, points: { type: 'array', minItems: 2, maxItems: 32, items: point } },
      },
    },
  },
} as const;

const list = <T>(items: T) => ({ type: 'array', items }) as const;

export const siteSchema = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: 'Nibber site file',
  type: 'object',
  ...closed,
  required: ['nibber', 'site', 'areas', 'cameras'],
  properties: {
    nibber: { const: 1 },
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
    areas: list({ type: 'object', ...closed, required: ['id', 'name'], properties: { id, name } } as const),
    people: list({
      type: 'object',
      ...closed,
      required: ['id', 'name', 'role'],
      properties: { id, name, role: { enum: ['installer', 'owner', 'member'] } },
    } as const),
    hours: list(hoursSchema),
    modes: list({
      type: 'object',
      ...closed,
      required: ['id', 'name', 'armed'],
      properties: {
        id,
        name,
        armed: { type: 'boolean' },
        exitDelaySeconds: { type: 'number', minimum: 0, maximum: 3600 },
        entryDelaySeconds: { type: 'number', minimum: 0, maximum: 3600 },
      },
    } as const),
    cameras: list(cameraSchema),
    rules: list(ruleSchema),
  },
} as const;
