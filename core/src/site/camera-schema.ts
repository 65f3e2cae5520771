// Cameras of the site file as JSON Schema.

import { classes, typeNames } from '../boxes';
import { closed, id, list, name, point, share } from './words-schema';

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

export const lineSchema = {
  type: 'object',
  ...closed,
  required: ['id', 'name', 'points'],
  properties: { id, name, points: { type: 'array', minItems: 2, maxItems: 32, items: point } },
} as const;

const above = (exclusiveMinimum: number, maximum: number) => ({ type: 'number', exclusiveMinimum, maximum }) as const;
const degrees = (max: number) => ({ type: 'number', minimum: -max, maximum: max }) as const;

/** How a camera stands and looks. The lens is an angle, or a focal length and the width of the sensor. */
export const aimSchema = {
  type: 'object',
  ...closed,
  required: ['heightMetres', 'tiltDegrees', 'lens', 'pictureWidth', 'pictureHeight'],
  properties: {
    heightMetres: above(0, 200),
    /** Down from level. */
    tiltDegrees: degrees(90),
    /** Clockwise as seen from behind the camera. */
    rollDegrees: degrees(45),
    /** Clockwise from north; and where it stands on the site's plan, metres east and north. */
    headingDegrees: { type: 'number', minimum: 0, maximum: 360 },
    east: { type: 'number' },
    north: { type: 'number' },
    lens: {
      anyOf: [
        {
          type: 'object',
          ...closed,
          required: ['horizontalDegrees'],
          properties: { horizontalDegrees: above(0, 360), panorama: { type: 'boolean' } },
        },
        {
          type: 'object',
          ...closed,
          required: ['focalMillimetres', 'sensorWidthMillimetres'],
          properties: { focalMillimetres: above(0, 2000), sensorWidthMillimetres: above(0, 100) },
        },
      ],
    },
    pictureWidth: { type: 'integer', minimum: 16, maximum: 20000 },
    pictureHeight: { type: 'integer', minimum: 16, maximum: 20000 },
    /** How far its own infrared, and a lamp at the place, reach. */
    infraredMetres: above(0, 1000),
    lampMetres: above(0, 1000),
  },
} as const;

/** What a camera's detection says about itself; asked of it or ticked. */
const builtInDetectionSchema = {
  type: 'object',
  ...closed,
  properties: {
    classes: { type: 'array', uniqueItems: true, items: { enum: [...classes, ...typeNames, 'motion'] } },
    /** It sends nothing below, and has never sent anything above. */
    minScore: share,
    maxScore: share,
    framesASecond: above(0, 120),
  },
} as const;

const address = { type: 'string', maxLength: 2000, pattern: '^https?://' } as const;
/** Pictures also come by RTSP, and from a recording that was sent here. */
const stream = { type: 'string', maxLength: 2000, pattern: '^((https?|rtsp)://|recording:[0-9a-f]{40}$)' } as const;

/** What a camera can do beside sending pictures. What is not named here it cannot do, or no one has said so. */
export const capabilityNames = ['lamp', 'siren', 'speaker', 'microphone', 'restart', 'infrared'] as const;

/** How its picture is turned before anything else happens to it. */
const orientationSchema = {
  type: 'object',
  ...closed,
  properties: { turnDegrees: { enum: [0, 90, 180, 270] }, mirrored: { type: 'boolean' } },
} as const;

/** How finely its pictures are looked at, and how sure its detection has to be. What is not named is as usual. */
export const tuningSchema = {
  type: 'object',
  ...closed,
  properties: {
    /** What a difference of grey must be above to count. */
    threshold: { type: 'integer', minimum: 8, maximum: 120 },
    /** Smallest part that counts, cells of a picture 240 wide. */
    smallestPart: { type: 'integer', minimum: 1, maximum: 4000 },
    /** How far the greys of dark pictures are drawn out. */
    contrast: share,
    /** What is less sure comes through no rule of this camera. */
    confidence: share,
  },
} as const;

export const cameraSchema = {
  type: 'object',
  ...closed,
  required: ['id', 'name', 'area', 'source'],
  properties: {
    id,
    name,
    area: id,
    source: {
      anyOf: [
        {
          type: 'object',
          ...closed,
          required: ['kind', 'low'],
          /**
           * `secret` names the sign-in that is kept elsewhere; `device` is where it is commanded, an ONVIF device service; `lens` is that
           * device's token of the video source.
           */
          properties: { kind: { const: 'streamed' }, low: stream, full: stream, still: address, device: address, lens: name, secret: id },
        },
        /** It sends its events by itself; `still` is where it is asked for a picture. */
        { type: 'object', ...closed, required: ['kind'], properties: { kind: { const: 'paired' }, still: address, secret: id } },
      ],
    },
    orientation: orientationSchema,
    /** False: its pictures are sent to no AI service. */
    allowAiService: { type: 'boolean' },
    capabilities: { type: 'array', uniqueItems: true, items: { enum: capabilityNames } },
    /** Which relay of the device switches what. */
    relays: { type: 'object', ...closed, properties: { lamp: name, siren: name } },
    builtInDetection: builtInDetectionSchema,
    aim: aimSchema,
    tuning: tuningSchema,
    cooldownSeconds: { type: 'number', minimum: 0, maximum: 604800 },
    zones: { type: 'array', maxItems: 64, items: zoneSchema },
    lines: list(lineSchema),
  },
} as const;
