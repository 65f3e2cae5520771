// What ffmpeg reads for us, as JPEG pictures: a stream by RTSP, and a recording that runs round and round.

import type { Login } from '../net/login';
import { pictureCutter } from './multipart';
import { askDescription } from './rtsp';
import { runFfmpeg } from './run-ffmpeg';
import { CameraProblem, notAPicture, refused, problemOf } from './problem';

/** The boundary that ffmpeg's own multipart form has. */
const boundary = 'ffmpeg';
const maxPixels = 40_000_000;

/**
 * Pulls pictures from a stream by RTSP until the signal ends it.
 * @param picturesASecond at most; a stream with fewer gives what it has
 * @throws CameraProblem; nothing where the stream ended by itself
 */
export async function pullRtsp(
  url: string,
  login: Login | undefined,
  picturesASecond: number,
  ending: AbortSignal,
  take: (jpeg: Buffer) => void,
): Promise<void> {
  await askDescription(url, login, ending);
  await overRtsp(url, login, (address) => pullByFfmpeg(rtspInput, address, picturesASecond, ending, take));
}

/** What is sent over the connection itself gets through everywhere; some cameras send only datagrams (RFC 2326, 461: Unsupported Transport). */
const transports = ['tcp', 'udp'] as const;
const sendsDatagrams = new Set<string>();

/** Reads a stream over the connection, or by datagrams from cameras that offer nothing else; those are known the next time. */
export async function overRtsp(url: string, login: Login | undefined, read: (address: string) => Promise<void>): Promise<void> {
  const [first, second] = sendsDatagrams.has(url) ? [...transports].reverse() : transports;
  try {
    await read(rtspAddress(url, login, first!));
  } catch (thrown) {
    if (!(thrown instanceof OtherTransport)) throw thrown;
    await read(rtspAddress(url, login, second!));
    if (second === 'udp') sendsDatagrams.add(url);
    else sendsDatagrams.delete(url);
  }
}

/** The camera does not send in the way in which it was asked. */
class OtherTransport extends CameraProblem {
  constructor() {
    super('stream', 'The camera sends neither over TCP nor over UDP.', 'Turn on RTP over TCP in the camera, or allow UDP to this machine.');
  }
}

export const rtspInput = ['-f', 'concat', '-safe', '0', '-protocol_whitelist', 'pipe,rtsp,rtp,udp,tcp', '-i', 'pipe:0'] as const;

/** What ffmpeg is given by standard input: what stands on a command line, a password too, is read by everyone on the machine. */
const rtspAddress = (url: string, login: Login | undefined, transport: (typeof transports)[number]): string =>
  `ffconcat version 1.0\nfile '${addressed(url, login)}'\noption rtsp_transport ${transport}\noption probesize 200000\noption analyzeduration 500000\n`;

/** Forms that name no other file: a playlist would have ffmpeg open whatever it lists. */
const recordingForms = 'mov,matroska,webm,avi,mpegts,mpeg,mpegvideo,flv,ogg,asf,gif,mjpeg,h264,hevc';

/** Pulls pictures from a file at the speed at which it was taken, from its end on from its beginning again, until the signal ends it. */
export const pullRecording = (file: string, picturesASecond: number, ending: AbortSignal, take: (jpeg: Buffer) => void) =>
  pullByFfmpeg(
    ['-format_whitelist', recordingForms, '-protocol_whitelist', 'file', '-stream_loop', '-1', '-re', '-i', `file:${file}`],
    '',
    picturesASecond,
    ending,
    take,
  );

async function pullByFfmpeg(
  input: readonly string[],
  standardInput: string,
  picturesASecond: number,
  ending: AbortSignal,
  take: (jpeg: Buffer) => void,
): Promise<void> {
  const args = [
    '-max_pixels',
    String(maxPixels),
    ...input,
    '-an',
    '-vf',
    `fps=${picturesASecond}`,
    '-c:v',
    'mjpeg',
    '-q:v',
    '4',
    '-f',
    'mpjpeg',
    'pipe:1',
  ];
  const { words } = await runFfmpeg({ args, input: standardInput, ending, take: pictureCutter(boundary, take) }).catch(
    (thrown: unknown) => {
      throw ending.aborted ? thrown : problemOf(thrown);
    },
  );
  if (words) throw meaningOf(words);
}

function addressed(url: string, login: Login | undefined): string {
  const address = new URL(url);
  if (login) {
    address.username = encodeURIComponent(login.name);
    address.password = encodeURIComponent(login.password);
  }
  return address.href.replaceAll("'", '%27');
}

/** ffmpeg's words say the whole address; only what they mean is passed on. */
export function meaningOf(words: string): CameraProblem {
  if (/401 Unauthorized|403 Forbidden/.test(words)) return refused('The camera does not accept this name and password.');
  if (/Connection refused/.test(words)) return problemOf({ code: 'ECONNREFUSED' });
  if (/Failed to resolve hostname/.test(words)) return problemOf({ code: 'ENOTFOUND' });
  if (/No route to host|Network is unreachable|timed out/i.test(words)) return problemOf({ code: 'EHOSTUNREACH' });
  if (/method SETUP failed: 461/.test(words)) return new OtherTransport();
  const status = /method \w+ failed: (\d{3} [\w ]+)/.exec(words)?.[1];
  if (status)
    return new CameraProblem(
      'stream',
      `The camera answered ${status.trim()}.`,
      'Check the path of the stream, and that the stream is on in the camera.',
    );
  return notAPicture('The stream could not be decoded.');
}
