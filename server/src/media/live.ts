// The live picture with sound: H.264 and AAC of an RTSP camera as fragmented MP4 (ISO/IEC 14496-12). What needs no change is passed on as it
// came; where the picture is turned or parts of it are private, it is made again with the masks burnt in.

import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import type { Polygon } from '@nibber/core/zones';
import type { Login } from '../net/login';
import { meaningOf, overRtsp, rtspInput } from '../streams/ffmpeg';
import { runFfmpeg } from '../streams/run-ffmpeg';
import { askDescription } from '../streams/rtsp';
import { maskOver, type SafeWay } from './safe';

export type LiveAsked = {
  readonly url: string;
  readonly login: Login | undefined;
  readonly way: SafeWay;
  readonly sound: boolean;
};

/** Fragments are sent as soon as there is so much of them, microseconds. */
const fragment = '200000';
/** Large enough for every stream; it is scaled to each. */
const maskSize = { width: 1920, height: 1080 };

/**
 * Passes a stream on until the signal ends it.
 * @param begun called once the camera has said that there is a stream
 * @throws CameraProblem, LoginRefused; nothing where the stream ended by itself
 */
export async function passLive(asked: LiveAsked, ending: AbortSignal, begun: () => void, take: (bytes: Buffer) => void): Promise<void> {
  const { url, login, way, sound } = asked;
  const description = await askDescription(url, login, ending);
  const mask = way.privacy.length ? await maskFile(way.privacy) : undefined;
  try {
    begun();
    const args = argumentsFor(description, way, sound, mask?.file);
    await overRtsp(url, login, (address) => pass(args, address, ending, take));
  } finally {
    if (mask) await rm(mask.folder, { recursive: true, force: true });
  }
}

function argumentsFor(description: string, { orientation }: SafeWay, sound: boolean, mask: string | undefined): string[] {
  const turns: string[] = [
    ...(orientation?.turnDegrees === 90
      ? ['transpose=1']
      : orientation?.turnDegrees === 180
        ? ['hflip', 'vflip']
        : orientation?.turnDegrees === 270
          ? ['transpose=2']
          : []),
    ...(orientation?.mirrored ? ['hflip'] : []),
  ];
  const isPlain = turns.length === 0 && mask === undefined && /H264\/90000/i.test(description);
  const turned = turns.join(',') || 'null';
  const graph = mask
    ? `[0:v]${turned}[turned];[1:v][turned]scale2ref[mask][whole];[whole][mask]overlay=format=auto,format=yuv420p[v]`
    : `[0:v]${turned},format=yuv420p[v]`;
  const pictures = isPlain
    ? ['-map', '0:v:0', '-c:v', 'copy']
    : [
        '-filter_complex',
        graph,
        '-map',
        '[v]',
        '-c:v',
        'libx264',
        '-preset',
        'ultrafast',
        '-tune',
        'zerolatency',
        '-crf',
        '25',
        '-g',
        '25',
        '-threads',
        '2',
      ];
  const isAac = /MPEG4-GENERIC|MP4A-LATM/i.test(description);
  const heard = sound ? ['-map', '0:a:0?', '-c:a', ...(isAac ? ['copy'] : ['aac', '-b:a', '64k'])] : ['-an'];
  return [
    '-fflags',
    'nobuffer',
    ...rtspInput,
    ...(mask ? ['-i', mask] : []),
    ...pictures,
    ...heard,
    '-f',
    'mp4',
    '-movflags',
    'empty_moov+default_base_moof+frag_keyframe',
    '-frag_duration',
    fragment,
    '-flush_packets',
    '1',
    'pipe:1',
  ];
}

async function pass(args: readonly string[], input: string, ending: AbortSignal, take: (bytes: Buffer) => void): Promise<void> {
  const end = await runFfmpeg({ args, input, ending, take }).catch((thrown: unknown) => {
    if (!ending.aborted) throw thrown;
  });
  if (end?.words) throw meaningOf(end.words);
}

/** The private parts as a picture that is laid over. */
async function maskFile(polygons: readonly Polygon[]): Promise<{ readonly file: string; readonly folder: string }> {
  const folder = await mkdtemp(path.join(tmpdir(), 'nibber-mask-'));
  const file = path.join(folder, 'mask.png');
  await writeFile(
    file,
    await sharp(maskOver(polygons, maskSize.width, maskSize.height))
      .png()
      .toBuffer(),
  );
  return { file, folder };
}
