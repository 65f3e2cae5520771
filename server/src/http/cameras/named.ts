// The camera that a path names.

import type { Camera } from '@nibber/core/site';
import { Problem } from '@nibber/core/problem';
import type { SiteBook } from '../../db/site';

/** @throws Problem 'not-found' with the cameras there are */
export function namedCamera({ file }: Pick<SiteBook, 'file'>, id: string): { readonly camera: Camera } {
  const camera = file.cameras.find((c) => c.id === id);
  if (!camera)
    throw new Problem('not-found', `Camera ${id} not found.`, `Cameras: ${file.cameras.map((c) => c.id).join(', ') || 'none yet'}.`);
  return { camera };
}
