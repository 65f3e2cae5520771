// A site file as text: read within limits, and changed in place so that its comments stay.

import { isCollection, parseDocument, type Document } from 'yaml';
import type { Fault } from '../trouble';

const mostBytes = 2_000_000;

type Parsed = { readonly ok: true; readonly value: unknown } | { readonly ok: false; readonly faults: readonly Fault[] };

/** YAML 1.2 (JSON is part of it) to a value. Aliases are limited, so that a small file cannot become a huge one. */
export function parseYaml(text: string): Parsed {
  if (text.length > mostBytes)
    return { ok: false, faults: [{ path: '', wrong: `is ${text.length} characters long`, allowed: `at most ${mostBytes}` }] };
  const document = parseDocument(text, { version: '1.2', prettyErrors: true });
  const error = document.errors[0];
  if (error) {
    const place = error.linePos?.[0];
    return {
      ok: false,
      faults: [
        { path: place ? `line ${place.line}, column ${place.col}` : '', wrong: error.message.split('\n')[0]!, allowed: 'YAML 1.2 or JSON' },
      ],
    };
  }
  try {
    return { ok: true, value: document.toJS({ maxAliasCount: 50 }) };
  } catch (thrown) {
    return { ok: false, faults: [{ path: '', wrong: String((thrown as Error).message), allowed: 'fewer aliases' }] };
  }
}

/**
 * Puts a value at a place of a site file's text; everything else, comments included, stays as it is.
 * @param path keys and list indexes from the top
 * @param value undefined takes away what stands there
 */
export function editSite(text: string, path: readonly (string | number)[], value: unknown): string {
  const document: Document = parseDocument(text, { version: '1.2' });
  if (value === undefined) document.deleteIn(path);
  else {
    const node = document.createNode(value);
    if (isCollection(node)) flowInside(node);
    document.setIn(path, node);
  }
  return document.toString({ lineWidth: 120 });
}

/** Points and other short lists are written on one line, as people write them. */
function flowInside(node: { items: unknown[]; flow?: boolean }): void {
  for (const item of node.items) {
    const inner = isCollection(item) ? item : (item as { value?: unknown } | null)?.value;
    if (!isCollection(inner)) continue;
    const isLeaf = inner.items.every((i) => !isCollection(i) && !isCollection((i as { value?: unknown } | null)?.value));
    if (isLeaf) inner.flow = true;
    else flowInside(inner as never);
  }
}
