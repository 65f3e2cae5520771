// Whether an id names something.

import type { FieldProblem } from '../problem';
import { withArticle } from '../words';

export const ids = (list: readonly { readonly id: string }[] | undefined): string[] => (list ?? []).map((e) => e.id);

export const orNone = (words: readonly string[]): string => words.join(', ') || 'none are defined';

/** One fault where an id is given and names nothing; none otherwise. */
export const unknown = (list: readonly string[], id: string | undefined, path: string, what: string): FieldProblem[] =>
  id === undefined || list.includes(id) ? [] : [{ path, wrong: `${id} is not ${withArticle(what)}`, allowed: orNone(list) }];
