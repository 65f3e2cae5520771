// Whether what was answered is of something that is known here: by its plate, or by all of the fields that are known of it.

import type { Looks } from '../boxes';
import { likeness } from '../sieve';
import type { Prompt, SiteFile } from '../site';
import type { Answered } from './request';

/** `isSure`: no two letter shapes had to be taken for one another. */
export type Recognised = { readonly name: string; readonly isSure: boolean };

type Known = NonNullable<SiteFile['known']>[number];

/** With fewer characters read on both sides a plate may be anyone's. */
const minRead = 3;
/** Shapes that are taken for one another on plates: common practice. */
const shapes: { readonly [character: string]: string } = { '0': 'O', '1': 'I', '8': 'B', '5': 'S' };
const shaped = (plate: string): string => [...plate.toUpperCase()].map((c) => shapes[c] ?? c).join('');

/** The first of the known that it is for certain; where none is, the first that it may be. */
export function recognised(known: readonly Known[], prompt: Prompt, fields: Answered['fields']): Recognised | undefined {
  const plates = (prompt.fields ?? [])
    .filter((f) => f.kind === 'plate')
    .flatMap(({ name }) => fields[name] ?? [])
    .map(String);
  const surely = known.find((k) => plates.some((p) => isPlateOf(k, p, likeness)) || hasFields(k, fields));
  if (surely) return { name: surely.name, isSure: true };
  const perhaps = known.find((k) => plates.some((p) => isPlateOf(k, p, (a, b) => likeness(shaped(a), shaped(b)))));
  return perhaps && { name: perhaps.name, isSure: false };
}

/** Two readings of one plate: what one is not sure of the other may know; where they differ no one knows. */
export function platesTogether(a: string, b: string): string {
  const sure = (plate: string) => [...plate].filter((c) => c !== '?').length;
  if (a.length !== b.length) return sure(a) >= sure(b) ? a : b;
  return [...a].map((c, i) => (c === '?' ? b[i]! : b[i] === '?' || b[i] === c ? c : '?')).join('');
}

/** What was answered as looks of the thing, by which rules know it. */
export function looksAnswered(prompt: Prompt, fields: Answered['fields']): Looks | undefined {
  const plate = (prompt.fields ?? []).filter((f) => f.kind === 'plate').flatMap(({ name }) => fields[name] ?? [])[0];
  const known = Object.entries(fields).map(
    ([name, value]) => [name, value === true ? 'yes' : value === false ? 'no' : String(value)] as const,
  );
  if (known.length === 0) return undefined;
  return { ...(plate === undefined ? {} : { plate: String(plate) }), fields: Object.fromEntries(known) };
}

/** `Our van: `, to stand before what was answered. */
export const recognisedWords = ({ name, isSure }: Recognised): string => `${isSure ? '' : 'Perhaps '}${name}: `;

function isPlateOf({ plate }: Known, read: string, isLike: typeof likeness): boolean {
  if (plate === undefined || !isLike(plate, read)) return false;
  const own = [...plate.replace(/[\s-]+/g, '')];
  return [...read].filter((c, i) => c !== '?' && own[i] !== '?').length >= minRead;
}

function hasFields({ fields: own }: Known, fields: Answered['fields']): boolean {
  const wanted = Object.entries(own ?? {});
  return wanted.length > 0 && wanted.every(([name, pattern]) => fields[name] !== undefined && likeness(pattern, String(fields[name])));
}
