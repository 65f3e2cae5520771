// What devices are asked, and what they say of themselves: tries to connect one, their clocks, their events.

import type { Ground } from '../db/ground';
import type { Station } from '../base/station';
import { startAttempts, type Attempts } from './attempt';
import { startCameraClocks, type CameraClocks } from './clocks';
import { listenToDevices, type DeviceEvents } from './listen';

export type Devices = Station & { readonly attempts: Attempts; readonly clocks: CameraClocks; readonly events: DeviceEvents };

/** @param resolve an address as a stream can be pulled from it */
export function startDevices({ site, bus, clock, record, cameraLogins, schedule }: Ground, resolve: (address: string) => string): Devices {
  const attempts = startAttempts(clock, resolve);
  const clocks = startCameraClocks(record, clock, cameraLogins.of);
  const events = listenToDevices(clock, cameraLogins.of, (camera) => bus.publish('said', { camera }));
  const look = () => clocks.look(site.file.cameras);
  const lookAtNew = () => void clocks.look(site.file.cameras.filter((c) => !clocks.of(c.id)));
  void look();
  schedule.every('0 */10 * * * *', 'Camera clocks', look);
  events.follow(site.file.cameras);
  bus.on('site', 'Devices', ({ kind }) => {
    if (kind !== 'site') return;
    events.follow(site.file.cameras);
    lookAtNew();
  });
  bus.on('arrived', 'Devices', ({ camera }) => !clocks.of(camera) && lookAtNew());
  return {
    name: 'devices',
    attempts,
    clocks,
    events,
    problems: () => [],
    async close() {
      attempts.close();
      await events.close();
    },
  };
}
