// A question put to the record in plain words: what is asked for, of what, where and when. Nothing is guessed that is not said back.

import { classes, colourNames, typeNames } from '../boxes';
import { spanIn, type AskedSpan } from './spans';
import type { Instant } from '../time';

/** What there is to ask about: its names as people call them. */
export type AskedSite = {
  readonly zone: string;
  readonly cameras: readonly { readonly id: string; readonly name: string }[];
  readonly areas: readonly { readonly id: string; readonly name: string }[];
  readonly rules: readonly { readonly id: string; readonly name: string }[];
  readonly sensors: readonly { readonly id: string; readonly name: string }[];
  /** What is read off pictures at set times. */
  readonly readings?: readonly { readonly id: string; readonly name: string; readonly unit?: string | undefined }[];
};

/** When it was last (or first), how many, whether at all, or which they were. */
export type Wanted = 'last' | 'first' | 'count' | 'whether' | 'which';

/** A question as it was understood. What is empty asks for anything. */
export type Query = {
  readonly wanted: Wanted;
  /** Classes and types. */
  readonly kinds: readonly string[];
  readonly cameras: readonly string[];
  readonly areas: readonly string[];
  readonly rules: readonly string[];
  readonly sensors: readonly string[];
  /** Where readings are asked for, and not what was seen. */
  readonly readings?: readonly string[];
  readonly span: AskedSpan | null;
  /** Words that a description must hold, colours among them; `?` in one stands for any one character. */
  readonly words: readonly string[];
};

export const emptyQuery: Query = { wanted: 'which', kinds: [], cameras: [], areas: [], rules: [], sensors: [], span: null, words: [] };

/** A question as it may be asked by one person. `isThere`: false where a part named only what is not there; nothing can be found then. */
export type QueryWithin = { readonly query: Query; readonly isThere: boolean };

/** A question, from wherever it comes, cut down to what there is at a place, as the one who asks may see it. */
export function queryWithin(asked: Query, place: AskedSite): QueryWithin {
  const there: { readonly [K in keyof Query]?: readonly string[] } = {
    kinds: [...classes, ...typeNames],
    cameras: place.cameras.map((c) => c.id),
    areas: place.areas.map((a) => a.id),
    rules: place.rules.map((r) => r.id),
    sensors: place.sensors.map((s) => s.id),
    readings: (place.readings ?? []).map((r) => r.id),
  };
  const parts = Object.entries(there).flatMap(([name, known]) => {
    const ids = asked[name as 'kinds'];
    return ids ? [[name, ids.filter((id) => known.includes(id)), ids.length > 0] as const] : [];
  });
  return {
    query: { ...asked, ...Object.fromEntries(parts) },
    isThere: parts.every(([, kept, isAsked]) => !isAsked || kept.length > 0),
  };
}

const of = (kinds: readonly string[], words: string) => words.split(' ').map((word) => [word, kinds] as const);
/** What people call what the detector knows. */
const calledKinds: ReadonlyMap<string, readonly string[]> = new Map([
  ...of(
    ['person'],
    'person persons people somebody someone anybody anyone nobody who whom man men woman women child children kid kids boy girl visitor visitors stranger strangers guest guests customer customers hirer hirers',
  ),
  ...of(['vehicle'], 'vehicle vehicles van vans pickup pickups'),
  ...of(['car'], 'car cars'),
  ...of(['truck'], 'truck trucks lorry lorries'),
  ...of(['bus'], 'bus buses coach'),
  ...of(['motorcycle'], 'motorcycle motorcycles motorbike motorbikes moped'),
  ...of(['bicycle'], 'bicycle bicycles bike bikes cyclist cyclists'),
  ...of(['pet'], 'pet pets animal animals'),
  ...of(['dog'], 'dog dogs puppy'),
  ...of(['cat'], 'cat cats kitten'),
  ...of(['other-animal'], 'fox foxes deer goose geese bird birds'),
  ...of(['parcel'], 'parcel parcels package packages packet delivery deliveries post'),
]);
/** Called by a word of their own, which a description has to bear out. */
const saidToo = new Set(
  'van vans pickup pickups man men woman women child children kid kids boy girl fox foxes deer goose geese bird birds'.split(' '),
);
const single: { readonly [word: string]: string } = {
  vans: 'van',
  pickups: 'pickup',
  men: 'man',
  women: 'woman',
  children: 'child',
  kids: 'kid',
  foxes: 'fox',
  geese: 'goose',
  birds: 'bird',
  trailers: 'trailer',
  canoes: 'canoe',
  kayaks: 'kayak',
  boats: 'boat',
  bags: 'bag',
  hats: 'hat',
  coats: 'coat',
  boxes: 'box',
};
const colourWords: { readonly [word: string]: string } = { gray: 'grey', ...Object.fromEntries(colourNames.map((c) => [c, c])) };

/** Words that say nothing about what was seen. */
const plain = new Set(
  `a about all also an and any anything are around as at be been before being bring brought but by came can come comes coming could day days
   did do does done drive drives drove driven ever for from gave get go goes going gone got had has have having he her here him his how i if in inside into is it its just
   last first leave left like look looked look many me more most much my near no not of off often on once one ones onto or our out outside over
   park parked pass passed please recently see seen she show since so some something take taken tell than that the their them then there these they thing things this those time times to today
   too took turn turned up us walk walked walking was we went were what when where which while will with would you your again arrive arrived appear
   appeared happen happened enter entered visit visited stand standing stood cross crossed run ran running move moved moving latest newest recent earliest wearing wore dressed
   call called carry carrying carried ring rang find found notice noticed spot spotted during whether number list back open opened opens close closed shut told tell alert alerts alerted event events plate plates registration picture pictures camera cameras`.split(
    /\s+/,
  ),
);

/** What follows another question: only what it says again is asked again. */
const followsOn = /^(and|what about|how about|and what about|also|or|then|but)\b/;

/**
 * Reads a question.
 * @param before the question that this one may follow on, as it was understood
 * @param now the instant from which `yesterday` is counted
 */
export function understand(question: string, place: AskedSite, now: Instant, before?: Query): Query {
  const said = question.toLowerCase().replace(/[’`]/g, "'").replace(/\s+/g, ' ').trim();
  const wanted = wantedOf(said);
  // The mark at the end of a question, or of a word without figures, is no part of it; in a plate it stands for a character.
  const lower = (wanted ? said.replace(/\?$/, '') : said).replace(/(?<=^|\s)([^\s\d]*)\?+(?=\s|$)/g, '$1').trim();
  const timed = spanIn(lower, now, place.zone);
  let rest = ` ${(timed?.rest ?? lower).replace(/'s\b/g, '').replace(/[^\p{L}\p{N}?' -]+/gu, ' ')} `;
  const at = { cameras: [] as string[], sensors: [] as string[], areas: [] as string[], rules: [] as string[] };
  const places = (['cameras', 'sensors', 'areas', 'rules'] as const).flatMap((kind) =>
    place[kind].map(({ id, name }) => ({ kind, id, name: plainName(name) })),
  );
  const take = (name: string, where: string): boolean => {
    const pattern = new RegExp(`(?<=[\\s'"“])(?:(?:at|in|on|by|near|from) )?(?:the )?${escaped(name)}(?=[\\s?'"”])`);
    if (!pattern.test(where)) return false;
    rest = where.replace(pattern, ' ');
    return true;
  };
  // The longest name first: `Jetty steps` is not `Jetty`. A rule is called by all of its name, or it is not meant.
  for (const { kind, id, name } of [...places].sort((a, b) => b.name.length - a.name.length))
    if ((kind !== 'rules' || name.includes(' ')) && take(name, rest)) at[kind].push(id);
  // A camera by a word of its name that is of no other: `the gate` is the Lane gate.
  const wordsOf = (name: string) => name.split(' ').filter((w) => w.length > 2 && !plain.has(w) && !calledKinds.has(w));
  const cameras = places.filter((p) => p.kind === 'cameras');
  for (const { id, name } of cameras)
    for (const word of wordsOf(name))
      if (!at.cameras.includes(id) && cameras.filter((c) => wordsOf(c.name).includes(word)).length === 1 && take(word, rest))
        at.cameras.push(id);
  // A reading by its name, or by what it counts; where that is a kind of thing that is seen, it is the thing that is meant.
  const calls = ({ name, unit }: { readonly name: string; readonly unit?: string | undefined }) => {
    const counted = unit?.toLowerCase();
    const names = [plainName(name), ...(counted && !calledKinds.has(counted) ? [counted] : [])];
    return names.flatMap((n) => [n, n.replace(/s$/, '')]);
  };
  const readings = [...(place.readings ?? [])]
    .sort((a, b) => b.name.length - a.name.length)
    .flatMap((r) => (calls(r).some((n) => take(n, rest)) ? [r.id] : []));
  const kinds = new Set<string>();
  const words: string[] = [];
  for (const token of rest.replace(/'/g, ' ').split(' ').filter(Boolean)) {
    const bare = token.replace(/^[-?]+|[-?]+$/g, '');
    const kind = calledKinds.get(bare);
    if (kind) kind.forEach((k) => kinds.add(k));
    if (kind && !saidToo.has(bare)) continue;
    if (colourWords[bare]) words.push(colourWords[bare]);
    else if (isPlate(token)) words.push(token);
    else if (!plain.has(bare) && /\p{L}{2}/u.test(bare)) words.push(single[bare] ?? bare);
  }
  const own: Query = {
    ...at,
    wanted: wanted ?? 'which',
    kinds: [...kinds],
    span: timed?.span ?? null,
    words: [...new Set(words)],
    ...(readings.length ? { readings } : {}),
  };
  if (!before || !followsOn.test(lower)) return own;
  const anew = <T>(mine: readonly T[], theirs: readonly T[]) => (mine.length ? mine : theirs);
  const isElsewhere = at.cameras.length + at.areas.length > 0;
  return {
    wanted: wanted ?? before.wanted,
    kinds: anew(own.kinds, before.kinds),
    cameras: isElsewhere ? at.cameras : before.cameras,
    areas: isElsewhere ? at.areas : before.areas,
    rules: anew(at.rules, before.rules),
    sensors: anew(at.sensors, before.sensors),
    ...(readings.length || (before.readings && own.kinds.length === 0) ? { readings: readings.length ? readings : before.readings! } : {}),
    span: own.span ?? before.span,
    // Another thing is asked about by its own words.
    words: own.words.length || own.kinds.length ? own.words : before.words,
  };
}

function wantedOf(question: string): Wanted | undefined {
  if (/\bhow (many|often)\b|\bnumber of\b|\bcount\b/.test(question)) return 'count';
  if (/\b(first|earliest)\b/.test(question) && /\bwhen\b|\bwho\b|\bwhat\b|\bwhich\b|\btime\b/.test(question)) return 'first';
  if (/\bwhen\b|\b(last|latest|newest) (time|seen)\b|\bwhat time\b|\bhow long ago\b/.test(question)) return 'last';
  if (/^(and |but |or )?(did|was|were|has|have|had|is|are|does|do|any|anybody|anyone|anything)\b/.test(question)) return 'whether';
  if (/^(and )?(who|what|which|show|list|find)\b/.test(question) && !followsOnOnly(question)) return 'which';
  return undefined;
}
const followsOnOnly = (question: string) => /^(and )?what about\b/.test(question);

/** Letters with figures among them, perhaps with `?` for what is not known. */
const isPlate = (token: string) =>
  /^[\p{L}\p{N}?-]{3,10}$/u.test(token) && /\d/.test(token) && /\p{L}|\?/u.test(token) && !/^\d+(st|nd|rd|th|am|pm|h)$/.test(token);

const plainName = (name: string) => name.toLowerCase().replace(/[’`]/g, "'").replace(/'s\b/g, '');
const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
