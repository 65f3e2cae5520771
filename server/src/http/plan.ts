// The plan of the site: its picture and size, what should be covered, and where the cameras stand on it.

import sharp from 'sharp';
import { planSchema, type PlanFile } from '@nibber/core/site';
import { Trouble } from '@nibber/core/trouble';
import { removeUnused } from '../record/kept';
import { isOfDisk } from '../record/trouble';
import { namedCamera } from './camera';
import type { Parts } from './parts';
import { editedFrom, editors, object, route, routeWithBody, textSchema, type Route } from './route';

const mostBytes = 12_000_000;
const mostPixels = 60_000_000;
const widest = 2400;
const forms: readonly string[] = ['jpeg', 'png', 'webp'];
const sentSetting = 'newest plan picture';

type Place = { readonly camera: string; readonly east: number; readonly north: number; readonly headingDegrees: number };
const metres = { type: 'number', minimum: -10_000, maximum: 10_000 };
const placeSchema = object({
  camera: textSchema(40),
  east: metres,
  north: metres,
  headingDegrees: { type: 'number', minimum: 0, maximum: 360 },
});

export function planRoutes({ site, record }: Parts): Route[] {
  /** Of what was sent and is not used only the newest is kept, so that pictures of plans do not fill the disk. */
  const letGoOfEarlier = async (picture: string) => {
    const earlier = await record.setting(sentSetting);
    if (earlier && earlier !== picture) await removeUnused(record, new Set([earlier]), site.file.plan?.picture);
    await record.setSetting(sentSetting, picture);
  };
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
        const sent = sharp(Buffer.concat(pieces), { limitInputPixels: mostPixels });
        if (!forms.includes((await sent.metadata()).format)) throw new Error('another form');
        const { data, info } = await sent
          .rotate()
          .resize({ width: widest, height: widest, fit: 'inside', withoutEnlargement: true })
          .flatten({ background: '#fff' })
          .jpeg({ quality: 85 })
          .toBuffer({ resolveWithObject: true });
        const picture = await record.pictures.keep(data, 'jpg');
        await letGoOfEarlier(picture);
        return { picture, width: info.width, height: info.height };
      } catch (thrown) {
        if (isOfDisk(thrown)) throw thrown;
        throw new Trouble('bad-input', 'This cannot be read as a picture.', 'Choose a JPEG, PNG or WebP picture.');
      }
    }),
  ];
}
