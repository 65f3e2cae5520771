// Runs ffmpeg on what came from outside: with so much memory, so long where it has an end, and nothing of it left unheard.

import { spawn } from 'node:child_process';
import { CameraProblem } from './problem';

export type FfmpegRun = {
  readonly args: readonly string[];
  /** What stands on a command line is read by everyone on the machine: addresses with passwords are given here. */
  readonly input?: string | Iterable<Buffer>;
  readonly ending: AbortSignal;
  /** Each piece of standard output. What it throws ends the run. */
  readonly take?: (piece: Buffer) => void;
  /** Processor time, seconds, after which the system ends it; without, as long as it likes. */
  readonly maxSeconds?: number;
};
/** `words`: what it said on standard error, its last part. */
export type FfmpegEnd = { readonly status: number | null; readonly words: string };

const maxWords = 4000;
/** Address space, kB: a few times what a stream of 4K takes. */
const maxKilobytes = 4_000_000;

/**
 * The shell sets the limits and becomes ffmpeg; where a system knows none, it runs without.
 * @throws what `take` throws, or CameraProblem where ffmpeg is not installed; the signal's reason where that ended it
 */
export function runFfmpeg({ args, input = '', ending, take, maxSeconds }: FfmpegRun): Promise<FfmpegEnd> {
  const limits = `ulimit -v ${maxKilobytes} 2>/dev/null; ${maxSeconds === undefined ? '' : `ulimit -t ${maxSeconds} 2>/dev/null; `}`;
  return new Promise((resolve, reject) => {
    const ffmpeg = spawn('/bin/sh', ['-c', `${limits}exec ffmpeg "$@"`, 'ffmpeg', '-hide_banner', '-loglevel', 'error', ...args], {
      stdio: ['pipe', 'pipe', 'pipe'],
    });
    let words = '';
    let wrong: Error | undefined;
    const fail = (thrown: Error) => {
      wrong ??= thrown;
      stop();
    };
    const stop = () => ffmpeg.kill('SIGKILL');
    ending.addEventListener('abort', stop);
    ffmpeg.stderr.on('data', (d: Buffer) => (words = (words + d.toString()).slice(-maxWords)));
    ffmpeg.stdout.on('data', (piece: Buffer) => {
      try {
        take?.(piece);
      } catch (thrown) {
        fail(thrown as Error);
      }
    });
    ffmpeg.on('error', fail);
    for (const pipe of [ffmpeg.stdout, ffmpeg.stderr]) pipe.on('error', fail);
    // It may end before it has read all.
    ffmpeg.stdin.on('error', () => {});
    ffmpeg.on('close', (status) => {
      ending.removeEventListener('abort', stop);
      if (ending.aborted) reject(ending.reason as Error);
      else if (wrong) reject(wrong);
      // As a shell says that there is no such program (POSIX, 2.8.2).
      else if (status === 127) reject(noFfmpeg);
      else resolve({ status, words: words.trim() });
    });
    for (const piece of typeof input === 'string' ? [input] : input) ffmpeg.stdin.write(piece);
    ffmpeg.stdin.end();
    if (ending.aborted) stop();
  });
}

export const noFfmpeg = new CameraProblem(
  'decode',
  'ffmpeg is not installed. RTSP streams and recordings need it.',
  'Install it on the server: apt install ffmpeg.',
);
