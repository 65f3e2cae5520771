// How a thing looks against what a rule asks: type, colour, plate, fields of a description.

import type { Looks } from '../boxes';
import type { LooksAsked } from '../site';

/** Whether a text is like a pattern: `?` on either side stands for any one character; capitals, spaces and dashes do not matter. */
export function likeness(pattern: string, text: string): boolean {
  const [a, b] = [plain(pattern), plain(text)];
  return a.length === b.length && [...a].every((c, i) => c === '?' || b[i] === '?' || c === b[i]);
}

const plain = (text: string): string => text.toUpperCase().replace(/[\s-]+/g, '');

type Answer = 'yes' | 'no' | 'unknown';

/** Whether all that is asked is so: `no` if anything is not, `unknown` if anything cannot be said. */
export function answers(asked: LooksAsked, type: string | undefined, looks: Looks | undefined): Answer {
  let answer: Answer = 'yes';
  const take = (known: boolean, isActive: () => boolean) => {
    if (!known) answer = answer === 'no' ? 'no' : 'unknown';
    else if (!isActive()) answer = 'no';
  };
  if (asked.types) take(type !== undefined, () => asked.types!.has(type!));
  if (asked.colours) take(looks?.colour !== undefined, () => asked.colours!.has(looks!.colour!));
  if (asked.upper) take(looks?.upper !== undefined, () => asked.upper!.has(looks!.upper!));
  if (asked.lower) take(looks?.lower !== undefined, () => asked.lower!.has(looks!.lower!));
  if (asked.plate !== undefined) take(looks?.plate !== undefined, () => likeness(asked.plate!, looks!.plate!));
  for (const [name, pattern] of asked.fields) take(looks?.fields?.[name] !== undefined, () => likeness(pattern, looks!.fields![name]!));
  return answer;
}

/** Whether the looks a rule requires are there, and those it excludes are not. What cannot be said is not required looks, nor excluded ones. */
export const looksPass = (
  require: LooksAsked | undefined,
  exclude: LooksAsked | undefined,
  type: string | undefined,
  looks: Looks | undefined,
): boolean => (!require || answers(require, type, looks) === 'yes') && (!exclude || answers(exclude, type, looks) !== 'yes');

/** What is asked, in words: `red or white truck, plate AB??`. */
export function askedWords(asked: LooksAsked): string {
  const or = (set: ReadonlySet<string>) => [...set].join(' or ');
  return [
    [asked.colours && or(asked.colours), asked.types && or(asked.types)].filter(Boolean).join(' '),
    asked.upper && `${or(asked.upper)} upper clothing`,
    asked.lower && `${or(asked.lower)} lower clothing`,
    asked.plate && `plate ${asked.plate}`,
    ...asked.fields.map(([name, pattern]) => `${name} ${pattern}`),
  ]
    .filter(Boolean)
    .join(', ');
}

/** How a thing looks, in words; `not known` where nothing is. */
export function looksWords(type: string | undefined, looks: Looks | undefined): string {
  const words = [
    [looks?.colour, type].filter(Boolean).join(' '),
    looks?.upper && `${looks.upper} upper clothing`,
    looks?.lower && `${looks.lower} lower clothing`,
    looks?.plate && `plate ${looks.plate}`,
    ...Object.entries(looks?.fields ?? {}).map(([name, value]) => `${name} ${value}`),
  ].filter(Boolean);
  return words.join(', ') || 'not known';
}
