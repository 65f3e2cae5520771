// People, other programs that get alerts, and their channels, as JSON Schema.

import { personChannels, receiverChannels } from '../channels';
import { clock, closed, date, id, list, name } from './words-schema';

export const roles = ['installer', 'owner', 'member', 'guest'] as const;

const seconds = (maximum: number) => ({ type: 'number', minimum: 0, maximum }) as const;
const aWeek = 604_800;
const cooldownSeconds = seconds(aWeek);
const host = { type: 'string', pattern: '^[A-Za-z0-9]([A-Za-z0-9.:-]{0,250}[A-Za-z0-9])?$' } as const;
const port = { type: 'integer', minimum: 1, maximum: 65_535 } as const;
const user = { type: 'string', minLength: 1, maxLength: 120 } as const;
/** One mailbox, bare (the `addr-spec` of RFC 5322, without quoted parts). */
const mailAddress = { type: 'string', pattern: '^[^\\s@<>(),;:"]{1,64}@[A-Za-z0-9][A-Za-z0-9.-]{0,250}$' } as const;
const ids = { type: 'array', uniqueItems: true, maxItems: 200, items: id } as const;

export const personSchema = {
  type: 'object',
  ...closed,
  required: ['id', 'name', 'role'],
  properties: {
    id,
    name,
    role: { enum: roles },
    /** The last day on which they are let in; for good if absent. */
    until: date,
    /** What they see: areas with all their cameras, and single cameras. Everything if absent. */
    access: { type: 'object', ...closed, properties: { areas: ids, cameras: ids } },
    mail: mailAddress,
    /** As their text messages are addressed (ITU-T E.164). */
    phone: { type: 'string', pattern: '^\\+[1-9][0-9]{4,14}$' },
    /** By which they are reached, the first of them first. */
    channels: { type: 'array', uniqueItems: true, minItems: 1, items: { enum: personChannels } },
    /** What a locked phone shows of an alert. */
    lockScreen: { enum: ['picture', 'words', 'something'] },
    quietHours: id,
    /** By rule: another channel than the rule's, their morning summary, or not at all. */
    alertPreferences: {
      type: 'object',
      maxProperties: 200,
      propertyNames: id,
      additionalProperties: { enum: [...personChannels, 'summary', 'nothing'] },
    },
    /** Cameras that they look at together, by their own names; Cameras opens with the first. */
    cameraGroups: {
      type: 'array',
      maxItems: 12,
      items: { type: 'object', ...closed, required: ['name', 'cameras'], properties: { name, cameras: { ...ids, minItems: 1 } } },
    },
    /** When they get the summary of suppressed alerts; `quietHours`: those of quiet hours are in it too. */
    summary: { type: 'object', ...closed, required: ['at'], properties: { at: clock, quietHours: { type: 'boolean' } } },
  },
} as const;

const address = { type: 'string', pattern: '^https?://[^\\s]{1,1000}$' } as const;

/** Another program that gets alerts. */
export const receiverSchema = {
  type: 'object',
  ...closed,
  required: ['id', 'name', 'by', 'url'],
  properties: {
    id,
    name,
    by: { enum: receiverChannels },
    /** Of a webhook `https://…`; of a broker `mqtt://host:1883` or `mqtts://host:8883`. */
    url: { type: 'string', pattern: '^(https?|mqtts?)://[^\\s]{1,1000}$' },
    /** What a broker's topics begin with. */
    topic: { type: 'string', pattern: '^[^\\s+#/$][^\\s+#]{0,99}$' },
    user,
  },
} as const;

export const channelsSchema = {
  type: 'object',
  ...closed,
  properties: {
    /** More alerts than so many in a minute are joined into one for a person. */
    maxPerMinute: { type: 'integer', minimum: 1, maximum: 60 },
    push: { type: 'object', ...closed, properties: { cooldownSeconds } },
    mail: {
      type: 'object',
      ...closed,
      required: ['host', 'from'],
      properties: {
        cooldownSeconds,
        host,
        port,
        /** `tls` from the first byte, `starttls` once connected, or `none`. */
        security: { enum: ['tls', 'starttls', 'none'] },
        user,
        from: mailAddress,
      },
    },
    /** A gateway for text messages. `{to}`, `{text}` and `{secret}` are filled in, each as the place it stands in needs it. */
    text: {
      type: 'object',
      ...closed,
      required: ['url'],
      properties: {
        cooldownSeconds,
        url: address,
        method: { enum: ['POST', 'PUT', 'GET'] },
        headers: {
          type: 'object',
          maxProperties: 20,
          propertyNames: { pattern: "^[A-Za-z0-9!#$%&'*+.^_`|~-]{1,60}$" },
          additionalProperties: { type: 'string', pattern: '^[^\\r\\n]{0,1000}$' },
        },
        body: { type: 'string', maxLength: 4000 },
        /** Text that an answer holds where the message was taken; any answer of 200 to 299 if absent. */
        accepted: { type: 'string', minLength: 1, maxLength: 200 },
      },
    },
    webhook: { type: 'object', ...closed, properties: { cooldownSeconds } },
    mqtt: { type: 'object', ...closed, properties: { cooldownSeconds } },
  },
} as const;

export const receiversSchema = list(receiverSchema);
