// One try to connect, step by step: name, reach, port, sign-in, stream, and the pictures themselves.

import { lookup } from 'node:dns/promises';
import { connect } from 'node:net';
import sharp from 'sharp';
import type { MediaProfile } from '@nibber/core/formats';
import type { CapabilityName } from '@nibber/core/site';
import { Problem } from '@nibber/core/problem';
import type { Clock } from '../base/clock';
import { fetchStill } from '../intake/camera';
import { isRecording } from '../intake/recordings';
import { CameraProblem, notAPicture, steps, problemOf, type Step } from '../streams/problem';
import { sizeOf } from '../media/small';
import type { Login } from '../net/login';
import { openDevice, type Device } from './soap';

export type Wanted = { readonly kind: 'device' | 'stream'; readonly address: string; readonly login: Login | undefined };

export type StepTaken = {
  readonly step: Step;
  readonly state: 'waiting' | 'going' | 'done' | 'failed';
  readonly words: string | undefined;
  readonly hint: string | undefined;
  readonly milliseconds: number | undefined;
};

/** One lens. `picture` is a small JPEG; a channel without one cannot be saved. */
export type Channel = {
  readonly name: string;
  readonly low: string;
  readonly full: string | undefined;
  readonly still: string | undefined;
  /** The device's own name of the lens; undefined for what is no device. */
  readonly lens: string | undefined;
  width: number;
  height: number;
  picture: Buffer | undefined;
  problem: string | undefined;
};

export type FoundOut = {
  readonly maker: string;
  readonly model: string;
  readonly firmware: string;
  /** How far its clock is ahead of the site's, ms. */
  readonly clockAheadMs: number;
  readonly capabilities: readonly CapabilityName[];
  readonly relays: readonly string[];
};

export type Attempt = {
  readonly id: string;
  readonly wanted: Wanted;
  readonly madeAt: number;
  readonly state: 'trying' | 'done' | 'failed' | 'stopped';
  readonly steps: readonly StepTaken[];
  readonly device: FoundOut | undefined;
  readonly channels: readonly Channel[];
};

const connectMs = 4000;
const maxChannels = 32;
const previewWidth = 640;

export type Running = { -readonly [K in keyof Attempt]: Attempt[K] };

export async function run(
  attempt: Running,
  address: URL,
  closing: AbortSignal,
  clock: Clock,
  resolve: (address: string) => string,
  refused: () => void,
): Promise<void> {
  let began = performance.now();
  const set = (step: Step, change: Partial<StepTaken>) =>
    (attempt.steps = attempt.steps.map((s) => (s.step === step ? { ...s, ...change } : s)));
  const take = async <T>(step: Step, work: () => Promise<T>, words: (result: T) => string | undefined): Promise<T> => {
    if (closing.aborted) throw closing.reason;
    began = performance.now();
    set(step, { state: 'going' });
    const result = await work();
    set(step, { state: 'done', words: words(result), milliseconds: Math.round(performance.now() - began) });
    return result;
  };
  try {
    if (isRecording(address.href)) {
      for (const step of ['name', 'reach', 'port', 'sign-in'] as const) set(step, { state: 'done', words: 'a recording' });
      attempt.channels = [streamOf('Recording', address)];
      set('stream', { state: 'going' });
      await take('decode', () => seePictures(attempt, resolve, closing), seenWords);
      set('stream', { state: 'done' });
      attempt.state = 'done';
      return;
    }
    const { hostname } = address;
    const port = Number(address.port) || { 'http:': 80, 'https:': 443, 'rtsp:': 554 }[address.protocol]!;
    const host = hostname.replace(/^\[|\]$/g, '');
    const found = await take(
      'name',
      () => lookup(host),
      (at) => (at.address === host ? undefined : at.address),
    );
    const refusal = await take(
      'reach',
      () => knock(found.address, port),
      () => undefined,
    );
    await take(
      'port',
      async () => {
        if (refusal) throw refusal;
      },
      () => `port ${port} is open`,
    );
    if (attempt.wanted.kind === 'device') {
      const device = await take(
        'sign-in',
        () => openAndAsk(address.href, attempt.wanted.login, clock),
        ({ about }) => [about.maker, about.model].filter(Boolean).join(' '),
      );
      attempt.device = device.about;
      attempt.channels = await take(
        'stream',
        async () => {
          const channels = await channelsOf(device.device, device.media);
          if (await hasInfrared(device.device, device.imaging, channels))
            attempt.device = { ...device.about, capabilities: [...device.about.capabilities, 'infrared'] };
          return channels;
        },
        (channels) => (channels.length === 1 ? 'one lens' : `${channels.length} lenses`),
      );
    } else {
      attempt.channels = [streamOf(host, address)];
      // Sign-in and stream show themselves with the first picture.
      set('sign-in', { state: 'going' });
    }
    await take('decode', () => seePictures(attempt, resolve, closing), seenWords);
    for (const step of ['sign-in', 'stream'] as const) set(step, { state: 'done' });
    attempt.state = 'done';
  } catch (thrown) {
    if (closing.aborted) return;
    const problem = problemOf(thrown);
    if (problem.step === 'sign-in') refused();
    for (const { step } of attempt.steps.slice(0, steps.indexOf(problem.step))) set(step, { state: 'done' });
    for (const { step } of attempt.steps.slice(steps.indexOf(problem.step) + 1)) set(step, { state: 'waiting' });
    set(problem.step, {
      state: 'failed',
      words: problem.message,
      hint: problem.hint,
      milliseconds: Math.round(performance.now() - began),
    });
    attempt.state = 'failed';
  }
}

const streamOf = (name: string, address: URL): Channel => ({
  name,
  low: address.href,
  full: undefined,
  still: undefined,
  lens: undefined,
  width: 0,
  height: 0,
  picture: undefined,
  problem: undefined,
});

const seenWords = (channels: readonly Channel[]): string => {
  const seen = channels.filter((c) => c.picture).length;
  const [only] = channels;
  return channels.length === 1 ? `${only!.width} × ${only!.height}` : `${seen} of ${channels.length} send a picture`;
};

/** Resolves once a machine has answered, with its refusal where it does not open the port. @throws Error where none answers */
const knock = (host: string, port: number) =>
  new Promise<Error | undefined>((resolve, reject) => {
    const socket = connect({ host, port, timeout: connectMs });
    const end = (settle: () => void) => {
      socket.destroy();
      settle();
    };
    socket.once('connect', () => end(() => resolve(undefined)));
    // Where this program was busy meanwhile, an answer that has come is heard first.
    socket.once('timeout', () => setImmediate(() => end(() => reject(Object.assign(new Error('timed out'), { code: 'ETIMEDOUT' })))));
    socket.once('error', (error: Error & { code?: string }) => end(() => (error.code === 'ECONNREFUSED' ? resolve(error) : reject(error))));
  });

async function openAndAsk(address: string, login: Login | undefined, clock: Clock) {
  let device: Device;
  try {
    device = await openDevice(address, login);
  } catch (thrown) {
    if (!(thrown instanceof Problem)) throw thrown;
    throw new CameraProblem(
      'stream',
      'Something answers there, but it does not speak ONVIF.',
      'Turn on ONVIF in the camera’s settings, or enter the address of its stream.',
    );
  }
  const information = await device.information();
  const offered = await device.capabilities();
  const relays = offered.relays > 0 ? await device.relays() : [];
  const capabilities: CapabilityName[] = [
    ...(offered.audioOutputs > 0 ? (['speaker'] as const) : []),
    ...(offered.audioSources > 0 ? (['microphone'] as const) : []),
    // Every ONVIF device can be restarted (Core Specification, SystemReboot is mandatory).
    'restart',
  ];
  const clockAheadMs = Math.round(device.aheadMs - (clock.now() - clock.machine()));
  const about: FoundOut = { ...information, clockAheadMs, capabilities, relays };
  if (!offered.media)
    throw new CameraProblem('stream', 'The device offers no pictures.', 'Check that it is a camera or a recorder, and not another device.');
  return { device, about, media: offered.media, imaging: offered.imaging };
}

/** Many devices do not answer this; then someone ticks it who knows. */
async function hasInfrared(device: Device, imaging: string | undefined, channels: readonly Channel[]): Promise<boolean> {
  const lens = channels.find((c) => c.lens)?.lens;
  if (!imaging || !lens) return false;
  return device.hasInfrared(imaging, lens).catch(() => false);
}

async function channelsOf(device: Device, media: string): Promise<Channel[]> {
  const bySource = new Map<string, MediaProfile[]>();
  for (const profile of await device.profiles(media)) bySource.set(profile.source, [...(bySource.get(profile.source) ?? []), profile]);
  const channels: Channel[] = [];
  for (const profiles of [...bySource.values()].slice(0, maxChannels)) {
    const bySize = profiles.sort((a, b) => a.width * a.height - b.width * b.height);
    const [small, large] = [bySize[0]!, bySize.at(-1)!];
    const low = await device.streamUri(media, small.token);
    if (!low) continue;
    const full = large === small ? undefined : await device.streamUri(media, large.token);
    const still = await device.snapshotUri(media, large.token).catch(() => undefined);
    const name = bySource.size === 1 ? large.name : `Lens ${channels.length + 1}`;
    channels.push({
      name,
      low,
      full,
      still,
      lens: large.source || undefined,
      width: large.width,
      height: large.height,
      picture: undefined,
      problem: undefined,
    });
  }
  if (channels.length === 0)
    throw new CameraProblem('stream', 'The device offers no usable stream.', 'Set up a stream in the camera’s settings.');
  return channels;
}

/** The picture of every lens, from the stream that will be watched. @throws where not one gives any */
async function seePictures(attempt: Attempt, resolve: (address: string) => string, closing: AbortSignal): Promise<readonly Channel[]> {
  let first: unknown;
  for (const channel of attempt.channels) {
    if (closing.aborted) throw closing.reason;
    try {
      const { jpeg } = await fetchStill(resolve(channel.low), attempt.wanted.login, closing);
      const { width, height } = await sizeOf(jpeg).catch(() => {
        throw notAPicture('The data received is not a picture.');
      });
      channel.picture = await sharp(jpeg).resize({ width: previewWidth, withoutEnlargement: true }).jpeg().toBuffer();
      if (!channel.width) Object.assign(channel, { width, height });
    } catch (thrown) {
      first ??= thrown;
      channel.problem = problemOf(thrown).message;
    }
  }
  if (!attempt.channels.some((c) => c.picture)) throw first;
  return attempt.channels;
}
