// A plan of hours while it is being changed.

import type { Hours } from '@nibber/core/site';
import { draftsOf } from './draft';

/** Drafts by plan. */
export const hours = draftsOf<Hours>(
  'hours',
  { id: '', name: '' },
  (content) => typeof content === 'object' && content !== null && 'id' in content && 'name' in content,
);
