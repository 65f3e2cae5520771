// A site file as text: read within limits, and changed in place so that its comments stay.

import { isCollection, isMap, isNode, isPair, isScalar, isSeq, LineCounter, parseDocument, type Document } from 'yaml';
import { isRecord, type FieldProblem } from '../problem';
import { upgrade } from './version-1';

const maxBytes = 1_000_000;

type Parsed = { readonly ok: true; readonly value: unknown } | { readonly ok: false; readonly problems: readonly FieldProblem[] };

/** A site file's text as a document of the present version. @param lines where its lines are to be found */
export function siteDocument(text: string, lines?: LineCounter): Document {
  const document: Document = parseDocument(text, { version: '1.2', prettyErrors: true, ...(lines ? { lineCounter: lines } : {}) });
  upgrade(document);
  return document;
}

/** The text of a site file in the present version: its words are replaced, everything else stays as it was written. One that is of it, or cannot be read, stays as it is. */
export function upgradeSite(text: string): string {
  if (!/nibber["']?\s*:\s*1\b/.test(text)) return text;
  const document: Document = parseDocument(text, { version: '1.2' });
  if (document.errors.length) return text;
  const pieces: string[] = [];
  let at = 0;
  for (const [from, to, by] of [...upgrade(document)].sort(([a], [b]) => a - b)) {
    pieces.push(text.slice(at, from), by);
    at = to;
  }
  return pieces.join('') + text.slice(at);
}

/** YAML 1.2 (JSON is part of it) to a value. Aliases are limited, so that a small file cannot become a huge one. */
export function parseYaml(text: string): Parsed {
  if (text.length > maxBytes)
    return { ok: false, problems: [{ path: '', wrong: `is ${text.length} characters long`, allowed: `at most ${maxBytes}` }] };
  const document = siteDocument(text);
  const error = document.errors[0];
  if (error) {
    const place = error.linePos?.[0];
    return {
      ok: false,
      problems: [
        {
          path: place ? `line ${place.line}, column ${place.col}` : '',
          wrong: error.message.split('\n')[0]!.replace(/ at line \d+, column \d+:?$/, ''),
          allowed: 'YAML 1.2 or JSON',
        },
      ],
    };
  }
  try {
    return { ok: true, value: document.toJS({ maxAliasCount: 50 }) };
  } catch (thrown) {
    return { ok: false, problems: [{ path: '', wrong: String((thrown as Error).message), allowed: 'fewer aliases' }] };
  }
}

/** The line of a site file's text at which each fault is, from 1; where its place is not there, that of what it should be in. */
export function linesOf(text: string, problems: readonly FieldProblem[]): number[] {
  const counter = new LineCounter();
  const document = siteDocument(text, counter);
  return problems.map(({ path }) => {
    const said = /^line (\d+)/.exec(path)?.[1];
    if (said) return Number(said);
    const keys = path.split('/').filter(Boolean);
    for (let depth = keys.length; depth > 0; depth--) {
      const node: unknown = document.getIn(
        keys.slice(0, depth).map((key) => (/^\d+$/.test(key) ? Number(key) : key)),
        true,
      );
      if (isNode(node) && node.range) return counter.linePos(node.range[0]).line;
    }
    return 1;
  });
}

/** Keys from the top of the site file; an entry of a list is named by its id, or its index. */
export type SitePath = readonly (string | number)[];
/** A value of undefined takes away what stands there. */
export type SiteEdit = readonly [path: SitePath, value: unknown];

/**
 * Puts values at places of a site file's text, one after the other; everything else, comments included, stays as it is.
 * An id that no entry of a list has is that of an entry to be added.
 */
export function editSite(text: string, edits: readonly SiteEdit[]): string {
  const document = siteDocument(text);
  for (const [path, value] of edits) {
    const place = placeOf(document, path);
    if (value === undefined) {
      if (document.hasIn(place)) document.deleteIn(place);
      continue;
    }
    const node = document.createNode(value);
    if (isCollection(node)) flowInside(node);
    document.setIn(place, node);
  }
  return document.toString({ lineWidth: 120 });
}

/** The same path with indexes where entries of lists were named. */
function placeOf(document: Document, path: SitePath): (string | number)[] {
  const place: (string | number)[] = [];
  path.forEach((key, i) => {
    const list: unknown = place.length ? document.getIn(place) : document.contents;
    const before = path[i - 1];
    if (typeof key !== 'string' || !(isSeq(list) || (list === undefined && isListOfEntries(before)))) return void place.push(key);
    const index = isSeq(list) ? list.items.findIndex((item) => isMap(item) && item.get('id') === key) : -1;
    place.push(index >= 0 ? index : isSeq(list) ? list.items.length : 0);
  });
  return place;
}

/** Lists that may be absent, whose entries have ids. */
const listsOfEntries = [
  'areas',
  'people',
  'receivers',
  'services',
  'known',
  'schedules',
  'modes',
  'modeSchedules',
  'sensors',
  'cameras',
  'rules',
  'readings',
  'reminders',
  'zones',
  'lines',
];
const isListOfEntries = (key: unknown) => typeof key === 'string' && listsOfEntries.includes(key);

/** What stands at a path of a site that was read; undefined where there is nothing. */
export function valueAt(value: unknown, path: SitePath): unknown {
  return path.reduce<unknown>((at, key) => {
    if (Array.isArray(at)) return typeof key === 'number' ? at[key] : at.find((e) => isRecord(e) && e.id === key);
    return isRecord(at) ? at[key] : undefined;
  }, value);
}

/** Between braces some readers take a question mark for a key (YAML 1.1, 7.4; 1.2.2, 7.4.2): a text with one is quoted. */
function quoteIn(item: unknown): void {
  const scalar = isScalar(item) ? item : isPair(item) ? item.value : undefined;
  if (isScalar(scalar) && typeof scalar.value === 'string' && scalar.value.includes('?')) scalar.type = 'QUOTE_DOUBLE';
}

/** Points and other short lists are written on one line, as people write them. */
function flowInside(node: { items: unknown[]; flow?: boolean }): void {
  for (const item of node.items) {
    const inner = isCollection(item) ? item : (item as { value?: unknown } | null)?.value;
    if (!isCollection(inner)) continue;
    const isLeaf = inner.items.every((i) => !isCollection(i) && !isCollection((i as { value?: unknown } | null)?.value));
    if (isLeaf) {
      inner.flow = true;
      for (const part of inner.items) quoteIn(part);
    } else flowInside(inner as never);
  }
}
