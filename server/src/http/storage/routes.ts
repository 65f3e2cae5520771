// What is kept on the disk, and how much room there is.

import { retentionOf } from '@nibber/core/retention';
import { retentionSchema } from '@nibber/core/site';
import { editedFrom, route, type Route } from '../route';
import { count, list, named, number, object, oneOf, orNull, text } from '../schema';
import type { Services } from '../services';
import { instant, version } from '../shapes';

const media = object({
  holder: oneOf('event', 'reading', 'track', 'delivery', 'walk test', 'plan', 'known'),
  role: text,
  files: count,
  bytes: number,
});
const detections = object({ bytes: number, since: orNull(instant), maxDays: number, maxBytes: number });

const disk = object({ total: number, free: number, used: number });
/** `fullInDays`: when what comes no longer fits, if each day goes as the last seven; null where all of it fits. */
const forecast = object({ perDay: number, steady: number, fullInDays: orNull(count) });
const days = { type: 'object', additionalProperties: count } as const;
const storage = named(
  'Storage',
  object({
    media: list(media),
    detections,
    database: number,
    disk,
    forecast,
    /** As it is set, and how many days of each kind come of that. */
    retention: retentionSchema,
    days,
    maxDiskShare: number,
    minFreeBytes: number,
    version,
  }),
);

export const storageRoutes = ({ record, site, cleanup }: Pick<Services, 'record' | 'site' | 'cleanup'>): Route[] => [
  route({
    method: 'get',
    path: '/api/storage',
    may: 'set up',
    summary: 'Storage used by pictures, clips, detections and the database, how long it is kept, and when the disk will be full; bytes',
    answer: storage,
    async handle() {
      const state = await cleanup.state();
      const { days: kept, maxDiskShare, minFreeBytes } = retentionOf(site.file);
      const { bytes, since } = record.detections.held();
      const { bytes: maxBytes } = record.detections.budget;
      return {
        media: [...(await record.longReads.media.held())],
        detections: { bytes, since: since ?? null, maxDays: kept.detections, maxBytes },
        database: record.bytes(),
        disk: state.disk,
        forecast: { ...state.forecast, fullInDays: state.forecast.fullInDays ?? null },
        retention: site.file.retention ?? {},
        days: { ...kept },
        maxDiskShare,
        minFreeBytes,
        version: site.version,
      };
    },
  }),
  route({
    method: 'put',
    path: '/api/retention',
    may: 'set up',
    summary: 'How long stored data is kept, and how full the disk may be',
    edits: true,
    body: retentionSchema,
    answer: object({ version }),
    async handle({ request, body, visitor }) {
      const edit = { by: visitor, what: 'changed how long data is kept', from: editedFrom(request) };
      await site.edit([[['retention'], Object.keys(body).length ? body : undefined]], edit);
      return { version: site.version };
    },
  }),
];
