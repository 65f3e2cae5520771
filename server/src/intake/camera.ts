// One streamed camera: pulls its pictures for as long as it runs, comes back after every failure, notices silence.

import type { Streamed } from '@nibber/core/site';
import { readBody, readPieces } from '../body';
import type { Clock } from '../clock';
import { log } from '../log';
import { boundaryOf, isJpeg, pictureCutter } from './multipart';

/** A picture with the time it was taken in. */
export type Picture = { readonly camera: string; readonly at: number; readonly jpeg: Buffer };

export type CameraHealth = {
  readonly state: 'connecting' | 'running' | 'silent';
  /** Since when, machine time. */
  readonly since: number;
  /** What went wrong last, in words. */
  readonly trouble: string | undefined;
  readonly picturesASecond: number;
};

export type Intake = { health(): CameraHealth; close(): void };

const silentAfterMs = 5000;
const firstWaitMs = 500;
const longestWaitMs = 15_000;
/** A still source is asked this often. */
const stillEveryMs = 1000;
const mostStillBytes = 12_000_000;

export function takeIn(
  camera: { readonly id: string; readonly source: Streamed },
  clock: Clock,
  deliver: (picture: Picture) => void,
): Intake {
  const closing = new AbortController();
  let state: CameraHealth['state'] = 'connecting';
  let since = clock.machine();
  let trouble: string | undefined;
  let recent: number[] = [];
  const become = (next: CameraHealth['state'], why?: string) => {
    if (next !== state) since = clock.machine();
    if (why !== undefined && why !== trouble) log.warn({ camera: camera.id, why }, 'camera trouble');
    if (next === 'running' && state !== 'running') log.info({ camera: camera.id }, 'camera runs');
    state = next;
    trouble = next === 'running' ? undefined : (why ?? trouble);
  };
  const take = (jpeg: Buffer) => {
    const now = clock.machine();
    recent = [...recent.filter((t) => now - t < 5000), now];
    become('running');
    deliver({ camera: camera.id, at: clock.now(), jpeg });
  };
  void keepPulling(camera.source.low, closing.signal, take, (why) => become('silent', why));
  return {
    health: () => {
      const now = clock.machine();
      return { state, since, trouble, picturesASecond: Math.round((recent.filter((t) => now - t < 5000).length / 5) * 10) / 10 };
    },
    close: () => closing.abort(),
  };
}

async function keepPulling(url: string, closing: AbortSignal, take: (jpeg: Buffer) => void, failed: (why: string) => void): Promise<void> {
  let wait = firstWaitMs;
  while (!closing.aborted) {
    try {
      await pull(url, closing, (jpeg) => {
        wait = firstWaitMs;
        take(jpeg);
      });
      failed('The camera ended its stream.');
    } catch (thrown) {
      if (closing.aborted) return;
      failed(troubleWords(thrown as Error & { cause?: { code?: string } }));
    }
    await pause(wait * (0.75 + Math.random() / 2), closing);
    wait = Math.min(longestWaitMs, wait * 2);
  }
}

async function pull(url: string, closing: AbortSignal, take: (jpeg: Buffer) => void): Promise<void> {
  // One controller for both ends: a signal combined of several may be garbage before it has fired.
  const ending = new AbortController();
  const stall = () => ending.abort(new Error(`No picture for ${silentAfterMs / 1000} s.`));
  const close = () => ending.abort();
  closing.addEventListener('abort', close);
  let watchdog = setTimeout(stall, silentAfterMs);
  try {
    const response = await fetch(url, { signal: ending.signal, redirect: 'error' });
    if (!response.ok || !response.body) throw new Error(`The camera answered ${response.status} ${response.statusText}.`);
    const seen = (jpeg: Buffer) => {
      clearTimeout(watchdog);
      watchdog = setTimeout(stall, silentAfterMs);
      take(jpeg);
    };
    const type = response.headers.get('content-type');
    if (type?.startsWith('image/jpeg')) return await pollStill(url, response, closing, seen);
    const boundary = boundaryOf(type);
    if (!boundary) throw new Error(`The camera sends ${type ?? 'an unnamed form'}; multipart/x-mixed-replace or image/jpeg is needed.`);
    const cut = pictureCutter(boundary, seen);
    await readPieces(response, ending.signal, cut);
  } finally {
    clearTimeout(watchdog);
    closing.removeEventListener('abort', close);
    ending.abort();
  }
}

/** A source that answers with one picture is asked again and again. */
async function pollStill(url: string, first: Response, closing: AbortSignal, take: (jpeg: Buffer) => void): Promise<void> {
  let response = first;
  while (!closing.aborted) {
    take(await stillOf(response));
    await pause(stillEveryMs, closing);
    response = await fetch(url, { signal: AbortSignal.timeout(silentAfterMs), redirect: 'error' });
  }
}

async function stillOf(response: Response): Promise<Buffer> {
  if (!response.ok) throw new Error(`The camera answered ${response.status} ${response.statusText}.`);
  const jpeg = await readBody(response, mostStillBytes, silentAfterMs);
  if (!isJpeg(jpeg)) throw new Error('The camera sent something that is not a JPEG picture.');
  return jpeg;
}

/** One picture now. @throws Error that says what went wrong */
export const fetchStill = async (url: string): Promise<Buffer> =>
  stillOf(await fetch(url, { signal: AbortSignal.timeout(silentAfterMs), redirect: 'error' }));

const reasons: Record<string, string> = {
  ECONNREFUSED: 'Nothing answers at the address. Is the camera on?',
  ENOTFOUND: 'The name of the camera is not known on this network.',
  EHOSTUNREACH: 'The address cannot be reached from here.',
  ECONNRESET: 'The camera broke the connection off.',
  UND_ERR_SOCKET: 'The camera broke the connection off.',
};

const troubleWords = (error: Error & { cause?: { code?: string } }): string => reasons[error.cause?.code ?? ''] ?? error.message;

const pause = (ms: number, closing: AbortSignal) =>
  new Promise<void>((resolve) => {
    const timer = setTimeout(done, ms);
    function done() {
      clearTimeout(timer);
      closing.removeEventListener('abort', done);
      resolve();
    }
    closing.addEventListener('abort', done);
  });
