// Taking one change back, where later ones may have come after it: only what it changed is put back, and only where no one has changed it since.

import { valueAt, type SiteEdit } from '../check';
import type { SiteFile } from '../site';
import { isAlike, siteChanges, type SiteChange } from './changes';

/**
 * @param before the site before the change, `after` it, and as it is `now`
 * @returns the edits that take it back; `clashes`: what of it was changed since, in words
 */
export function revertChange(before: SiteFile, after: SiteFile, now: SiteFile): { edits: SiteEdit[]; clashes: string[] } {
  const edits: SiteEdit[] = [];
  const clashes: string[] = [];
  for (const { path, words } of siteChanges(before, after)) {
    const keys = path.split('/');
    if (isAlike(valueAt(after, keys), valueAt(now, keys))) edits.push([keys, valueAt(before, keys)]);
    else clashes.push(words);
  }
  return { edits, clashes };
}

/** What has changed of a site at some places between two versions, in words; nothing where those places are alike. */
export function changesAt(paths: readonly (readonly (string | number)[])[], before: SiteFile, after: SiteFile): SiteChange[] {
  if (paths.every((path) => isAlike(valueAt(before, path), valueAt(after, path)))) return [];
  const places = paths.map((p) => p.join('/'));
  const all = siteChanges(before, after);
  const own = all.filter((c) => places.some((p) => c.path === p || c.path.startsWith(`${p}/`) || p.startsWith(`${c.path}/`)));
  return own.length ? own : all;
}
