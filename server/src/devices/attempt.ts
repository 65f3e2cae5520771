// Trying to connect to a camera, step by step, until its pictures have been seen. Nothing is kept here beyond a quarter of an hour.

import { randomUUID } from 'node:crypto';
import { Problem } from '@nibber/core/problem';
import type { Clock } from '../base/clock';
import { isRecording } from '../intake/recordings';
import { steps } from '../streams/problem';
import { run, type Attempt, type Running, type Wanted } from './attempt-steps';

export type { Attempt, Channel, FoundOut, StepTaken, Wanted } from './attempt-steps';

export type Attempts = {
  /** @throws Problem 'bad-input' for an address that cannot be one, 'too-many-tries' where a camera refused too often */
  start(wanted: Wanted): Attempt;
  /** @throws Problem 'not-found' */
  get(id: string): Attempt;
  stop(id: string): void;
  close(): void;
};

const heldMs = 15 * 60_000;
const maxHeld = 20;
/** So many refused sign-ins at one camera, then a rest. */
const maxRefusals = 3;
const refusalRestMs = 5 * 60_000;
const onvifPath = '/onvif/device_service';

/** @param resolve what a stream is pulled from; see `Recordings.resolve` */
export function startAttempts(clock: Clock, resolve: (address: string) => string): Attempts {
  const held = new Map<string, { attempt: Running; closing: AbortController }>();
  const refusals = new Map<string, number[]>();
  const isOld = ({ madeAt }: Attempt) => clock.machine() - madeAt > heldMs;

  const checkRefusals = (host: string) => {
    const recent = (refusals.get(host) ?? []).filter((at) => clock.machine() - at < refusalRestMs);
    refusals.set(host, recent);
    if (recent.length < maxRefusals) return;
    const minutes = Math.max(1, Math.ceil((refusalRestMs - (clock.machine() - recent[0]!)) / 60_000));
    throw new Problem(
      'too-many-tries',
      `${host} refused the login ${recent.length} times. To avoid a lockout, Nibber waits ${minutes} min.`,
      'Check the user name and password, for example on the camera’s label.',
    );
  };
  return {
    start(wanted) {
      const address = addressOf(wanted);
      resolve(address.href);
      checkRefusals(address.host);
      for (const [id, { attempt }] of held) if (isOld(attempt) || held.size >= maxHeld) drop(id);
      const closing = new AbortController();
      const attempt: Running = {
        id: randomUUID(),
        wanted: { ...wanted, address: address.href },
        madeAt: clock.machine(),
        state: 'trying',
        steps: steps.map((step) => ({ step, state: 'waiting', words: undefined, hint: undefined, milliseconds: undefined })),
        device: undefined,
        channels: [],
      };
      held.set(attempt.id, { attempt, closing });
      void run(attempt, address, closing.signal, clock, resolve, () => refusals.get(address.host)?.push(clock.machine()));
      return attempt;
    },
    get: (id) => find(id).attempt,
    stop: (id) => drop(find(id).attempt.id),
    close: () => held.forEach(({ closing }) => closing.abort()),
  };
  function drop(id: string) {
    const { attempt, closing } = held.get(id)!;
    closing.abort();
    if (attempt.state === 'trying') attempt.state = 'stopped';
    held.delete(id);
  }
  function find(id: string) {
    const found = held.get(id);
    if (!found || isOld(found.attempt))
      throw new Problem('not-found', 'This connection attempt has expired.', 'Start again with the address.');
    return found;
  }
}

/** @throws Problem 'bad-input' */
function addressOf({ kind, address: text }: Wanted): URL {
  const trimmed = text.trim();
  const isBare = !isRecording(trimmed) && !/^[a-z][a-z0-9+.-]*:\/\//i.test(trimmed);
  const bad = (why: string) =>
    new Problem('bad-input', why, 'Enter an address such as 192.168.1.20, http://camera.local/live.mjpg or rtsp://192.168.1.20/low.');
  let address: URL;
  try {
    address = new URL(isBare ? `http://${trimmed}` : trimmed);
  } catch {
    throw bad(`${trimmed || 'Nothing'} is not an address.`);
  }
  if (isRecording(address.href) && kind === 'stream') return address;
  if (!['http:', 'https:', 'rtsp:'].includes(address.protocol))
    throw bad(`${address.protocol.replace(':', '')} is not supported. Use http, https or rtsp.`);
  if (kind === 'device' && address.protocol === 'rtsp:') throw bad('This is a stream address. A device needs an http address.');
  if (address.username || address.password)
    throw new Problem('bad-input', 'The address contains a login.', 'Enter user name and password in their own fields.');
  if (kind === 'device' && address.pathname === '/') address.pathname = onvifPath;
  return address;
}
