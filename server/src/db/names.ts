// Names by which people sign in and are distinguished: normalised, and no two that look alike.

import { rectifyConfusion } from 'unicode-confusables';
import type { SiteFile } from '@nibber/core/site';
import { Problem } from '@nibber/core/problem';

/** A name as it is stored: composed, compatibility forms folded (NFKC, UAX #15), without signs that are not seen (Cf), blanks single. */
export const tidyName = (name: string): string =>
  name
    .normalize('NFKC')
    .replace(/\p{Cf}+/gu, '')
    .replace(/\s+/gu, ' ')
    .trim();

/** The same for names that a reader takes for one another (confusable characters, UTS #39). */
export const nameKey = (name: string): string => rectifyConfusion(tidyName(name)).toLowerCase();

/**
 * Asked of names that are new or changed, so that a site that has such names already can still be worked on.
 * @throws Problem 'conflict' where a name looks like another one; 'bad-input' where it holds what is not seen
 */
export function refuseLookalikes(before: Pick<SiteFile, 'people'>, after: Pick<SiteFile, 'people'>): void {
  const people = after.people ?? [];
  const changed = people.filter((p) => before.people?.find((b) => b.id === p.id)?.name !== p.name);
  for (const { id, name } of changed) {
    if (tidyName(name) !== name)
      throw new Problem('bad-input', `The name ${tidyName(name)} contains invisible or misleading characters.`, 'Type the name again.');
    const other = people.find((p) => p.id !== id && nameKey(p.name) === nameKey(name));
    if (other) throw new Problem('conflict', `${name} looks the same as ${other.name}, which already exists.`, 'Choose another name.');
  }
}
