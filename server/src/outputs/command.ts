// Commands that a camera may accept: its lamp, its siren, a restart.

import { capabilityOf } from '@nibber/core/capabilities';
import type { CapabilityName, Camera } from '@nibber/core/site';
import { Problem } from '@nibber/core/problem';
import { openDevice } from '../devices/soap';
import { problemOf } from '../streams/problem';
import type { Login } from '../net/login';

/** @throws Problem 'unavailable' with the reason where it cannot be done */
export async function giveCommand(
  camera: Camera,
  command: CapabilityName & ('lamp' | 'siren' | 'restart'),
  on: boolean,
  loginOf: (address: string) => Promise<Login | undefined>,
): Promise<void> {
  const capability = capabilityOf(camera, command);
  const { source } = camera;
  if (!capability.can) throw new Problem('unavailable', `${camera.name} has no ${capability.words}.`, capability.why);
  if (source.kind !== 'streamed' || !source.device)
    throw new Problem('unavailable', `${camera.name} has no control address.`, 'Connect it as a device.');
  try {
    const device = await openDevice(source.device, await loginOf(source.device));
    if (command === 'restart') await device.restart();
    else await device.setRelay(camera.relays?.[command] ?? '', on);
  } catch (thrown) {
    const { message, hint } = problemOf(thrown);
    throw new Problem('unavailable', message, hint);
  }
}
