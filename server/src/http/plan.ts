// The plan of the site: its picture and size, what should be covered, and where the cameras stand on it.

import sharp from 'sharp';
import { planSchema, type PlanFile } from '@nibber/core/site';
import { Trouble } from '@nibber/core/trouble';
import { namedCamera } from './camera';
import type { Parts } from './parts';
import { editedFrom, editors, object, route, routeWithBody, textSchema, type Route } from './route';

const mostBytes = 12_000_000;
const mostPixels = 60_000_000;
const widest = 2400;

type Place = { readonly camera: string; readonly east: number; readonly north: number; readonly headingDegrees: number };
const metres = { type: 'number', minimum: -10_000, maximum: 10_000 };
const placeSchema = object({
  camera: textSchema(40),
  east: metres,
  north: metres,
  headingDegrees: { type: 'number', minimum: 0, maximum: 360 },
});

export function planRoutes({ site, record }: Parts): Route[] {
  return [
    route('get', '/api/plan', 'signed-in', async () => ({ plan: site.file.plan ?? null, version: site.version })),
    routeWithBody<{ plan: PlanFile; places: Place[] }>(
      'put',
      '/api/plan',
      editors,
      object({ plan: planSchema, places: { type: 'array', maxItems: 200, items: placeSchema } }),
      async ({ request, body, visitor }) => {
        const moved = body.places.map(({ camera: id, ...place }) => {
          const { camera } = namedCamera(site, id);
          if (!camera.aim)
            throw new Trouble(
              'bad-input',
              `Nobody has said how ${camera.name} stands.`,
              'Give its height, tilt and lens first; nothing was changed.',
            );
          return [['cameras', id, 'aim'], { ...camera.aim, ...place }] as const;
        });
        await site.edit([[['plan'], body.plan], ...moved], {
          by: visitor.name,
          what: 'changed the plan of the site',
          from: editedFrom(request),
        });
        return { plan: site.file.plan ?? null, version: site.version };
      },
    ),
    /** Takes the picture's bytes; they are decoded and written anew, so that nothing but a picture is kept. */
    route('post', '/api/plan/picture', editors, async ({ request }) => {
      const pieces: Buffer[] = [];
      let length = 0;
      for await (const piece of request as AsyncIterable<Buffer>) {
        length += piece.length;
        // What is too long is read to its end unless it has none: a sender that is cut off would not read the answer.
        if (length > mostBytes * 4) request.destroy();
        if (length > mostBytes) pieces.length = 0;
        else pieces.push(piece);
      }
      if (length > mostBytes) throw new Trouble('too-large', 'The picture is too large.', `Send at most ${mostBytes / 1e6} MB.`);
      try {
        const { data, info } = await sharp(Buffer.concat(pieces), { limitInputPixels: mostPixels })
          .rotate()
          .resize({ width: widest, height: widest, fit: 'inside', withoutEnlargement: true })
          .flatten({ background: '#fff' })
          .jpeg({ quality: 85 })
          .toBuffer({ resolveWithObject: true });
        return { picture: await record.pictures.keep(data, 'jpg'), width: info.width, height: info.height };
      } catch {
        throw new Trouble('bad-input', 'This cannot be read as a picture.', 'Choose a JPEG, PNG, WebP or SVG picture.');
      }
    }),
  ];
}
