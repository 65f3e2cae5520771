// A rule while it is being made or changed.

import type { Rule } from '@nibber/core/site';
import { draftsOf } from './draft';

export const rule = draftsOf<Rule>(
  'rule',
  { id: '', name: '', cameras: [], classes: [], behaviour: { kind: 'appears' } },
  (content) => typeof content === 'object' && content !== null && 'behaviour' in content && 'cameras' in content,
);
