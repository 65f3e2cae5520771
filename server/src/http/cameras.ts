// Cameras: what they are, how they do, their pictures, their zones.

import { zoneFaults } from '@nibber/core/check';
import type { TrackView } from '@nibber/core/sieve';
import { zoneSchema, type Zone } from '@nibber/core/site';
import { faultLine, Trouble } from '@nibber/core/trouble';
import { fetchStill } from '../intake/camera';
import type { Parts } from './parts';
import { editors, object, param, route, routeWithBody, type Route } from './route';

const boundary = 'nibber-picture';

/** A track that is being followed, as the client is told of it. */
export const seenAnswer = ({ key, class: cls, type, score, box }: TrackView) => ({ key, class: cls, type, score, box });

export function cameraRoutes(parts: Parts): Route[] {
  const { site, recent, follow } = parts;
  const find = (id: string) => {
    const index = site.file.cameras.findIndex((c) => c.id === id);
    if (index < 0)
      throw new Trouble(
        'not-found',
        `There is no camera ${id}.`,
        `Cameras: ${site.file.cameras.map((c) => c.id).join(', ') || 'none yet'}.`,
      );
    return { index, camera: site.file.cameras[index]! };
  };
  const describe = (id: string) => {
    const { camera } = find(id);
    const { id: key, name, area, zones = [], lines = [] } = camera;
    const health = parts.cameraHealth(id);
    return {
      id: key,
      name,
      area,
      zones,
      lines,
      health: health ?? null,
      tracks: follow.open(id).map(seenAnswer),
    };
  };
  return [
    route('get', '/api/cameras', 'signed-in', async () => site.file.cameras.map((c) => describe(c.id))),
    route('get', '/api/cameras/:camera', 'signed-in', async ({ request }) => describe(param(request, 'camera'))),
    routeWithBody<{ zones: Zone[] }>(
      'put',
      '/api/cameras/:camera/zones',
      editors,
      object({ zones: { type: 'array', maxItems: 64, items: zoneSchema } }),
      async ({ request, body, visitor }) => {
        const { index, camera } = find(param(request, 'camera'));
        const faults = zoneFaults(body.zones, 'zones');
        if (faults.length)
          throw new Trouble(
            'bad-input',
            `The zones cannot be used. ${faults.map(faultLine).join(' · ')}`,
            'Correct them; nothing was changed.',
            faults,
          );
        await site.edit(['cameras', index, 'zones'], body.zones, visitor.name, `changed the zones of ${camera.name}`);
        return describe(camera.id);
      },
    ),
    route('get', '/api/cameras/:camera/picture.jpg', 'signed-in', async ({ request, response }) => {
      const { camera } = find(param(request, 'camera'));
      const picture = recent.latest(camera.id);
      if (!picture) throw new Trouble('unavailable', `${camera.name} has sent no picture yet.`, 'Check that it is on and on the network.');
      response.set({ 'content-type': 'image/jpeg', 'cache-control': 'private, no-store' }).send(picture.jpeg);
    }),
    route('get', '/api/cameras/:camera/live.mjpg', 'signed-in', async ({ request, response }) => {
      const { camera } = find(param(request, 'camera'));
      response.set({ 'content-type': `multipart/x-mixed-replace; boundary=${boundary}`, 'cache-control': 'no-store' });
      const send = (jpeg: Buffer) => {
        // A viewer that cannot keep up misses pictures; nothing is held for it.
        if (response.writableLength > 1_000_000) return;
        response.write(`--${boundary}\r\ncontent-type: image/jpeg\r\ncontent-length: ${jpeg.length}\r\n\r\n`);
        response.write(jpeg);
        response.write('\r\n');
      };
      const latest = recent.latest(camera.id);
      if (latest) send(latest.jpeg);
      response.flushHeaders();
      response.on(
        'close',
        recent.onPicture(camera.id, (p) => send(p.jpeg)),
      );
    }),
    route('post', '/api/cameras/:camera/test', editors, async ({ request }) => {
      const { camera } = find(param(request, 'camera'));
      if (camera.source.kind !== 'streamed')
        return { works: false, why: `${camera.name} sends its events by itself; there is no stream to try.` };
      const began = Date.now();
      try {
        const jpeg = await fetchStill(camera.source.still ?? camera.source.low);
        return { works: true, bytes: jpeg.length, milliseconds: Date.now() - began };
      } catch (thrown) {
        return { works: false, why: (thrown as Error).message };
      }
    }),
  ];
}
