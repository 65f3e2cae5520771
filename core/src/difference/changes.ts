// What changed between two site files, in words.

import { isMap, isScalar, parseDocument, type Pair } from 'yaml';
import { siteDocument } from '../check';
import type { SiteFile } from '../site';

export type SiteChange = {
  readonly kind: 'added' | 'removed' | 'changed';
  /** Where, by names and ids rather than numbers: `rules/comes-in/confidence`. */
  readonly path: string;
  readonly words: string;
};

/** The parts of the file whose entries have ids, and what one of them is called. */
const nouns: Readonly<Record<string, string>> = {
  areas: 'area',
  people: 'person',
  receivers: 'receiver',
  services: 'AI service',
  known: 'known person or vehicle',
  schedules: 'schedule',
  modes: 'mode',
  modeSchedules: 'automatic mode change',
  sensors: 'sensor',
  cameras: 'camera',
  rules: 'rule',
  readings: 'reading',
  reminders: 'reminder',
  zones: 'zone',
  lines: 'line',
};

/** @returns nothing for files that mean the same, however they are written */
export const siteChanges = (before: SiteFile, after: SiteFile): SiteChange[] => compare(before, after, [], '');

type Tree = { readonly [key: string]: unknown };
const isTree = (v: unknown): v is Tree => typeof v === 'object' && v !== null && !Array.isArray(v);
const hasIds = (v: unknown): v is readonly (Tree & { readonly id: string; readonly name?: string })[] =>
  Array.isArray(v) && v.length > 0 && v.every((e) => isTree(e) && typeof e.id === 'string');

function compare(before: unknown, after: unknown, path: readonly string[], owner: string): SiteChange[] {
  if (isAlike(before, after)) return [];
  if (hasIds(before) || hasIds(after)) return compareLists(asList(before), asList(after), path, owner);
  if (isTree(before) && isTree(after)) {
    const keys = [...new Set([...Object.keys(before), ...Object.keys(after)])];
    return keys.flatMap((key) => compare(before[key], after[key], [...path, key], owner));
  }
  const place = [owner, wordsOfKeys(path)].filter(Boolean).join(': ');
  const full = path.join('/');
  if (before === undefined) return [{ kind: 'added', path: full, words: `${place} ${valueWords(after)} added` }];
  if (after === undefined) return [{ kind: 'removed', path: full, words: `${place} ${valueWords(before)} removed` }];
  return [{ kind: 'changed', path: full, words: `${place} ${valueWords(before)} → ${valueWords(after)}` }];
}

const asList = (v: unknown) => (hasIds(v) ? v : []);

/** Entries are known by their ids: one that moved in its list has not changed. */
function compareLists(
  before: readonly (Tree & { readonly id: string; readonly name?: string })[],
  after: typeof before,
  path: readonly string[],
  owner: string,
): SiteChange[] {
  const noun = nouns[path.at(-1) ?? ''] ?? 'entry';
  const called = (e: (typeof before)[number]) => `${noun} ${e.name ?? e.id}`;
  const place = (e: (typeof before)[number]) => [owner, called(e)].filter(Boolean).join(', ');
  const changes = before.flatMap((old): SiteChange[] => {
    const own = [...path, old.id];
    const next = after.find((e) => e.id === old.id);
    return next
      ? compare(old, next, own, capital(place(old)))
      : [{ kind: 'removed', path: own.join('/'), words: `${capital(place(old))} removed` }];
  });
  const added = after
    .filter((e) => !before.some((old) => old.id === e.id))
    .map((e): SiteChange => ({ kind: 'added', path: [...path, e.id].join('/'), words: `${capital(place(e))} added` }));
  return [...changes, ...added];
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** The keys below the last entry with an id, as words: `message description`. */
function wordsOfKeys(path: readonly string[]): string {
  const lastList = path.reduce((at, key, i) => (nouns[key] && i < path.length - 1 ? i + 1 : at), -1);
  return path
    .slice(lastList + 1)
    .map((key) => key.replace(/([A-Z])/g, ' $1').toLowerCase())
    .join(' ');
}

function valueWords(value: unknown): string {
  if (typeof value === 'string') return value;
  if (Array.isArray(value) && value.every((v) => typeof v === 'string' || typeof v === 'number'))
    return value.length ? value.join(', ') : 'nothing';
  const text = JSON.stringify(value) ?? 'nothing';
  return text.length > 60 ? `${text.slice(0, 57)}…` : text;
}

/** Whether two values mean the same: the order of keys means nothing. */
export const isAlike = (a: unknown, b: unknown): boolean => JSON.stringify(sorted(a)) === JSON.stringify(sorted(b));

function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted);
  if (!isTree(value)) return value;
  return Object.fromEntries(
    Object.entries(value)
      .filter(([, v]) => v !== undefined)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([k, v]) => [k, sorted(v)]),
  );
}

/**
 * A site as text, written upon the text that it came from: what did not change keeps its comments, its order and its way of writing.
 * @param base a site file's text; comments of entries that are no longer there go with them
 */
export function updateYaml(base: string, site: SiteFile): string {
  const document = siteDocument(base);
  if (document.errors.length || !isMap(document.contents)) return parseDocument(JSON.stringify(site)).toString({ lineWidth: 120 });
  const fresh = document.createNode(site);
  // Of every list and map that means the same, the old node stays.
  settle(document.contents as never, fresh as never);
  return document.toString({ lineWidth: 120 });

  function settle(old: { items: unknown[] }, next: { items: unknown[] }): void {
    if (isMap(old as never) && isMap(next as never)) {
      const pairs = next.items as Pair[];
      const known = old.items as Pair[];
      old.items = [
        ...known
          .filter((p) => pairs.some((q) => keyText(q) === keyText(p)))
          .map((p) =>
            merged(
              p,
              pairs.find((q) => keyText(q) === keyText(p))!,
            ),
          ),
        ...pairs.filter((q) => !known.some((p) => keyText(p) === keyText(q))),
      ];
    } else {
      const known = old.items as { items?: unknown[] }[];
      const taken = new Set<unknown>();
      old.items = (next.items as { items?: unknown[] }[]).map((n, i) => {
        const id = idOf(n);
        const same = id === undefined ? known[i] : known.find((k) => idOf(k) === id);
        if (!same || taken.has(same)) return n;
        taken.add(same);
        return mergedNode(same, n);
      });
    }
  }
  function merged(p: Pair, q: Pair): Pair {
    p.value = mergedNode(p.value as never, q.value as never);
    return p;
  }
  function mergedNode(old: { items?: unknown[] } | null, next: { items?: unknown[] } | null): unknown {
    if (!old || !next) return next;
    if (isScalar(old) && isScalar(next)) {
      if (old.value !== next.value) old.value = next.value;
      return old;
    }
    const isSameKind = isMap(old) === isMap(next) && old.items && next.items;
    if (!isSameKind) return next;
    settle(old as { items: unknown[] }, next as { items: unknown[] });
    return old;
  }
}

const keyText = (p: Pair): string => String((p.key as { value?: unknown }).value ?? p.key);

function idOf(node: unknown): string | undefined {
  if (!isMap(node as never)) return undefined;
  const found = (node as { items: Pair[] }).items.find((p) => keyText(p) === 'id');
  return found ? String((found.value as { value?: unknown }).value) : undefined;
}
