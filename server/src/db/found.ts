// What is asked for among everything that was seen: a full-text index (SQLite FTS5) that the database keeps by itself, in the transaction of
// whatever changes.

import { QueryTypes } from 'sequelize';
import type { Instant } from '@nibber/core/time';
import { Problem } from '@nibber/core/problem';
import type { Database } from './database';
import type { SeenPart } from './page';

/** Of each that is not empty, one must be so; `words` are all of them in what a description says, `?` in one for any one character. */
export type FoundAsked = {
  readonly kinds: readonly string[];
  readonly cameras: readonly string[];
  readonly areas: readonly string[];
  readonly rules: readonly string[];
  readonly sensors: readonly string[];
  readonly words: readonly string[];
  readonly from: Instant | null;
  /** Only what has a description. */
  readonly isDescribed?: boolean;
  /** Not this instant any more. */
  readonly to: Instant | null;
};
/** `event`: the event of the track, the newest where there are several. */
export type FoundEvent = { readonly id: string; readonly at: Instant; readonly event: string | null };
export type FoundEvents = {
  readonly count: number;
  readonly first: Instant | null;
  readonly last: Instant | null;
  readonly events: readonly FoundEvent[];
};

/** What was asked of readings, and what they said; `least` and `most` of those that are numbers. */
export type FoundReadings = {
  readonly count: number;
  readonly first: Instant | null;
  readonly last: Instant | null;
  readonly min: number | null;
  readonly max: number | null;
  readonly ids: readonly string[];
};

export type FoundIn = {
  /** @param most of them, the newest of them first or the oldest */
  readings(
    asked: Pick<FoundAsked, 'words' | 'from' | 'to'> & { readonly readings: readonly string[] },
    order: 'newest' | 'oldest',
    max: number,
  ): Promise<FoundReadings>;
  /** @param most moments, the newest of them first or the oldest */
  search(asked: FoundAsked, order: 'newest' | 'oldest', max: number, seen?: SeenPart): Promise<FoundEvents>;
  /** When the first thing that is kept of these cameras (of all that is seen, where none is named) was seen. */
  since(cameras: readonly string[], seen?: SeenPart): Promise<Instant | null>;
};

const perInstant = 4096;
const longest = Number.MAX_SAFE_INTEGER / perInstant;
/** So many words of the record may stand for one with `?`. */
const maxWords = 200;
/** So many words may those of one question be written out to, and so many of them need the whole record's words to be gone through. */
const maxMeant = 3000;
const maxScans = 2;
/** With more `?` than these the words of the record are gone through, which takes longer the more there are. */
const maxWrittenOut = 2;
const characters = [...'abcdefghijklmnopqrstuvwxyz0123456789'];
/**
 * Each word that one with `?` can be, in Latin letters and figures, of which plates are made. What was read may itself hold a character that no one
 * could read, `_`: in a word with figures, one of them, where the question leaves room for it.
 */
function writtenOut(word: string): string[] {
  const all = (w: string): string[] => (w.includes('?') ? characters.flatMap((c) => all(w.replace('?', c))) : [w]);
  if (!/\d/.test(word)) return all(word);
  const open = word.split('?').length - 1;
  const unread = [...word].flatMap((c, i) => (open < maxWrittenOut || c === '?' ? `${word.slice(0, i)}_${word.slice(i + 1)}` : []));
  return [word, ...unread].flatMap(all);
}

const marksOf = (letter: string, ids: readonly string[]) => ids.map((id) => `${letter}_${id.replaceAll('-', '_')}`);

/**
 * The only way of a term into a MATCH: as a string of FTS5, with its quotes doubled (SQLite FTS5, 3.1).
 * @throws Problem 'bad-input' for control characters, at which SQLite would end the expression
 */
export function quotedTerm(term: string): string {
  if (/\p{Cc}/u.test(term)) throw new Problem('bad-input', 'The question holds a control character.', 'Type the question again.');
  return `"${term.replaceAll('"', '""')}"`;
}
const oneOf = (column: 'marks' | 'said', tokens: readonly string[]) => `${column} : (${tokens.map(quotedTerm).join(' OR ')})`;

const tooOpen = () => new Problem('bad-input', 'The question leaves too many characters open.', 'Use fewer question marks.');

export function openFound({ sequelize }: Database): FoundIn {
  const select = <T extends object>(sql: string, replacements: object) =>
    sequelize.query<T>(sql, { type: QueryTypes.SELECT, replacements: replacements as never });
  const seenMarks = (seen: SeenPart | undefined) =>
    seen ? [oneOf('marks', [...marksOf('c', seen.cameras), ...marksOf('a', seen.areas), 'none'])] : [];

  /**
   * The words of the record that each word of a question stands for; undefined where one stands for none. Only words that the record holds are
   * asked for.
   * @throws Problem 'bad-input' where they leave too much open
   */
  const meantBy = async (words: readonly string[]): Promise<string[][] | undefined> => {
    const plain = words.map((word) =>
      word
        .toLowerCase()
        .normalize('NFKD')
        .replace(/[^\p{L}\p{N}?]+/gu, ''),
    );
    const tried = plain.map((word) => (word.split('?').length - 1 > maxWrittenOut ? undefined : writtenOut(word)));
    if (tried.reduce((sum, t) => sum + (t?.length ?? 0), 0) > maxMeant || tried.filter((t) => !t).length > maxScans) throw tooOpen();
    const all: string[][] = [];
    for (const [i, word] of plain.entries()) {
      const rows = await select<{ term: string }>(
        `SELECT term FROM found_words WHERE ${tried[i] ? 'term IN (SELECT value FROM json_each(:tried))' : 'term GLOB :word'} LIMIT ${maxWords}`,
        { tried: JSON.stringify(tried[i] ?? []), word },
      );
      if (rows.length === 0) return undefined;
      all.push(rows.map((r) => r.term));
    }
    return all;
  };
  /** Undefined where nothing can be so; null where everything is. */
  const matchOf = async (asked: FoundAsked, seen: SeenPart | undefined): Promise<string | null | undefined> => {
    const { kinds, cameras, areas, rules, sensors, words } = asked;
    const parts = [
      ...seenMarks(seen),
      ...(asked.isDescribed ? [oneOf('marks', ['d'])] : []),
      ...(kinds.length ? [oneOf('marks', marksOf('k', kinds))] : []),
      ...(cameras.length || areas.length ? [oneOf('marks', [...marksOf('c', cameras), ...marksOf('a', areas)])] : []),
      ...(rules.length ? [oneOf('marks', marksOf('r', rules))] : []),
      ...(sensors.length ? [oneOf('marks', marksOf('s', sensors))] : []),
    ];
    const meant = await meantBy(words);
    if (!meant) return undefined;
    parts.push(...meant.map((terms) => oneOf('said', terms)));
    return parts.length ? parts.join(' AND ') : null;
  };
  return {
    async readings({ readings, words, from, to }, order, max) {
      const meant = await meantBy(words);
      if (!meant) return { count: 0, first: null, last: null, min: null, max: null, ids: [] };
      const parts = [oneOf('marks', marksOf('q', readings)), ...meant.map((terms) => oneOf('said', terms))];
      // The newest stand lowest.
      const given = {
        match: parts.join(' AND '),
        above: -Math.floor(Math.min(to ?? longest, longest)),
        upTo: -Math.max(0, Math.floor(from ?? 0)),
        max,
      };
      const where = `found MATCH :match AND found.rowid > :above * ${perInstant} AND found.rowid <= :upTo * ${perInstant}`;
      const all = `found JOIN moments ON moments.key = found.rowid JOIN reading_values ON reading_values.id = moments.moment WHERE ${where}`;
      const number = `iif(json_type(coalesce(corrected, value)) IN ('integer', 'real'), json_extract(coalesce(corrected, value), '$'), NULL)`;
      const [[sum], rows] = await Promise.all([
        select<Omit<FoundReadings, 'ids'>>(
          `SELECT count(*) AS count, min(at) AS first, max(at) AS last, min(${number}) AS "min", max(${number}) AS "max" FROM ${all}`,
          given,
        ),
        select<{ id: string }>(
          `SELECT reading_values.id AS id FROM ${all} ORDER BY found.rowid ${order === 'newest' ? 'ASC' : 'DESC'} LIMIT :max`,
          given,
        ),
      ]);
      return { ...sum!, ids: rows.map((r) => r.id) };
    },
    async search(asked, order, max, seen) {
      const match = await matchOf(asked, seen);
      if (match === undefined) return { count: 0, first: null, last: null, events: [] };
      const between = { match, from: Math.max(0, Math.floor(asked.from ?? 0)), to: Math.floor(Math.min(asked.to ?? longest, longest)) };
      // Everything is counted without the index of words.
      const [table, key] = match === null ? ['moments', 'key'] : ['found', 'rowid'];
      const where = `${match === null ? '' : 'found MATCH :match AND '}${key} >= :from * ${perInstant} AND ${key} < :to * ${perInstant}`;
      const direction = order === 'newest' ? 'DESC' : 'ASC';
      const [[sum], events] = await Promise.all([
        select<{ n: number; first: number | null; last: number | null }>(
          `SELECT count(*) AS n, min(${key}) / ${perInstant} AS first, max(${key}) / ${perInstant} AS last FROM ${table} WHERE ${where}`,
          between,
        ),
        select<FoundEvent>(
          `SELECT moments.moment AS id, moments.key / ${perInstant} AS at,
             (SELECT events.id FROM events WHERE (events.track = moments.moment OR events.id = moments.moment) AND events.test IS NULL ORDER BY events.at DESC LIMIT 1) AS event
           FROM (SELECT ${key} AS found FROM ${table} WHERE ${where} ORDER BY ${key} ${direction} LIMIT :max) AS f
           JOIN moments ON moments.key = f.found ORDER BY moments.key ${direction}`,
          { ...between, max },
        ),
      ]);
      return { count: sum!.n, first: sum!.first, last: sum!.last, events };
    },
    async since(cameras, seen) {
      const parts = [...seenMarks(seen), ...(cameras.length ? [oneOf('marks', marksOf('c', cameras))] : [])];
      if (parts.length === 0)
        return (
          (await select<{ at: number }>(`SELECT key / ${perInstant} AS at FROM moments WHERE key >= 0 ORDER BY key LIMIT 1`, {}))[0]?.at ??
          null
        );
      const match = parts.join(' AND ');
      const [first] = await select<{ at: number }>(
        `SELECT rowid / ${perInstant} AS at FROM found WHERE found MATCH :match AND rowid >= 0 ORDER BY rowid LIMIT 1`,
        { match },
      );
      return first?.at ?? null;
    },
  };
}
