// What is kept on the disk, and how much room there is.

import { statfs } from 'node:fs/promises';
import { route, type Route } from '../route';
import { count, list, named, number, object, oneOf, orNull, text } from '../schema';
import type { Services } from '../services';
import { instant } from '../shapes';

const media = object({
  holder: oneOf('event', 'reading', 'track', 'delivery', 'walk test', 'plan', 'known'),
  role: text,
  files: count,
  bytes: number,
});
const detections = object({ bytes: number, since: orNull(instant), maxDays: number, maxBytes: number });

const storage = named('Storage', object({ media: list(media), detections, database: number, free: number }));

export const storageRoutes = ({ config, record }: Pick<Services, 'config' | 'record'>): Route[] => [
  route({
    method: 'get',
    path: '/api/storage',
    may: 'set up',
    summary: 'Storage used by pictures, clips, detections and the database, and free space, in bytes',
    answer: storage,
    async handle() {
      const { bavail, bsize } = await statfs(config.dataFolder);
      const { bytes, since } = record.detections.held();
      const { days: maxDays, bytes: maxBytes } = record.detections.budget;
      return {
        media: [...(await record.media.held())],
        detections: { bytes, since: since ?? null, maxDays, maxBytes },
        database: record.bytes(),
        free: bavail * bsize,
      };
    },
  }),
];
