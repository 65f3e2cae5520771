// npm run -s detect -- --video FILE | --images FOLDER --camera ID [--fps 5] [--start ISO]: the built-in detector and tracker
// over a recording, without a server. NDJSON frames on standard output, the form that replay takes.

import { spawn } from 'node:child_process';
import { createReadStream, readdirSync, readFileSync, statSync } from 'node:fs';
import path from 'node:path';
import { frameLine } from '@nibber/core/detections';
import { look, newBackground } from '@nibber/core/motion';
import { isInfrared, toGrey } from '@nibber/core/stills';
import { isoInstant, parseInstant } from '@nibber/core/time';
import { follow, isReal, newTracker, defaultTracker, type SeenObject } from '@nibber/core/tracks';
import { readConfig } from '../base/config';
import { loadDetector } from '../vision/detector';
import { lookAgainMs, movingShare, regionAround } from '../vision/region';
import { sizeOf, smallPicture } from '../media/small';
import { asTyped, fail, needed, readOptions } from './options';

const imageNames = /\.(jpe?g|png|webp)$/i;

async function main() {
  const options = readOptions(['video', 'images', 'camera', 'fps', 'start']);
  const camera = needed(options.camera, 'camera');
  const fps = Number(options.fps ?? 5);
  if (!(fps > 0 && fps <= 60)) fail(`--fps ${options.fps} is not allowed; allowed: above 0, up to 60`);
  const start = parseInstant(options.start ?? '2026-01-01T00:00:00Z');
  if (start === undefined) fail(`--start ${options.start} is not a time; allowed: ISO 8601 with an offset, such as 2026-06-01T21:00:00Z`);
  if ((options.video === undefined) === (options.images === undefined)) fail('Use either --video FILE or --images FOLDER');
  const pictures = options.video === undefined ? imagesOf(asTyped(options.images!)) : picturesOf(asTyped(options.video), fps);
  const detector = await loadDetector(readConfig().modelFolder);
  const tracker = newTracker();
  let background: ReturnType<typeof newBackground> | undefined;
  let [index, lookedAt] = [0, -Infinity];
  for await (const jpeg of pictures) {
    const at = start + Math.round((index * 1000) / fps);
    const { width, height } = await sizeOf(jpeg);
    const small = await smallPicture(jpeg, width, height);
    background ??= newBackground(small.width, small.height);
    const motion = look(background, toGrey(small.rgb, small.width, small.height).data, undefined);
    const open = tracker.tracks.filter((t) => isReal(t, defaultTracker)).map((t) => t.box);
    // The first picture has no background to move against; all of it is looked at.
    const mustLook = index === 0 || motion.parts.length > 0 || (open.length > 0 && at - lookedAt >= lookAgainMs);
    index++;
    if (!mustLook) continue;
    lookedAt = at;
    const input = detector.inputOf(small.aspect);
    const region = regionAround(motion.parts.length ? [...motion.parts, ...open] : open, small.aspect, input.width / input.height);
    const found = await detector.detect({ jpeg, region, brighten: isInfrared(small.rgb) });
    const objects = found.map((o) => ({ ...o, moves: movingShare(o.box, motion.parts) }));
    const looked = region[2] < 1 ? { looked: region } : {};
    const { seen } = follow(tracker, { at, camera, objects, begins: detector.nature.begin, ...looked });
    const named = objects.map((o): SeenObject => ({ ...o, track: seen.find((t) => t.box === o.box)?.name ?? '' }));
    const real = named.filter((o) => seen.some((t) => t.name === o.track && isReal(t, defaultTracker)));
    process.stdout.write(`${frameLine({ at, camera, objects: real, ...looked })}\n`);
  }
  if (index === 0) fail('No picture was found.');
  process.stderr.write(`${index} pictures, to ${isoInstant(start + ((index - 1) * 1000) / fps)}\n`);
}

async function* imagesOf(folder: string): AsyncGenerator<Buffer> {
  if (!statSync(folder, { throwIfNoEntry: false })?.isDirectory()) fail(`${folder} is not a folder`);
  for (const name of readdirSync(folder)
    .filter((n) => imageNames.test(n))
    .sort())
    yield readFileSync(path.join(folder, name));
}

/** Each picture of a recording as a JPEG, through ffmpeg. */
async function* picturesOf(file: string, fps: number): AsyncGenerator<Buffer> {
  createReadStream(file)
    .on('error', (e) => fail(e.message))
    .close();
  const ffmpeg = spawn(
    'ffmpeg',
    ['-loglevel', 'error', '-i', file, '-vf', `fps=${fps}`, '-f', 'image2pipe', '-c:v', 'mjpeg', '-q:v', '3', '-'],
    { stdio: ['ignore', 'pipe', 'pipe'] },
  );
  let words = '';
  ffmpeg.stderr.on('data', (d) => (words += d));
  const failed = new Promise<never>((_, reject) =>
    ffmpeg.on('error', () => reject(new Error('ffmpeg is needed for --video and is not installed.'))),
  );
  const ended = new Promise<number | null>((resolve) => ffmpeg.on('close', resolve));
  const end = Buffer.from([0xff, 0xd9]);
  let held = Buffer.alloc(0);
  failed.catch(() => {});
  for await (const piece of ffmpeg.stdout) {
    held = Buffer.concat([held, piece as Buffer]);
    for (let i = held.indexOf(end); i >= 0; i = held.indexOf(end)) {
      yield Buffer.from(held.subarray(0, i + 2));
      held = held.subarray(i + 2);
    }
  }
  if ((await Promise.race([ended, failed])) !== 0)
    throw new Error(`ffmpeg cannot read ${path.basename(file)}: ${words.trim().split('\n')[0]}`);
}

main().then(
  () => process.exit(0),
  (thrown: Error) => fail(thrown.message),
);
