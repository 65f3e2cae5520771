// People in words.

import type { Person, Role } from '@nibber/core/site';
import { listed } from '@nibber/core/words';
import type { Site } from '../../state/api/types';

export const roleSays: { readonly [R in Role]: string } = {
  installer: 'Sets up cameras and rules',
  owner: 'Full access; can invite others',
  member: 'Own alerts, can set modes; cannot change rules or cameras',
  guest: 'View-only access until a set date',
};

type Named = readonly { readonly id: string; readonly name: string }[];

/** `Yard and the camera Porch`. */
export function accessWords(access: Person['access'] | null | undefined, site: Pick<Site, 'areas'>, cameras: Named): string {
  if (!access) return 'Everything';
  const named = (ids: readonly string[] | undefined, all: Named) => (ids ?? []).map((id) => all.find((e) => e.id === id)?.name ?? id);
  return listed([...named(access.areas, site.areas), ...named(access.cameras, cameras)], 'and', 'Nothing yet');
}
