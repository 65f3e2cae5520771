// What ffmpeg reads for us, as JPEG pictures: a stream by RTSP, and a recording that runs round and round.

import { spawn } from 'node:child_process';
import type { SignIn } from '../net/sign-in';
import { pictureCutter } from './multipart';
import { askDescription } from './rtsp';
import { CameraTrouble, notAPicture, refused, troubleOf } from './trouble';

/** The boundary that ffmpeg's own multipart form has. */
const boundary = 'ffmpeg';
const mostWords = 4000;
const mostPixels = 40_000_000;

/**
 * Pulls pictures from a stream by RTSP until the signal ends it.
 * @param picturesASecond at most; a stream with fewer gives what it has
 * @throws CameraTrouble; nothing where the stream ended by itself
 */
export async function pullRtsp(
  url: string,
  signIn: SignIn | undefined,
  picturesASecond: number,
  ending: AbortSignal,
  take: (jpeg: Buffer) => void,
): Promise<void> {
  await askDescription(url, signIn, ending);
  await pullByFfmpeg(rtspInput, rtspAddress(url, signIn), picturesASecond, ending, take);
}

export const rtspInput = ['-f', 'concat', '-safe', '0', '-protocol_whitelist', 'pipe,rtsp,rtp,udp,tcp', '-i', 'pipe:0'] as const;

/** What ffmpeg is given by standard input: what stands on a command line, a password too, is read by everybody on the machine. */
export const rtspAddress = (url: string, signIn: SignIn | undefined): string =>
  `ffconcat version 1.0\nfile '${addressed(url, signIn)}'\noption rtsp_transport tcp\noption probesize 200000\noption analyzeduration 500000\n`;

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

function pullByFfmpeg(
  input: readonly string[],
  standardInput: string,
  picturesASecond: number,
  ending: AbortSignal,
  take: (jpeg: Buffer) => void,
): Promise<void> {
  return new Promise((done, failed) => {
    const ffmpeg = spawn(
      'ffmpeg',
      ['-hide_banner', '-loglevel', 'error', '-max_pixels', String(mostPixels), ...input, '-an', '-vf', `fps=${picturesASecond}`, '-c:v', 'mjpeg', '-q:v', '4', '-f', 'mpjpeg', 'pipe:1'], // prettier-ignore
      { stdio: ['pipe', 'pipe', 'pipe'] },
    );
    let words = '';
    let wrong: Error | undefined;
    const stop = () => ffmpeg.kill('SIGKILL');
    const cut = pictureCutter(boundary, take);
    ending.addEventListener('abort', stop);
    ffmpeg.stderr.on('data', (d: Buffer) => (words = (words + d.toString()).slice(-mostWords)));
    ffmpeg.stdout.on('data', (piece: Buffer) => {
      try {
        cut(piece);
      } catch (thrown) {
        wrong = thrown as Error;
        stop();
      }
    });
    ffmpeg.on('error', (error: Error & { code?: string }) => (wrong = error.code === 'ENOENT' ? noFfmpeg : error));
    ffmpeg.on('close', () => {
      ending.removeEventListener('abort', stop);
      if (ending.aborted) failed(ending.reason);
      else if (wrong) failed(troubleOf(wrong));
      else if (words.trim()) failed(meaningOf(words));
      else done();
    });
    ffmpeg.stdin.on('error', () => {});
    ffmpeg.stdin.end(standardInput);
    if (ending.aborted) stop();
  });
}

export const noFfmpeg = new CameraTrouble(
  'decode',
  'ffmpeg is not installed; a stream by RTSP, or a recording, needs it.',
  'Install it on the server: apt install ffmpeg.',
);

function addressed(url: string, signIn: SignIn | undefined): string {
  const address = new URL(url);
  if (signIn) {
    address.username = encodeURIComponent(signIn.name);
    address.password = encodeURIComponent(signIn.password);
  }
  return address.href.replaceAll("'", '%27');
}

/** ffmpeg's words say the whole address; only what they mean is passed on. */
export function meaningOf(words: string): CameraTrouble {
  if (/401 Unauthorized|403 Forbidden/.test(words)) return refused('The camera does not accept this name and password.');
  if (/Connection refused/.test(words)) return troubleOf({ code: 'ECONNREFUSED' });
  if (/Failed to resolve hostname/.test(words)) return troubleOf({ code: 'ENOTFOUND' });
  if (/No route to host|Network is unreachable|timed out/i.test(words)) return troubleOf({ code: 'EHOSTUNREACH' });
  const status = /method \w+ failed: (\d{3} [\w ]+)/.exec(words)?.[1];
  if (status)
    return new CameraTrouble(
      'stream',
      `The camera answered ${status.trim()}.`,
      'Check the path of the stream; it may need to be switched on in the camera.',
    );
  return notAPicture('The stream could not be decoded.');
}
