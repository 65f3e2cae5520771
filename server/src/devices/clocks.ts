// How accurate each camera's clock is: asked of the device, read from the Date of its answers, or derived from its events.

import { aheadByDate, aheadByEvents } from '@nibber/core/clocks';
import type { Camera } from '@nibber/core/site';
import type { Instant } from '@nibber/core/time';
import type { Clock } from '../base/clock';
import type { Record } from '../db';
import { fetchSigned, type Login } from '../net/login';
import { openDevice } from './soap';

export type CameraClock = { readonly aheadMs: number; readonly at: Instant } | { readonly unknown: string };

export type CameraClocks = {
  /** As it was found last. */
  of(camera: string): CameraClock | undefined;
  /** Asks the cameras again, one after the other; one that does not answer keeps what was known. */
  look(cameras: readonly Camera[]): Promise<void>;
};

const answerMs = 6000;
const lookedAt = 20;

export function startCameraClocks(
  record: Pick<Record, 'deliveries'>,
  clock: Clock,
  loginOf: (camera: string, address: string) => Promise<Login | undefined>,
): CameraClocks {
  const known = new Map<string, CameraClock>();
  /** By the site's clock, which need not be the machine's. */
  const measured = (aheadOfMachineMs: number): CameraClock => ({
    aheadMs: Math.round(aheadOfMachineMs - (clock.now() - clock.machine())),
    at: clock.now(),
  });
  const ask = async ({ id, source }: Camera): Promise<CameraClock | undefined> => {
    if (source.kind === 'paired') return byEvents(id);
    if (source.device) return measured((await openDevice(source.device, await loginOf(id, source.device))).aheadMs);
    const address = [source.still, source.full, source.low].find((a) => a?.startsWith('http'));
    if (!address) return { unknown: 'Its stream has no time, and it has no device address.' };
    const asked = clock.machine();
    const response = await fetchSigned(address, await loginOf(id, address), { signal: AbortSignal.timeout(answerMs) });
    const answered = clock.machine();
    await response.body?.cancel();
    const ahead = aheadByDate(response.headers.get('date'), asked, answered);
    return ahead === undefined ? { unknown: 'Its answers contain no time.' } : measured(ahead);
  };
  const byEvents = async (camera: string): Promise<CameraClock | undefined> => {
    const times = await record.deliveries.saidTimes(camera, lookedAt);
    const aheadMs = aheadByEvents(times.map(({ saidAt, at }) => ({ at: saidAt, arrivedAt: at })));
    return aheadMs === undefined ? undefined : { aheadMs, at: clock.now() };
  };
  return {
    of: (camera) => known.get(camera),
    async look(cameras) {
      for (const camera of cameras)
        try {
          const found = await ask(camera);
          if (found) known.set(camera.id, found);
        } catch {
          // It is silent, which is said elsewhere.
        }
    },
  };
}
