// A camera's pictures: the newest, as they come, and one that is asked for; whether it can be reached.

import { nothingMoves } from '@nibber/core/motion';
import { Trouble } from '@nibber/core/trouble';
import { fetchStill } from '../../intake/camera';
import { freshStill } from '../../intake/fresh';
import { troubleOf } from '../../intake/trouble';
import { safePicture, safeWayOf } from '../../media/safe';
import { isByInfrared } from '../../media/small';
import { jpeg, route, sendJpeg, type Route } from '../route';
import { count, either, number, object, oneOf, text, yesNo } from '../schema';
import type { Services } from '../services';
import { instant } from '../shapes';
import { namedCamera } from './named';

const boundary = 'nibber-picture';
/** A viewer that cannot keep up misses pictures; nothing is held for it. */
const mostUnsent = 1_000_000;

type Used = Pick<Services, 'site' | 'recent' | 'clock' | 'signIns' | 'recordings'>;

export function cameraPictureRoutes({ site, recent, clock, signIns, recordings }: Used): Route[] {
  const find = (id: string) => namedCamera(site, id).camera;
  return [
    route({
      method: 'get',
      path: '/api/cameras/:camera/picture.jpg',
      may: 'look',
      summary: 'The newest picture',
      answer: jpeg,
      async handle({ params, response }) {
        const { id, name } = find(params.camera);
        const picture = recent.latest(id);
        if (!picture) throw new Trouble('unavailable', `${name} has sent no picture yet.`, 'Check that it is on and on the network.');
        sendJpeg(response, picture.jpeg);
      },
    }),
    route({
      method: 'get',
      path: '/api/cameras/:camera/live.mjpg',
      may: 'look',
      summary: 'Pictures as they come',
      answer: { bytes: 'multipart/x-mixed-replace' },
      async handle({ params, response }) {
        const { id } = find(params.camera);
        response.set({ 'content-type': `multipart/x-mixed-replace; boundary=${boundary}`, 'cache-control': 'no-store' });
        const send = (picture: Buffer) => {
          if (response.writableLength > mostUnsent) return;
          response.write(`--${boundary}\r\ncontent-type: image/jpeg\r\ncontent-length: ${picture.length}\r\n\r\n`);
          response.write(picture);
          response.write('\r\n');
        };
        const latest = recent.latest(id);
        if (latest) send(latest.jpeg);
        response.flushHeaders();
        const stop = recent.onPicture(id, (p) => send(p.jpeg));
        response.on('close', stop);
      },
    }),
    route({
      method: 'post',
      path: '/api/cameras/:camera/test',
      may: 'set up',
      summary: 'Fetch one picture from a streamed camera now, and say how that went',
      answer: either(object({ works: oneOf(true), bytes: count, milliseconds: number }), object({ works: oneOf(false), why: text })),
      async handle({ params }) {
        const { id, name, source } = find(params.camera);
        if (source.kind !== 'streamed')
          return { works: false as const, why: `${name} sends its events by itself; there is no stream to try.` };
        const began = Date.now();
        try {
          const address = source.still ?? source.low;
          const still = await fetchStill(recordings.resolve(address), await signIns.of(id, address));
          return { works: true as const, bytes: still.jpeg.length, milliseconds: Date.now() - began };
        } catch (thrown) {
          const { message, remedy } = troubleOf(thrown);
          return { works: false as const, why: `${message} ${remedy}` };
        }
      },
    }),
    route({
      method: 'post',
      path: '/api/cameras/:camera/still',
      may: 'command',
      summary: 'Ask a camera for a picture that is not older than the question',
      answer: object({ at: instant, isFresh: yesNo }),
      async handle({ params }) {
        const camera = find(params.camera);
        const { still: address } = camera.source;
        if (!address)
          throw new Trouble(
            'unavailable',
            `${camera.name} cannot be asked for a picture.`,
            'Give the address of its still, if it has one.',
          );
        try {
          const still = await freshStill(address, await signIns.of(camera.id, address), clock.now());
          const safe = Buffer.from(await safePicture(still.jpeg, safeWayOf(camera)));
          const isInfrared = await isByInfrared(safe);
          recent.add({ camera: camera.id, at: still.takenAt, jpeg: safe, motion: nothingMoves, isInfrared });
          return { at: still.takenAt, isFresh: still.isFresh };
        } catch (thrown) {
          const { message, remedy } = troubleOf(thrown);
          throw new Trouble('unavailable', message, remedy);
        }
      },
    }),
  ];
}
