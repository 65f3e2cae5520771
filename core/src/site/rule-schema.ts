// Rules of the site file as JSON Schema.

import { classes, colourNames, typeNames } from '../boxes';
import { channelNames } from '../channels';
import { closed, id, name, share } from './words-schema';

const letters = 'A-Za-zÀ-ɏͰ-῿Ⰰ-퟿豈-﷿';

const shortText = { type: 'string', minLength: 1, maxLength: 80 } as const;
const colours = { type: 'array', minItems: 1, uniqueItems: true, items: { enum: colourNames } } as const;
const number = (minimum: number, maximum: number) => ({ type: 'number', minimum, maximum }) as const;

/** How a thing looks; all that is said must be so. `?` in a plate or a field stands for any one character. */
export const looksSchema = {
  type: 'object',
  ...closed,
  minProperties: 1,
  properties: {
    types: { type: 'array', minItems: 1, uniqueItems: true, items: { enum: typeNames } },
    colours,
    /** Of a person: what is worn above and below. */
    upper: colours,
    lower: colours,
    plate: shortText,
    /** Fields of a description, by name. */
    fields: { type: 'object', maxProperties: 12, additionalProperties: shortText },
  },
} as const;

const behaviourSchema = {
  type: 'object',
  ...closed,
  required: ['kind'],
  properties: {
    kind: { enum: ['appears', 'stays', 'goes', 'crosses', 'count', 'empty', 'approaches', 'returns', 'reports'] },
    zone: id,
    /** By camera, where it is another zone than `zone`. */
    zoneByCamera: { type: 'object', maxProperties: 64, additionalProperties: id },
    from: id,
    to: id,
    bothDirections: { type: 'boolean' },
    line: id,
    direction: { enum: ['forward', 'back', 'both'] },
    /** How far from the line it must have been on either side; share of the picture. */
    margin: number(0, 0.2),
    over: { type: 'integer', minimum: 0, maximum: 1000 },
    under: { type: 'integer', minimum: 1, maximum: 1000 },
    metres: number(0.1, 1000),
    /** What a thing that returns is known by: its plate, or a field of its description. */
    by: shortText,
    known: { type: 'boolean' },
    /** Which of the known; all of them if absent. */
    who: { type: 'array', minItems: 1, uniqueItems: true, items: id },
    /** What a sensor says. */
    states: { type: 'array', minItems: 1, uniqueItems: true, items: shortText },
    frames: { type: 'integer', minimum: 1, maximum: 10000 },
    seconds: number(0, 86400),
    graceSeconds: number(0, 3600),
  },
} as const;

/** What an AI service is asked beside, or instead of, a plain sentence. What it does not know it leaves out. */
export const promptSchema = {
  type: 'object',
  ...closed,
  properties: {
    /** False: the fields alone. */
    sentence: { type: 'boolean' },
    /** One's own words, added to the question. */
    words: { type: 'string', minLength: 1, maxLength: 600 },
    language: { type: 'string', minLength: 1, maxLength: 40 },
    /** Of the sentence, in characters. */
    maxCharacters: { type: 'integer', minimum: 40, maximum: 500 },
    /** The whole picture with the thing framed, the thing close up, or both; whole for a sentence alone, else both. */
    shows: { enum: ['whole', 'close', 'both'] },
    /** At how many moments of its track it is shown close up. */
    closeUps: { type: 'integer', minimum: 1, maximum: 4 },
    fields: {
      type: 'array',
      minItems: 1,
      maxItems: 12,
      items: {
        type: 'object',
        ...closed,
        required: ['name', 'kind'],
        properties: {
          // Letters of most scripts, written out: classes by name (\p{L}) are not known to every validator.
          name: { type: 'string', pattern: `^[${letters}][${letters}0-9 _-]{0,29}$` },
          kind: { enum: ['text', 'one of', 'number', 'yes or no', 'plate'] },
          of: { type: 'array', minItems: 2, maxItems: 24, uniqueItems: true, items: shortText },
        },
      },
    },
  },
} as const;

export const ruleSchema = {
  type: 'object',
  ...closed,
  required: ['id', 'name', 'cameras', 'classes', 'behaviour'],
  properties: {
    id,
    name,
    on: { type: 'boolean' },
    /** Empty for a rule of sensors. */
    cameras: { type: 'array', uniqueItems: true, items: id },
    sensors: { type: 'array', minItems: 1, uniqueItems: true, items: id },
    classes: { type: 'array', uniqueItems: true, items: { enum: [...classes, ...typeNames] } },
    confidence: share,
    /** Height as a share of the picture, or in metres where the camera is aimed. */
    size: {
      type: 'object',
      ...closed,
      properties: {
        min: share,
        max: share,
        metres: { type: 'object', ...closed, properties: { min: number(0, 100), max: number(0, 100) } },
      },
    },
    anchor: {
      anyOf: [{ enum: ['feet', 'centre'] }, { type: 'object', ...closed, required: ['overlap'], properties: { overlap: share } }],
    },
    behaviour: behaviourSchema,
    looks: { type: 'object', ...closed, properties: { require: looksSchema, exclude: looksSchema } },
    modes: { type: 'array', uniqueItems: true, items: id },
    schedule: id,
    /** On only while someone, or no one, of the site's people is there. */
    presence: { enum: ['someone', 'no one'] },
    cooldownSeconds: number(0, 604800),
    /** Raises an alarm in an armed area; with `entryDelay` only after the mode's entry delay. */
    alarm: { type: 'boolean' },
    entryDelay: { type: 'boolean' },
    /**
     * Asked of an AI service before anyone is notified, with a maximum wait in seconds: yes or no, and whether it is one of the known,
     * in which case no alert is sent. `onTimeout` applies where no answer comes.
     */
    question: {
      type: 'object',
      ...closed,
      required: ['seconds', 'onTimeout'],
      properties: {
        words: { type: 'string', minLength: 3, maxLength: 300 },
        /** Which answer sends the alert; yes if absent. */
        alertIf: { enum: ['yes', 'no'] },
        unlessKnown: { type: 'boolean' },
        seconds: number(1, 60),
        onTimeout: { enum: ['send', 'hold back'] },
      },
    },
    /** Passes quiet hours and snoozing. */
    urgent: { type: 'boolean' },
    /** `title` and `text` may hold placeholders: {rule}, {camera}, {zone}, {area}, {class}, {time}, {count}, {sensor}, {mode}. */
    message: {
      type: 'object',
      ...closed,
      properties: {
        picture: { type: 'boolean' },
        description: { type: 'boolean' },
        /** What is asked for the description. */
        prompt: promptSchema,
        title: shortText,
        text: { type: 'string', minLength: 1, maxLength: 200 },
      },
    },
    notify: {
      type: 'array',
      items: { type: 'object', ...closed, required: ['to', 'channel'], properties: { to: id, channel: { enum: channelNames } } },
    },
  },
} as const;
