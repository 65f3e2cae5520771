// AI services of the site file as JSON Schema: any that speak the chat-completions shape.

import { classes } from '../boxes';
import { promptSchema } from './rule-schema';
import { closed, id, list, name } from './words-schema';

/** What a service is used for; each may have an order of its own in which services are asked. */
export const aiUses = ['descriptions', 'questions', 'readings', 'asking'] as const;

const tokens = { type: 'number', minimum: 0, maximum: 10_000 } as const;

export const aiServiceSchema = {
  type: 'object',
  ...closed,
  required: ['id', 'name', 'url', 'model'],
  properties: {
    id,
    name,
    /** Up to before `/chat/completions`. */
    url: { type: 'string', pattern: '^https?://[^\\s]{1,1000}$' },
    model: { type: 'string', minLength: 1, maxLength: 120 },
    /** Sent with the standard headers; `{key}` stands for the key, which is stored encrypted, not in this file. */
    headers: {
      type: 'object',
      maxProperties: 20,
      propertyNames: { pattern: "^[A-Za-z0-9!#$%&'*+.^_`|~-]{1,60}$" },
      additionalProperties: { type: 'string', pattern: '^[^\\r\\n]{0,1000}$' },
    },
    /** How long an answer is waited for. */
    seconds: { type: 'number', minimum: 1, maximum: 120 },
    atOnce: { type: 'integer', minimum: 1, maximum: 16 },
    /** Of 1,000 tokens, those that are sent and those that come back; `currency` as in ISO 4217. */
    price: {
      type: 'object',
      ...closed,
      required: ['in', 'out', 'currency'],
      properties: { in: tokens, out: tokens, currency: { type: 'string', pattern: '^[A-Z]{3}$' } },
    },
    /** The most of a day of the site; when one of them is spent the next service takes over. */
    aDay: {
      type: 'object',
      ...closed,
      properties: {
        answers: { type: 'integer', minimum: 1, maximum: 1_000_000 },
        money: { type: 'number', exclusiveMinimum: 0, maximum: 100_000 },
      },
    },
  },
} as const;

const order = { type: 'array', uniqueItems: true, maxItems: 24, items: id } as const;

export const aiSchema = {
  type: 'object',
  ...closed,
  properties: {
    services: { ...list(aiServiceSchema), maxItems: 24 },
    /** What is asked of every thing of a class, where the rule that let it through asks nothing of its own. */
    prompts: {
      type: 'object',
      ...closed,
      properties: Object.fromEntries(classes.map((c) => [c, promptSchema])) as { [C in (typeof classes)[number]]: typeof promptSchema },
    },
    /** Which are asked for what, the first of them first; all of them as they stand above where it is not said. */
    order: { type: 'object', ...closed, properties: { descriptions: order, questions: order, readings: order, asking: order } },
  },
} as const;
