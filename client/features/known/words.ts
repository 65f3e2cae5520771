// What a known thing is known by, in words.

import type { Site } from '../../state/api/types';

export type KnownThing = Site['known'][number];

export function knownBy({ plate, fields = {} }: Pick<KnownThing, 'plate' | 'fields'>): string {
  const parts = [...(plate ? [`plate ${plate}`] : []), ...Object.entries(fields).map(([field, value]) => `${field} ${String(value)}`)];
  return parts.length ? `Known by ${parts.join(', ')}` : 'Nothing to recognise it by yet. Add a plate or a description field.';
}

/** `colour: white, make: Marsh` as fields; undefined where it is not so. */
export function fieldsOf(text: string): Readonly<Record<string, string>> | undefined {
  const entries = text
    .split(/[,\n]/)
    .map((part) => part.trim())
    .filter(Boolean)
    .map((part) => /^([^:]{1,40}):\s*(.{1,80})$/.exec(part));
  if (entries.some((e) => e === null)) return undefined;
  return Object.fromEntries(entries.map((e) => [e![1]!.trim().toLowerCase(), e![2]!.trim()]));
}

export const fieldsText = (fields: KnownThing['fields']): string =>
  Object.entries(fields ?? {})
    .map(([field, value]) => `${field}: ${String(value)}`)
    .join(', ');

/** What is written on the screens of this feature. */
export const texts = {
  newPersonOrVehicle: 'New person or vehicle',
  name: 'Name',
  forExampleOurVan: 'For example: our van',
  thisNameIsAlreadyUsed: 'This name is already used.',
  plate: 'Plate',
  standsForAnyOneCharacter: '? stands for any one character',
  describedAs: 'Described as',
  fieldsOfItsDescriptionSuch: 'Fields of its description, such as colour: white, make: Marsh',
  writeNameValueSeparatedBy: 'Write name: value, separated by commas.',
  savedItWillBeRecognised: (name: string | number) => `${name} saved. It will be recognised from now on.`,
  show: 'Show',
  saveAsKnown: 'Save as known',
} as const;
