// A short clip from pictures that were taken anyway: H.264 in MP4 through ffmpeg, at a steady rate so that a time is a place.

import { spawnSync } from 'node:child_process';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { runFfmpeg } from '../streams/run-ffmpeg';
import type { SafePicture } from '../base/picture';

export const clipPicturesASecond = 5;

/** A clip of some seconds that is not made by then will never be. */
const longestMs = 60_000;

export const hasFfmpeg = (): boolean => spawnSync('ffmpeg', ['-version'], { stdio: 'ignore' }).status === 0;

/** @returns MP4 bytes; the first picture is at 0 s @throws Error with ffmpeg's words */
export async function encodeClip(pictures: readonly SafePicture[]): Promise<Buffer> {
  const folder = await mkdtemp(path.join(tmpdir(), 'nibber-clip-'));
  const file = path.join(folder, 'clip.mp4');
  try {
    const args = [
      '-f',
      'mjpeg',
      '-framerate',
      String(clipPicturesASecond),
      '-i',
      '-',
      '-vf',
      'scale=trunc(iw/2)*2:trunc(ih/2)*2',
      '-c:v',
      'libx264',
      '-preset',
      'veryfast',
      '-crf',
      '27',
      '-pix_fmt',
      'yuv420p',
      '-threads',
      '1',
      '-movflags',
      '+faststart',
      '-y',
      file,
    ];
    const input = steady(pictures).map((p) => Buffer.from(p.jpeg));
    const ending = AbortSignal.timeout(longestMs);
    const { status, words } = await runFfmpeg({ args, input, ending, maxSeconds: longestMs / 1000 });
    if (status !== 0) throw new Error(words.split('\n')[0] || 'ffmpeg failed');
    return await readFile(file);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** The picture that was the newest at each tick of a steady rate. */
export function steady(pictures: readonly SafePicture[]): SafePicture[] {
  const out: SafePicture[] = [];
  const [first, last] = [pictures[0], pictures.at(-1)];
  if (!first || !last) return out;
  let i = 0;
  for (let at = first.at; at <= last.at; at += 1000 / clipPicturesASecond) {
    while (i + 1 < pictures.length && pictures[i + 1]!.at <= at) i++;
    out.push(pictures[i]!);
  }
  return out;
}
