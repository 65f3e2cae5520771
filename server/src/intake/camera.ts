// One streamed camera: pulls its pictures for as long as it runs, comes back after every failure, notices silence.

import type { Streamed } from '@nibber/core/site';
import { readBody, readPieces } from '../net/body';
import type { Clock } from '../base/clock';
import type { Picture } from '../base/picture';
import { fetchSigned, type Login } from '../net/login';
import { log } from '../base/log';
import { pause } from '../base/pause';
import { boundaryOf, isJpeg, pictureCutter } from '../streams/multipart';
import { isRecording } from './recordings';
import { pullRecording, pullRtsp } from '../streams/ffmpeg';
import { notAPicture, problemOf, wrongAnswer } from '../streams/problem';

export type CameraHealth = {
  readonly state: 'connecting' | 'running' | 'silent';
  /** Since when, machine time. */
  readonly since: number;
  /** What went wrong last, in words. */
  readonly problem: string | undefined;
  readonly picturesASecond: number;
};

export type Intake = { health(): CameraHealth; close(): void };

const silentAfterMs = 5000;
const minBetweenMs = 10;
const maxAtOnce = 20;
const rateOverMs = 5000;
const firstWaitMs = 500;
const longestWaitMs = 15_000;
const refusedWaitsMs = [60_000, 5 * 60_000, 15 * 60_000];
const ffmpegPicturesASecond = 5;
/** A stream by RTSP begins with its next whole picture, which may be some seconds off. */
const firstPictureMs = 12_000;
/** A still source is asked this often. */
const stillEveryMs = 1000;
const maxStillBytes = 12_000_000;

export function takeIn(
  camera: { readonly id: string; readonly source: Streamed },
  login: () => Promise<Login | undefined>,
  clock: Clock,
  deliver: (picture: Picture) => void,
  resolve: (address: string) => string = (address) => address,
): Intake {
  const closing = new AbortController();
  let state: CameraHealth['state'] = 'connecting';
  let since = clock.machine();
  let problem: string | undefined;
  const recent = rateOf(clock);
  let [lastAt, room] = [clock.machine(), maxAtOnce];
  const become = (next: CameraHealth['state'], why?: string) => {
    if (next !== state) since = clock.machine();
    if (why !== undefined && why !== problem) log.warn({ camera: camera.id, why }, 'camera trouble');
    if (next === 'running' && state !== 'running') log.info({ camera: camera.id }, 'camera runs');
    state = next;
    problem = next === 'running' ? undefined : (why ?? problem);
  };
  const take = (jpeg: Buffer) => {
    const now = clock.machine();
    // No camera has so many pictures to show: what comes faster, but for a few that a network held up, is let go by.
    room = Math.min(maxAtOnce, room + Math.abs(now - lastAt) / minBetweenMs);
    lastAt = now;
    if (room < 1) return;
    room--;
    recent.count();
    become('running');
    deliver({ camera: camera.id, at: clock.now(), jpeg });
  };
  void keepPulling(
    () => resolve(camera.source.low),
    login,
    closing.signal,
    take,
    (why) => become('silent', why),
  );
  return {
    health: () => ({ state, since, problem, picturesASecond: recent.aSecond() }),
    close: () => closing.abort(),
  };
}

/** How many came a second, over the last five. */
function rateOf(clock: Clock) {
  const times: number[] = [];
  const forget = () => {
    while (times.length > 0 && Math.abs(clock.machine() - times[0]!) >= rateOverMs) times.shift();
  };
  return {
    count() {
      times.push(clock.machine());
      forget();
    },
    aSecond() {
      forget();
      return Math.round((times.length / (rateOverMs / 1000)) * 10) / 10;
    },
  };
}

async function keepPulling(
  address: () => string,
  login: () => Promise<Login | undefined>,
  closing: AbortSignal,
  take: (jpeg: Buffer) => void,
  failed: (why: string) => void,
): Promise<void> {
  let wait = firstWaitMs;
  let refusals = 0;
  while (!closing.aborted) {
    try {
      await pull(address(), await login(), closing, (jpeg) => {
        wait = firstWaitMs;
        refusals = 0;
        take(jpeg);
      });
      failed('The camera ended its stream.');
    } catch (thrown) {
      if (closing.aborted) return;
      const problem = problemOf(thrown);
      if (problem.step === 'sign-in') {
        // A camera that counts wrong tries must not be brought to lock everyone out.
        const longMs = refusedWaitsMs[Math.min(refusals++, refusedWaitsMs.length - 1)]!;
        failed(`${problem.message} Next try in ${Math.round(longMs / 60_000)} min.`);
        await pause(longMs, closing);
        continue;
      }
      failed(problem.message);
    }
    await pause(wait * (0.75 + Math.random() / 2), closing);
    wait = Math.min(longestWaitMs, wait * 2);
  }
}

/**
 * Pulls pictures from an address, whatever it speaks (a recording: as `Recordings.resolve` gives it), until the signal ends it, the stream ends, or no picture has come for five seconds.
 * @throws what `problemOf` explains
 */
export async function pull(url: string, login: Login | undefined, closing: AbortSignal, take: (jpeg: Buffer) => void): Promise<void> {
  // One controller for both ends: a signal combined of several may be garbage before it has fired.
  const ending = new AbortController();
  const watch = (ms: number) => setTimeout(() => ending.abort(new Error(`No picture for ${ms / 1000} s.`)), ms);
  const close = () => ending.abort(closing.reason);
  closing.addEventListener('abort', close);
  const isRtsp = url.startsWith('rtsp:');
  let watchdog = watch(isRtsp || isRecording(url) ? firstPictureMs : silentAfterMs);
  let isFirst = true;
  const seen = (jpeg: Buffer) => {
    // Made again once, for its other length; then it only begins again.
    if (isFirst) {
      clearTimeout(watchdog);
      watchdog = watch(silentAfterMs);
      isFirst = false;
    } else watchdog.refresh();
    take(jpeg);
  };
  try {
    if (closing.aborted) throw closing.reason;
    if (isRtsp) await pullRtsp(url, login, ffmpegPicturesASecond, ending.signal, seen);
    else if (isRecording(url)) await pullRecording(url.slice('recording:'.length), ffmpegPicturesASecond, ending.signal, seen);
    else await pullHttp(url, login, ending.signal, closing, seen);
  } finally {
    clearTimeout(watchdog);
    closing.removeEventListener('abort', close);
    ending.abort();
  }
}

async function pullHttp(
  url: string,
  login: Login | undefined,
  ending: AbortSignal,
  closing: AbortSignal,
  seen: (jpeg: Buffer) => void,
): Promise<void> {
  const response = await fetchSigned(url, login, { signal: ending });
  if (!response.ok || !response.body) throw wrongAnswer(response.status, response.statusText);
  const type = response.headers.get('content-type');
  if (type?.startsWith('image/jpeg')) return pollStill(url, login, response, closing, seen);
  const boundary = boundaryOf(type);
  if (!boundary) {
    const what = `The camera sends ${type ?? 'an unnamed format'}. It must be multipart/x-mixed-replace or image/jpeg.`;
    throw notAPicture(what);
  }
  await readPieces(response, ending, pictureCutter(boundary, seen));
}

/** A source that answers with one picture is asked again and again. */
async function pollStill(
  url: string,
  login: Login | undefined,
  first: Response,
  closing: AbortSignal,
  take: (jpeg: Buffer) => void,
): Promise<void> {
  let response = first;
  while (!closing.aborted) {
    take((await stillOf(response)).jpeg);
    await pause(stillEveryMs, closing);
    response = await fetchSigned(url, login, { signal: AbortSignal.timeout(silentAfterMs) });
  }
}

/** `takenAt` as the camera says it, its own clock; undefined where it does not. */
export type Still = { readonly jpeg: Buffer; readonly takenAt: number | undefined };

async function stillOf(response: Response): Promise<Still> {
  if (!response.ok) throw wrongAnswer(response.status, response.statusText);
  const jpeg = await readBody(response, maxStillBytes, silentAfterMs);
  if (!isJpeg(jpeg)) throw notAPicture('The camera sent data that is not a JPEG picture.');
  const takenAt = Date.parse(response.headers.get('last-modified') ?? '');
  return { jpeg, takenAt: Number.isFinite(takenAt) ? takenAt : undefined };
}

/** One picture now, from a still or a stream. @throws what `problemOf` explains */
export async function fetchStill(url: string, login: Login | undefined, closing?: AbortSignal): Promise<Still> {
  if (/^https?:/.test(url)) {
    const response = await fetchSigned(url, login, { signal: AbortSignal.timeout(silentAfterMs) });
    if (!/^multipart\//.test(response.headers.get('content-type') ?? '')) return stillOf(response);
    await response.body?.cancel();
  }
  const ending = new AbortController();
  const stop = () => ending.abort(closing?.reason);
  closing?.addEventListener('abort', stop);
  let jpeg: Buffer | undefined;
  try {
    await pull(url, login, ending.signal, (first) => {
      jpeg ??= first;
      ending.abort();
    });
  } catch (thrown) {
    if (!jpeg) throw thrown;
  } finally {
    closing?.removeEventListener('abort', stop);
  }
  if (!jpeg) throw notAPicture('The stream ended before a picture came.');
  return { jpeg, takenAt: undefined };
}
