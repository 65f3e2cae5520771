// Names and numbers of classes in foreign forms.

import type { ClassName, TypeName } from '../boxes';

export type Meaning = { readonly class: ClassName; readonly type?: TypeName };

/** Categories of the COCO 91-list that we know; the others are `other`. */
const coco: readonly (readonly [id: number, name: string, meaning: Meaning])[] = [
  [1, 'person', { class: 'person' }],
  [2, 'bicycle', { class: 'vehicle', type: 'bicycle' }],
  [3, 'car', { class: 'vehicle', type: 'car' }],
  [4, 'motorcycle', { class: 'vehicle', type: 'motorcycle' }],
  [6, 'bus', { class: 'vehicle', type: 'bus' }],
  [8, 'truck', { class: 'vehicle', type: 'truck' }],
  [16, 'bird', { class: 'other' }],
  [17, 'cat', { class: 'pet', type: 'cat' }],
  [18, 'dog', { class: 'pet', type: 'dog' }],
];

export const cocoMeaning = (id: number): Meaning => coco.find(([known]) => known === id)?.[2] ?? { class: 'other' };
export const cocoCategories = coco.map(([id, name]) => ({ id, name }));

/** The number of a thing's type or class; undefined where the list has none for it. A vehicle without a type is a car, a pet a dog. */
export function cocoCategory({ class: cls, type }: Meaning): number | undefined {
  const own = coco.find(([, , m]) => m.class === cls && m.type === type);
  const usual = cls === 'vehicle' ? 3 : cls === 'pet' ? 18 : undefined;
  return cls === 'other' ? undefined : (own?.[0] ?? usual);
}

/** Labels of MOT Challenge ground truth (2016), from memory; the others are left out. */
const mot: ReadonlyMap<number, Meaning> = new Map([
  [1, { class: 'person' }],
  [2, { class: 'person' }],
  [3, { class: 'vehicle', type: 'car' }],
  [4, { class: 'vehicle', type: 'bicycle' }],
  [5, { class: 'vehicle', type: 'motorcycle' }],
  [6, { class: 'vehicle' }],
  [7, { class: 'person' }],
] as const);

export const motMeaning = (label: number): Meaning | undefined => mot.get(label);
export const motLabel = ({ class: cls, type }: Meaning): number | undefined =>
  [...mot].find(([, m]) => m.class === cls && m.type === type)?.[0] ?? (cls === 'vehicle' ? 6 : undefined);

/** Class and vehicle types of ONVIF metadata, small letters. */
const onvif: Readonly<Record<string, Meaning>> = {
  human: { class: 'person' },
  person: { class: 'person' },
  humanbody: { class: 'person' },
  face: { class: 'face' },
  humanface: { class: 'face' },
  vehicle: { class: 'vehicle' },
  car: { class: 'vehicle', type: 'car' },
  truck: { class: 'vehicle', type: 'truck' },
  bus: { class: 'vehicle', type: 'bus' },
  bicycle: { class: 'vehicle', type: 'bicycle' },
  bike: { class: 'vehicle', type: 'bicycle' },
  motorcycle: { class: 'vehicle', type: 'motorcycle' },
  motorbike: { class: 'vehicle', type: 'motorcycle' },
  animal: { class: 'pet', type: 'other-animal' },
  dog: { class: 'pet', type: 'dog' },
  cat: { class: 'pet', type: 'cat' },
  licenseplate: { class: 'plate' },
  package: { class: 'parcel' },
};

export const onvifMeaning = (name: string): Meaning => onvif[name.trim().toLowerCase()] ?? { class: 'other' };

const onvifNames: Readonly<Record<ClassName, string>> = {
  person: 'Human',
  vehicle: 'Vehicle',
  pet: 'Animal',
  face: 'Face',
  plate: 'LicensePlate',
  parcel: 'Package',
  other: 'Other',
};

const onvifTypes: Readonly<Record<TypeName, string>> = {
  car: 'Car',
  truck: 'Truck',
  bus: 'Bus',
  motorcycle: 'Motorcycle',
  bicycle: 'Bicycle',
  dog: 'Dog',
  cat: 'Cat',
  'other-animal': 'Animal',
};

export const onvifName = ({ class: cls, type }: Meaning): string => (type ? onvifTypes[type] : onvifNames[cls]);
