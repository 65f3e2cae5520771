// One stand-in camera: a low and a full stream as multipart JPEG, a still, and the ways in which a camera fails.

import { Router, type Response } from 'express';
import { asTaken, composer, type Composer, type Figure } from './compose';
import type { Light } from './sheets';
import type { PlainCamera } from './view';

export const faultKinds = ['none', 'drop', 'freeze', 'delay', 'corrupt'] as const;
export type FaultKind = (typeof faultKinds)[number];

export type Scene = { figures(): readonly Figure[]; light(): Light; fault(camera: PlainCamera): FaultKind; canoes(): number };

export const streams = { low: { width: 960, everyMs: 200 }, full: { width: 1920, everyMs: 1000 } } as const;
export type StreamName = keyof typeof streams;
/** Gives the picture as it is now. */
export type TakePicture = (stream: StreamName) => Promise<Buffer>;

/** Pictures of the empty place differ by their noise alone; so many are taken once and shown in turn. */
const emptyTakes = 6;
const lateMs = 4000;
const boundary = 'standin-picture';

export async function camera(name: PlainCamera, scene: Scene): Promise<{ router: Router; close(): void }> {
  const pictures = takePictures(await composer(name, scene.canoes), scene);
  const open = new Set<Response>();
  const router = Router();
  router.get('/still.jpg', async (_request, response) => {
    if (scene.fault(name) === 'drop') return void response.destroy();
    response.type('image/jpeg').send(await pictures('full'));
  });
  for (const stream of ['low', 'full'] as const)
    router.get(`/${stream}.mjpg`, (_request, response) => {
      if (scene.fault(name) === 'drop') return void response.destroy();
      open.add(response);
      response.writeHead(200, { 'content-type': `multipart/x-mixed-replace; boundary=${boundary}`, 'cache-control': 'no-store' });
      const stop = send(response, stream);
      response.on('close', () => {
        open.delete(response);
        stop();
      });
    });

  function send(response: Response, stream: StreamName): () => void {
    let frozen: Buffer | undefined;
    let busy = false;
    const timer = setInterval(async () => {
      const fault = scene.fault(name);
      if (fault === 'drop') return void response.destroy();
      if (fault === 'freeze' && frozen === undefined) frozen = Buffer.alloc(0);
      if (fault !== 'freeze') frozen = undefined;
      // A frozen camera keeps the line open and sends nothing more.
      if (busy || frozen || response.writableLength > 4_000_000) return;
      busy = true;
      const jpeg = await pictures(stream);
      busy = false;
      const give = () => !response.destroyed && writePart(response, fault === 'corrupt' ? rubbish(jpeg) : jpeg);
      if (fault === 'delay') setTimeout(give, lateMs);
      else give();
    }, streams[stream].everyMs);
    return () => clearInterval(timer);
  }
  return { router, close: () => open.forEach((r) => r.destroy()) };
}

function writePart(response: Response, jpeg: Buffer): void {
  response.write(`--${boundary}\r\ncontent-type: image/jpeg\r\ncontent-length: ${jpeg.length}\r\n\r\n`);
  response.write(jpeg);
  response.write('\r\n');
}

/** Something of the right length that is no picture. */
const rubbish = (jpeg: Buffer) => Buffer.alloc(jpeg.length, 'rubbish ');

export function takePictures(compose: Composer, scene: Pick<Scene, 'figures' | 'light'>): TakePicture {
  const emptyShots = new Map<string, Promise<Buffer>>();
  let taken = 0;
  return async (stream) => {
    const { width } = streams[stream];
    const light = scene.light();
    taken++;
    const made = await compose.compose(scene.figures(), light, width);
    if (made) return asTaken(made.pixels, light, taken);
    const key = `${light} ${width} ${compose.props()} ${taken % emptyTakes}`;
    if (!emptyShots.has(key))
      emptyShots.set(
        key,
        compose.empty(light, width).then((pixels) => asTaken(pixels, light, taken)),
      );
    return emptyShots.get(key)!;
  };
}
