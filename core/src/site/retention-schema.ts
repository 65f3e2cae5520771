// How long what is stored is kept, as it stands in the site file.

import { closed, id, share } from './words-schema';

const days = { type: 'integer', minimum: 1, maximum: 3650 } as const;

/** What a camera can have other days for. */
const ofCamera = {
  events: days,
  usefulEvents: days,
  filteredOut: days,
  trails: days,
  pictures: days,
  clips: days,
  deliveries: days,
} as const;

export const retentionSchema = {
  type: 'object',
  ...closed,
  properties: {
    /** By kind; what is not named is kept for the default time. */
    days: {
      type: 'object',
      ...closed,
      properties: {
        ...ofCamera,
        aiRequests: days,
        readings: days,
        detections: days,
        logbook: days,
        sessions: days,
        jobs: days,
        siteVersions: days,
      },
    },
    cameras: {
      type: 'array',
      maxItems: 1000,
      items: {
        type: 'object',
        ...closed,
        required: ['camera', 'days'],
        properties: { camera: id, days: { type: 'object', ...closed, minProperties: 1, properties: ofCamera } },
      },
    },
    /** Of the disk, pictures, clips and the database together take no more than this share. */
    maxDiskShare: share,
    /** So much of the disk stays free, whoever fills it. */
    minFreeGigabytes: { type: 'number', minimum: 0.1, maximum: 100_000 },
  },
} as const;
