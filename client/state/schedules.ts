// A schedule while it is being changed.

import type { Schedule } from '@nibber/core/site';
import { draftsOf } from './draft';

/** Drafts by plan. */
export const schedules = draftsOf<Schedule>(
  'schedules',
  { id: '', name: '' },
  (content) => typeof content === 'object' && content !== null && 'id' in content && 'name' in content,
);
