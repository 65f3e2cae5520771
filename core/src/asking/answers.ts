// What the record says to a question, in words. Counts come from the record; nothing is said that is not in it.

import { DateTime } from 'luxon';
import { listed, withArticle } from '../words';
import type { Instant } from '../time';
import type { AskedSite, Query } from './understand';

export type Found = {
  readonly count: number;
  readonly first: Instant | null;
  readonly last: Instant | null;
  /** Since when the cameras that were asked have been looking; null where nothing is kept of them. */
  readonly lookingSince: Instant | null;
  /** Where nothing was found: whether such a kind was ever recognised here; and of those that could be it, how many are described. */
  readonly isKindKnown?: boolean;
  readonly others?: { readonly seen: number; readonly described: number };
};

const kindWords: { readonly [kind: string]: readonly [one: string, many: string] } = {
  person: ['person', 'people'],
  vehicle: ['vehicle', 'vehicles'],
  pet: ['animal', 'animals'],
  bus: ['bus', 'buses'],
  'other-animal': ['other animal', 'other animals'],
};
const called = (kind: string, n: number): string => kindWords[kind]?.[n === 1 ? 0 : 1] ?? (n === 1 ? kind : `${kind}s`);

/** The thing that is asked about, in the number that fits: `white van`, `3 dogs`. */
function thing({ kinds, words }: Query, n: number): string {
  const what = kinds.length
    ? listed(
        kinds.map((k) => called(k, n)),
        'or',
      )
    : n === 1
      ? 'thing'
      : 'things';
  return words.length
    ? `${what} described with ${listed(
        words.map((w) => `“${w}”`),
        'and',
      )}`
    : what;
}

/** Where, as a part of a sentence with its blank before it; nothing where the whole site is meant. */
function where({ cameras, areas, sensors, rules }: Query, place: AskedSite): string {
  const name = (things: AskedSite['cameras'], id: string) => things.find((t) => t.id === id)?.name ?? id;
  const at = [
    ...cameras.map((c) => name(place.cameras, c)),
    ...sensors.map((s) => name(place.sensors, s)),
    ...areas.map((a) => name(place.areas, a)),
  ];
  const by = rules.map((r) => `“${name(place.rules, r)}”`);
  return `${at.length ? ` at ${listed(at, 'or')}` : ''}${by.length ? ` by ${listed(by, 'or')}` : ''}`;
}

/** `Tuesday 2 June, 17:12`, with the year where it is another. */
const whenWords = (at: Instant, now: Instant, zone: string): string => {
  const [then, here] = [DateTime.fromMillis(at, { zone, locale: 'en-GB' }), DateTime.fromMillis(now, { zone })];
  if (then.hasSame(here, 'day')) return `today at ${then.toFormat('HH:mm')}`;
  if (then.hasSame(here.minus({ days: 1 }), 'day')) return `yesterday at ${then.toFormat('HH:mm')}`;
  return `on ${then.toFormat(then.hasSame(here, 'year') ? 'cccc d LLLL' : 'cccc d LLLL yyyy')} at ${then.toFormat('HH:mm')}`;
};

/** One or two sentences that answer. */
export function answerOf(query: Query, found: Found, place: AskedSite, now: Instant): string {
  const { zone } = place;
  const at = where(query, place);
  const during = query.span ? ` ${query.span.words}` : '';
  if (found.count === 0) {
    const none = `${query.wanted === 'whether' ? 'No: no' : 'No'} ${thing(query, 1)} was detected${at}${during}.`;
    if (found.lookingSince === null) return `${none} No data is stored for ${at ? 'it' : 'this site'}.`;
    // A type that is not distinguished here may still have been there, and so may what was not described.
    if (found.isKindKnown === false)
      return `${none} Nibber has never detected ${withArticle(called(query.kinds[0]!, 1))}, so this is not conclusive.`;
    if (found.others && found.others.seen > 0) {
      const { seen, described } = found.others;
      const those = thing({ ...query, words: [] }, seen);
      return `${none} ${seen} ${those} ${seen === 1 ? 'was' : 'were'} detected there${query.span ? ' then' : ''}, of which ${described === 0 ? 'none was' : described === 1 ? '1 was' : `${described} were`} described.`;
    }
    // Before it began to look no one can know.
    const late = query.span?.from == null || found.lookingSince > query.span.from;
    return late ? `${none} Data goes back to ${whenWords(found.lookingSince, now, zone).replace(/^on /, '')}.` : none;
  }
  const one = thing(query, 1);
  const many = `${found.count} ${thing(query, found.count)} ${found.count === 1 ? 'was' : 'were'} detected${at}${during}`;
  switch (query.wanted) {
    case 'first':
      return `The first ${one} was detected${at} ${whenWords(found.first!, now, zone)}.`;
    case 'last':
      return `The last ${one} was detected${at} ${whenWords(found.last!, now, zone)}.`;
    case 'whether':
      return `Yes: ${many}, the last ${whenWords(found.last!, now, zone)}.`;
    case 'count':
    case 'which':
      return `${many}${found.count === 1 ? `, ${whenWords(found.last!, now, zone)}` : ''}.`;
  }
}

/** What readings said, in words; of a number its least and most, where they differ. */
export type FoundRead = {
  readonly count: number;
  readonly shown: { readonly at: Instant; readonly name: string; readonly words: string } | null;
  readonly range: readonly [min: string, max: string] | null;
};

/** What was read last (or first) of what is asked for, and between what the others lay. */
export function answerOfReadings(query: Query, { count, shown, range }: FoundRead, place: AskedSite, now: Instant): string {
  const names = listed(
    (query.readings ?? []).map((id) => place.readings?.find((r) => r.id === id)?.name ?? id),
    'or',
  );
  const during = query.span ? ` ${query.span.words}` : '';
  const said = query.words.length
    ? ` that says ${listed(
        query.words.map((w) => `“${w}”`),
        'and',
      )}`
    : '';
  if (!shown) return `There is no reading of ${names}${said}${during}.`;
  const others =
    count > 1 ? ` ${count} readings${during}${range && range[0] !== range[1] ? `, from ${range[0]} to ${range[1]}` : ''}.` : '';
  return `${shown.name}: ${shown.words}, read ${whenWords(shown.at, now, place.zone)}.${others}`;
}
