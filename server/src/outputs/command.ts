// What a camera can be told to do: its lamp, its siren, a restart.

import { abilityOf } from '@nibber/core/capabilities';
import type { AbilityName, Camera } from '@nibber/core/site';
import { Trouble } from '@nibber/core/problem';
import { openDevice } from '../devices/soap';
import { troubleOf } from '../intake/problem';
import type { SignIn } from '../net/sign-in';

/** @throws Trouble 'unavailable' with the reason where it cannot be done */
export async function giveCommand(
  camera: Camera,
  command: AbilityName & ('lamp' | 'siren' | 'restart'),
  on: boolean,
  signInOf: (address: string) => Promise<SignIn | undefined>,
): Promise<void> {
  const ability = abilityOf(camera, command);
  const { source } = camera;
  if (!ability.can) throw new Trouble('unavailable', `${camera.name} has no ${ability.words}.`, ability.why);
  if (source.kind !== 'streamed' || !source.device)
    throw new Trouble('unavailable', `${camera.name} has no control address.`, 'Connect it as a device.');
  try {
    const device = await openDevice(source.device, await signInOf(source.device));
    if (command === 'restart') await device.restart();
    else await device.setRelay(camera.relays?.[command] ?? '', on);
  } catch (thrown) {
    const { message, remedy } = troubleOf(thrown);
    throw new Trouble('unavailable', message, remedy);
  }
}
