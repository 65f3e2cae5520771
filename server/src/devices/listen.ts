// What devices say of themselves: ONVIF events, pulled from each device that a camera hangs on.

import type { CameraReport, ReportKind } from '@nibber/core/formats';
import type { Camera } from '@nibber/core/site';
import type { Instant } from '@nibber/core/time';
import type { Clock } from '../base/clock';
import { log } from '../base/log';
import { pause } from '../base/pause';
import { LoginRefused, type Login } from '../net/login';
import { openDevice } from './soap';

/** A state that a device has reported: `isActive` is undefined for momentary events. `at` is when we received it: the device's clock may be wrong. */
export type Said = { readonly kind: ReportKind; readonly at: Instant; readonly isActive: boolean | undefined };

export type DeviceEvents = {
  /** The newest of each kind. */
  of(camera: string): readonly Said[];
  /** Listens to the devices of these cameras, and to no other any more. */
  follow(cameras: readonly Camera[]): void;
  close(): Promise<void>;
};

/** States in which nothing can be seen as it should, in words. */
export const saysWords: { readonly [K in ReportKind]?: string } = {
  moved: 'it was turned or moved',
  'too-dark': 'its picture is too dark',
  'too-bright': 'its picture is too bright',
  'too-blurred': 'its picture is out of focus',
  'signal-lost': 'it has no video signal',
};

const lastsSeconds = 60;
const pullSeconds = 20;
const minBetweenMs = 1000;
const againMs = 30_000;
const refusedMs = 15 * 60_000;

type Hung = { readonly id: string; readonly lens: string | undefined };
type Ear = { cameras: Hung[]; readonly closing: AbortController; readonly done: Promise<void> };

/** @param changed called when a device reports a state that impairs its view */
export function listenToDevices(
  clock: Clock,
  loginOf: (camera: string, address: string) => Promise<Login | undefined>,
  changed: (camera: string) => void,
): DeviceEvents {
  const ears = new Map<string, Ear>();
  const said = new Map<string, Map<ReportKind, Said>>();

  const take = (cameras: readonly Hung[], report: CameraReport) => {
    const about = Object.entries(report.source).find(([name]) => /source/i.test(name))?.[1];
    // A message that names a lens is about the camera that hangs on it; others are about the whole device.
    const meant = cameras.filter((c) => !c.lens || !about || c.lens === about || !cameras.some((o) => o.lens === about));
    for (const { id } of meant) {
      const own = said.get(id) ?? new Map<ReportKind, Said>();
      said.set(id, own);
      if (report.operation === 'Deleted') own.delete(report.kind);
      else if (own.get(report.kind)?.isActive !== report.isActive || report.isActive === undefined)
        own.set(report.kind, { kind: report.kind, at: clock.now(), isActive: report.isActive });
    }
    if (saysWords[report.kind]) meant.forEach(({ id }) => changed(id));
  };

  async function listen(address: string, ear: Pick<Ear, 'cameras' | 'closing'>): Promise<void> {
    const { signal } = ear.closing;
    while (!signal.aborted) {
      try {
        const device = await openDevice(address, await loginOf(ear.cameras[0]!.id, address));
        const { events } = await device.capabilities();
        if (!events) return;
        const point = await device.subscribe(events, lastsSeconds);
        log.info({ device: address }, 'device events: subscribed');
        try {
          while (!signal.aborted) {
            const asked = performance.now();
            for (const report of await device.pull(point, pullSeconds, signal)) take(ear.cameras, report);
            // A device that answers at once, with nothing or without end, is not asked the faster for it.
            await pause(Math.max(0, minBetweenMs - (performance.now() - asked)), signal);
          }
        } finally {
          if (signal.aborted) await device.unsubscribe(point).catch(() => {});
        }
      } catch (thrown) {
        if (signal.aborted) return;
        log.debug({ device: address, why: (thrown as Error).message }, 'no device events');
        await pause(thrown instanceof LoginRefused ? refusedMs : againMs, signal);
      }
    }
  }

  const startEar = (address: string, cameras: Hung[]): Ear => {
    const own = { cameras, closing: new AbortController() };
    return Object.assign(own, { done: listen(address, own) });
  };
  return {
    of: (camera) => [...(said.get(camera)?.values() ?? [])],
    follow(cameras) {
      const wanted = new Map<string, Hung[]>();
      for (const { id, source } of cameras)
        if (source.kind === 'streamed' && source.device)
          wanted.set(source.device, [...(wanted.get(source.device) ?? []), { id, lens: source.lens }]);
      for (const [address, ear] of ears)
        if (!wanted.has(address)) {
          ear.closing.abort();
          ears.delete(address);
        }
      for (const [address, own] of wanted) {
        const ear = ears.get(address);
        if (ear) ear.cameras = own;
        else ears.set(address, startEar(address, own));
      }
      for (const id of said.keys()) if (!cameras.some((c) => c.id === id)) said.delete(id);
    },
    async close() {
      const all = [...ears.values()];
      all.forEach((e) => e.closing.abort());
      await Promise.all(all.map((e) => e.done));
    },
  };
}
