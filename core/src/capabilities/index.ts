// What a camera can do, and of what it cannot, the reason.

import { capabilityNames, type CapabilityName, type Camera } from '../site';

export type Capability = { readonly name: 'detection' | CapabilityName; readonly words: string } & (
  { readonly can: true } | { readonly can: false; readonly why: string }
);

const words: Readonly<Record<Capability['name'], string>> = {
  detection: 'own detection',
  lamp: 'lamp',
  siren: 'siren',
  speaker: 'speaker',
  microphone: 'microphone',
  restart: 'restart from here',
  infrared: 'infrared light',
};

/** Everything a camera could do, in one order. */
export function capabilitiesOf(camera: Camera): Capability[] {
  return [detection(camera), ...capabilityNames.map((name) => capabilityOf(camera, name))];
}

export function capabilityOf(camera: Camera, name: CapabilityName): Capability {
  const own = { name, words: words[name] };
  return camera.capabilities?.includes(name) ? { ...own, can: true } : { ...own, can: false, why: whyNot(camera, name) };
}

function detection({ name, source, builtInDetection }: Camera): Capability {
  const own = { name: 'detection', words: words.detection } as const;
  if (source.kind === 'paired' && !builtInDetection?.classes) return { ...own, can: true };
  if (builtInDetection?.classes?.length) return { ...own, words: `${own.words} of ${builtInDetection.classes.join(', ')}`, can: true };
  const why =
    source.kind === 'paired' ? `${name} reports nothing. Turn on detection in its own app.` : 'Nibber analyses its pictures itself.';
  return { ...own, can: false, why };
}

function whyNot({ name, source, relays }: Camera, capability: CapabilityName): string {
  if (source.kind === 'paired') return `${name} has its own app. This is not available here.`;
  if (capability === 'infrared') return 'Not set. Tick it if the camera has one.';
  if (!source.device) return `${name} sends only pictures and has no control address.`;
  if ((capability === 'lamp' || capability === 'siren') && !relays?.[capability])
    return `No relay of this device is set to switch the ${capability}.`;
  return `Not supported by the device.`;
}
