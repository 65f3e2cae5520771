// What uses a schedule, in words.

import { listed } from '../words';

const kinds = { rule: 'the rule', 'quiet hours': 'the quiet hours of', schedule: 'the schedule' } as const;

/** `the rule Someone comes in and the quiet hours of Tess`. */
export const usersOf = (uses: readonly { readonly kind: keyof typeof kinds; readonly name: string }[]): string =>
  listed(
    uses.map((u) => `${kinds[u.kind]} ${u.name}`),
    'and',
  );
