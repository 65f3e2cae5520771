// A camera's pictures: the newest, as they come, and one that is asked for; whether it can be reached.

import { nothingMoves } from '@nibber/core/motion';
import { Problem } from '@nibber/core/problem';
import { fetchStill } from '../../intake/camera';
import { freshStill } from '../../intake/fresh';
import { problemOf } from '../../streams/problem';
import type { Camera } from '@nibber/core/site';
import { passLive } from '../../media/live';
import { safePicture, safeWayOf } from '../../media/safe';
import { isByInfrared } from '../../media/small';
import { jpeg, newAddress, type Route, route, sendJpeg } from '../route';
import { count, either, number, object, oneOf, text, yesNo } from '../schema';
import type { Services } from '../services';
import { instant } from '../shapes';
import { namedCamera } from './named';

const boundary = 'nibber-picture';
/** A viewer that cannot keep up misses pictures; nothing is held for it. */
const maxUnsent = 1_000_000;
const maxLiveUnsent = 8_000_000;
/** Each is a process of its own. */
const maxWatched = 12;

/** The address of a stream that has sound: RTSP alone; MJPEG has none. */
export const streamOf = ({ source }: Camera, stream: 'low' | 'full'): string | undefined => {
  const address = source.kind === 'streamed' ? (stream === 'full' ? source.full : source.low) : undefined;
  return address?.startsWith('rtsp:') ? address : undefined;
};

type Used = Pick<Services, 'site' | 'recent' | 'clock' | 'cameraLogins' | 'recordings'>;

export function cameraPictureRoutes({ site, recent, clock, cameraLogins, recordings }: Used): Route[] {
  const find = (id: string) => namedCamera(site, id).camera;
  const watched = new Set<{ readonly camera: string; readonly way: string; readonly end: () => void }>();
  // A stream whose masks are others now is not shown for a moment longer.
  site.onChange(({ kind }) => {
    if (kind !== 'site') return;
    for (const { camera, way, end } of watched) {
      const now = site.file.cameras.find((c) => c.id === camera);
      if (!now || JSON.stringify(safeWayOf(now)) !== way) end();
    }
  });
  return [
    route({
      method: 'get',
      path: '/api/cameras/:camera/picture.jpg',
      may: 'look',
      summary: 'The latest picture',
      query: newAddress,
      answer: jpeg,
      async handle({ params, response }) {
        const { id, name } = find(params.camera);
        const picture = recent.latest(id);
        if (!picture) throw new Problem('unavailable', `${name} has sent no picture yet.`, 'Check that it is on and on the network.');
        sendJpeg(response, picture.jpeg);
      },
    }),
    route({
      method: 'get',
      path: '/api/cameras/:camera/live.mjpg',
      may: 'look',
      summary: 'Live pictures',
      query: newAddress,
      answer: { bytes: 'multipart/x-mixed-replace' },
      async handle({ params, response }) {
        const { id } = find(params.camera);
        response.set({ 'content-type': `multipart/x-mixed-replace; boundary=${boundary}`, 'cache-control': 'no-store' });
        const send = (picture: Buffer) => {
          if (response.writableLength > maxUnsent) return;
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
      method: 'get',
      path: '/api/cameras/:camera/live.mp4',
      may: 'look',
      summary: 'The camera’s stream with sound, as fragmented MP4 (RTSP cameras only). It is pulled only while someone watches',
      query: object({ stream: oneOf('low', 'full'), sound: yesNo }, ['stream', 'sound']),
      answer: { bytes: 'video/mp4' },
      async handle({ params, query: { stream = 'low', sound = true }, request, response }) {
        const camera = find(params.camera);
        const url = streamOf(camera, stream);
        if (url === undefined) throw new Problem('unavailable', `${camera.name} has no stream with sound.`, 'Use its live pictures.');
        if (watched.size >= maxWatched)
          throw new Problem('unavailable', `${maxWatched} streams are being watched.`, 'Close one of them, then try again.');
        const ending = new AbortController();
        const way = safeWayOf(camera);
        const one = { camera: camera.id, way: JSON.stringify(way), end: () => ending.abort() };
        watched.add(one);
        response.on('close', () => ending.abort());
        try {
          const asked = { url, login: await cameraLogins.of(camera.id, url), way, sound };
          const begun = () => {
            response.set({ 'content-type': 'video/mp4', 'cache-control': 'no-store' });
            response.flushHeaders();
          };
          await passLive(asked, ending.signal, begun, (bytes) => {
            // Whoever cannot keep up asks again: what is old is of no use.
            if (response.writableLength > maxLiveUnsent) return ending.abort();
            response.write(bytes);
          });
          if (!request.destroyed) response.end();
        } catch (thrown) {
          if (response.headersSent) return void response.destroy();
          const { message, hint } = problemOf(thrown);
          throw new Problem('unavailable', message, hint);
        } finally {
          watched.delete(one);
        }
      },
    }),
    route({
      method: 'post',
      path: '/api/cameras/:camera/test',
      may: 'set up',
      summary: 'Fetch one picture from a streamed camera now and report the result',
      answer: either(object({ works: oneOf(true), bytes: count, milliseconds: number }), object({ works: oneOf(false), why: text })),
      async handle({ params }) {
        const { id, name, source } = find(params.camera);
        if (source.kind !== 'streamed') return { works: false as const, why: `${name} sends its own events and has no stream to test.` };
        const began = Date.now();
        try {
          const address = source.still ?? source.low;
          const still = await fetchStill(recordings.resolve(address), await cameraLogins.of(id, address));
          return { works: true as const, bytes: still.jpeg.length, milliseconds: Date.now() - began };
        } catch (thrown) {
          const { message, hint } = problemOf(thrown);
          return { works: false as const, why: `${message} ${hint}` };
        }
      },
    }),
    route({
      method: 'post',
      path: '/api/cameras/:camera/still',
      may: 'command',
      summary: 'Ask a camera for a new snapshot',
      answer: object({ at: instant, isFresh: yesNo }),
      async handle({ params }) {
        const camera = find(params.camera);
        const { still: address } = camera.source;
        if (!address)
          throw new Problem(
            'unavailable',
            `${camera.name} cannot give a snapshot on request.`,
            'Enter the address of its snapshot, if it has one.',
          );
        try {
          const still = await freshStill(address, await cameraLogins.of(camera.id, address), clock.now());
          const safe = Buffer.from(await safePicture(still.jpeg, safeWayOf(camera)));
          const isInfrared = await isByInfrared(safe);
          recent.add({ camera: camera.id, at: still.takenAt, jpeg: safe, motion: nothingMoves, isInfrared });
          return { at: still.takenAt, isFresh: still.isFresh };
        } catch (thrown) {
          const { message, hint } = problemOf(thrown);
          throw new Problem('unavailable', message, hint);
        }
      },
    }),
  ];
}
