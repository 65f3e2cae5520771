// What a camera can do, and of what it cannot, the reason.

import { abilityNames, type AbilityName, type Camera } from '../site';

export type Ability = { readonly name: 'detection' | AbilityName; readonly words: string } & (
  { readonly can: true } | { readonly can: false; readonly why: string }
);

const words: Readonly<Record<Ability['name'], string>> = {
  detection: 'own detection',
  lamp: 'lamp',
  siren: 'siren',
  speaker: 'speaker',
  microphone: 'microphone',
  restart: 'restart from here',
  infrared: 'infrared light',
};

/** Everything a camera could do, in one order. */
export function abilitiesOf(camera: Camera): Ability[] {
  return [detection(camera), ...abilityNames.map((name) => abilityOf(camera, name))];
}

export function abilityOf(camera: Camera, name: AbilityName): Ability {
  const own = { name, words: words[name] };
  return camera.can?.includes(name) ? { ...own, can: true } : { ...own, can: false, why: whyNot(camera, name) };
}

function detection({ name, source, reports }: Camera): Ability {
  const own = { name: 'detection', words: words.detection } as const;
  if (source.kind === 'paired' && !reports?.classes) return { ...own, can: true };
  if (reports?.classes?.length) return { ...own, words: `${own.words} of ${reports.classes.join(', ')}`, can: true };
  const why =
    source.kind === 'paired' ? `${name} reports nothing. Turn on detection in its own app.` : 'Nibber analyses its pictures itself.';
  return { ...own, can: false, why };
}

function whyNot({ name, source, relays }: Camera, ability: AbilityName): string {
  if (source.kind === 'paired') return `${name} has its own app. This is not available here.`;
  if (ability === 'infrared') return 'Not set. Tick it if the camera has one.';
  if (!source.device) return `${name} sends only pictures and has no control address.`;
  if ((ability === 'lamp' || ability === 'siren') && !relays?.[ability]) return `No relay of this device is set to switch the ${ability}.`;
  return `Not supported by the device.`;
}
