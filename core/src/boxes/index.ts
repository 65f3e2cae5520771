// Boxes on a picture, and the classes of things in them.

/** `[x, y, width, height]`, origin top left, each 0..1 of the picture as it is shown. */
export type Box = readonly [x: number, y: number, width: number, height: number];

/** x, y; 0..1 of the picture as it is shown. */
export type Point = readonly [x: number, y: number];

export const classes = ['person', 'vehicle', 'pet', 'face', 'plate', 'parcel', 'other'] as const;
export type ClassName = (typeof classes)[number];

/** Kinds within a class that a rule may name too. */
export const typesOf = {
  vehicle: ['car', 'truck', 'bus', 'motorcycle', 'bicycle'],
  pet: ['dog', 'cat', 'other-animal'],
} as const satisfies Partial<Record<ClassName, readonly string[]>>;
export type TypeName = (typeof typesOf)[keyof typeof typesOf][number];

export const typeNames: readonly TypeName[] = [...typesOf.vehicle, ...typesOf.pet];

/** The class that a class or a type belongs to; undefined for a word that is neither. */
export function classOf(name: string): ClassName | undefined {
  if ((classes as readonly string[]).includes(name)) return name as ClassName;
  const found = Object.entries(typesOf).find(([, types]) => (types as readonly string[]).includes(name));
  return found?.[0] as ClassName | undefined;
}

/** Names of colours that people would give to cloth and paint. */
export const colourNames = ['black', 'grey', 'white', 'red', 'orange', 'yellow', 'green', 'blue', 'purple', 'pink', 'brown'] as const;
export type ColourName = (typeof colourNames)[number];

/** What is known of how a thing looks. `upper` and `lower` are parts of a person. */
export type Looks = {
  readonly colour?: ColourName;
  readonly upper?: ColourName;
  readonly lower?: ColourName;
  readonly plate?: string;
  /** Fields of a description, by name. */
  readonly fields?: Readonly<Record<string, string>>;
};

/** One thing found in one picture. `score` 0..1. */
export type Detection = {
  readonly class: ClassName;
  readonly type?: TypeName;
  readonly score: number;
  readonly box: Box;
  readonly looks?: Looks;
};

export type Anchor = 'feet' | 'centre';

/** Feet: the middle of the lower edge, where a thing stands. */
export const anchorPoint = (box: Box, anchor: Anchor): Point => [
  box[0] + box[2] / 2,
  anchor === 'feet' ? box[1] + box[3] : box[1] + box[3] / 2,
];

export const area = (box: Box): number => box[2] * box[3];

export const centre = (box: Box): Point => [box[0] + box[2] / 2, box[1] + box[3] / 2];

/** Shared area of two boxes over the area of both together, 0..1. */
export function overlap(a: Box, b: Box): number {
  const shared = sharedArea(a, b);
  return shared && shared / (area(a) + area(b) - shared);
}

/** Shared area of two boxes over the area of the smaller, 0..1. */
export function shareOfSmaller(a: Box, b: Box): number {
  const shared = sharedArea(a, b);
  return shared && shared / Math.min(area(a), area(b));
}

function sharedArea(a: Box, b: Box): number {
  const w = Math.min(a[0] + a[2], b[0] + b[2]) - Math.max(a[0], b[0]);
  const h = Math.min(a[1] + a[3], b[1] + b[3]) - Math.max(a[1], b[1]);
  return w <= 0 || h <= 0 ? 0 : w * h;
}

/** The box made larger (or smaller) about its centre; not cut at the picture's edge. */
export const grown = (box: Box, by: number): Box => [
  box[0] - (box[2] * (by - 1)) / 2,
  box[1] - (box[3] * (by - 1)) / 2,
  box[2] * by,
  box[3] * by,
];

/** The part of a box that lies on the picture. */
export function onPicture(box: Box): Box {
  const x = Math.min(1, Math.max(0, box[0]));
  const y = Math.min(1, Math.max(0, box[1]));
  return [x, y, Math.max(0, Math.min(1, box[0] + box[2]) - x), Math.max(0, Math.min(1, box[1] + box[3]) - y)];
}

/** The pixels of a box, cut to the picture; a box at or over its edge is at least one pixel of it. */
export function inPixels(box: Box, width: number, height: number): { left: number; top: number; width: number; height: number } {
  const [x, y, w, h] = onPicture(box);
  const left = Math.min(width - 1, Math.floor(x * width));
  const top = Math.min(height - 1, Math.floor(y * height));
  return {
    left,
    top,
    width: Math.max(1, Math.min(width - left, Math.round(w * width))),
    height: Math.max(1, Math.min(height - top, Math.round(h * height))),
  };
}

/** The smallest box around several; undefined for none. */
export function around(boxes: readonly Box[]): Box | undefined {
  if (boxes.length === 0) return undefined;
  const x = Math.min(...boxes.map((b) => b[0]));
  const y = Math.min(...boxes.map((b) => b[1]));
  return [x, y, Math.max(...boxes.map((b) => b[0] + b[2])) - x, Math.max(...boxes.map((b) => b[1] + b[3])) - y];
}

export const holds = (outer: Box, p: Point): boolean =>
  p[0] >= outer[0] && p[0] <= outer[0] + outer[2] && p[1] >= outer[1] && p[1] <= outer[1] + outer[3];
