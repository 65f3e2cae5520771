// Words as they stand in a sentence.

const lists = {
  and: new Intl.ListFormat('en-GB', { type: 'conjunction' }),
  or: new Intl.ListFormat('en-GB', { type: 'disjunction' }),
} as const;

/** `a`, `a or b`, `a, b or c`; for none of them `none`. */
export const listed = (words: readonly string[], link: keyof typeof lists, none = ''): string =>
  words.length < 2 ? (words[0] ?? none) : lists[link].format(words);

const plurals = new Intl.PluralRules('en-GB');

/** `1 frame`, `2 frames`. @param many where it is not the same with an `s` */
export const counted = (n: number, one: string, many = `${one}s`): string => `${n} ${plurals.select(n) === 'one' ? one : many}`;

/** `an area`, `a camera`. */
export const withArticle = (noun: string): string => `${/^[aeiou]/i.test(noun) ? 'an' : 'a'} ${noun}`;

const longestId = 40;

/** An id made of a name (`Gîte, north` → `gite-north`) that is not taken. @param none for a name of which nothing is left */
export function idOf(name: string, taken: Iterable<string>, none: string): string {
  const base =
    name
      .normalize('NFKD')
      .replace(/[\u0300-\u036f]/g, '')
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, longestId - 4) || none;
  const others = new Set(taken);
  for (let n = 1; ; n++) {
    const id = n === 1 ? base : `${base}-${n}`;
    if (!others.has(id)) return id;
  }
}

const formats = new Map<number, Intl.NumberFormat>();
/** A number with so many decimal places: `1,234.50`. */
export function numberText(value: number, places = 0): string {
  let format = formats.get(places);
  if (!format)
    formats.set(places, (format = new Intl.NumberFormat('en-GB', { minimumFractionDigits: places, maximumFractionDigits: places })));
  return format.format(value);
}

const units = ['bytes', 'kB', 'MB', 'GB', 'TB'];
/** `640 kB`, `1.2 GB`. Decimal, as disks are sold (IEC 80000-13 keeps kB for 1000). */
export function bytesText(bytes: number): string {
  const step = bytes < 1 ? 0 : Math.min(units.length - 1, Math.floor(Math.log10(bytes) / 3));
  const value = bytes / 1000 ** step;
  return `${numberText(value, step > 0 && value < 10 ? 1 : 0)} ${units[step]}`;
}

const upToOnePlace = new Intl.NumberFormat('en-GB', { maximumFractionDigits: 1 });

/** `30 s`, `75 s`, `1.5 min`, `2 h`: in the unit in which it is short and still exact enough. Its symbol has no plural (ISO 80000-3). */
export function durationText(seconds: number): string {
  const [size, unit] = seconds < 90 && seconds !== 60 ? [1, 's'] : seconds < 5400 && seconds !== 3600 ? [60, 'min'] : [3600, 'h'];
  return `${upToOnePlace.format(seconds / size)} ${unit}`;
}
