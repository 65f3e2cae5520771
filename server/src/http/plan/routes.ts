// The plan of the site: its picture and size, what should be covered, and where the cameras stand on it.

import { raw } from 'express';
import sharp from 'sharp';
import { siteSeen } from '@nibber/core/people';
import { Problem } from '@nibber/core/problem';
import { isOfDisk } from '../../db/disk-problem';
import { namedCamera } from '../cameras/named';
import { readWith } from '../body';
import { editedFrom, route, type Route } from '../route';
import { count, object, orNull, text, typed } from '../schema';
import type { Services } from '../services';
import { plan, version } from '../shapes';

const maxBytes = 12_000_000;
const maxPixels = 60_000_000;
const widest = 2400;
const forms: readonly string[] = ['jpeg', 'png', 'webp'];

const metres = { type: 'number', minimum: -10_000, maximum: 10_000 } as const;
const placed = object({ camera: typed(40), east: metres, north: metres, headingDegrees: { type: 'number', minimum: 0, maximum: 360 } });
const planAnswer = object({ plan: orNull(plan), version });
const readBytes = readWith(raw({ type: () => true, limit: maxBytes }));

export function planRoutes({ site, record }: Pick<Services, 'site' | 'record'>): Route[] {
  const answer = (of = site.file) => ({ plan: of.plan ?? null, version: site.version });
  return [
    route({
      method: 'get',
      path: '/api/plan',
      may: 'look',
      summary: 'The plan of the site',
      answer: planAnswer,
      handle: async ({ visitor }) => answer(siteSeen(site.file, visitor.visible)),
    }),
    route({
      method: 'put',
      path: '/api/plan',
      may: 'set up',
      summary: 'Replace the plan and the camera positions on it',
      edits: true,
      body: object({ plan, places: { type: 'array', maxItems: 200, items: placed } }),
      answer: planAnswer,
      async handle({ request, body, visitor }) {
        const moved = body.places.map(({ camera: id, ...place }) => {
          const { camera } = namedCamera(site, id);
          if (!camera.aim)
            throw new Problem(
              'bad-input',
              `The mounting of ${camera.name} is not entered yet.`,
              'Enter its height, tilt and lens first. Nothing was changed.',
            );
          return [['cameras', id, 'aim'], { ...camera.aim, ...place }] as const;
        });
        const what = 'changed the plan of the site';
        await site.edit([[['plan'], body.plan], ...moved], { by: visitor, what, from: editedFrom(request) });
        return answer();
      },
    }),
    route({
      method: 'post',
      path: '/api/plan/picture',
      may: 'set up',
      summary: 'Upload a picture for the plan (JPEG, PNG or WebP); it is decoded and encoded again',
      body: { bytes: 'image/*' },
      answer: object({ picture: text, width: count, height: count }),
      async handle({ request, response }) {
        const sentBytes = (await readBytes(request, response)) as Buffer;
        try {
          const sent = sharp(sentBytes, { limitInputPixels: maxPixels });
          if (!forms.includes((await sent.metadata()).format)) throw new Error('another form');
          const { data, info } = await sent
            .rotate()
            .resize({ width: widest, height: widest, fit: 'inside', withoutEnlargement: true })
            .flatten({ background: '#fff' })
            .jpeg({ quality: 85 })
            .toBuffer({ resolveWithObject: true });
          const picture = await record.media.using(async (keep) => {
            const file = await keep(data, 'jpg');
            await record.plans.hold(file, site.file.plan?.picture);
            return file.name;
          });
          return { picture, width: info.width, height: info.height };
        } catch (thrown) {
          if (isOfDisk(thrown)) throw thrown;
          throw new Problem('bad-input', 'This is not a readable picture.', 'Choose a JPEG, PNG or WebP picture.');
        }
      },
    }),
  ];
}
