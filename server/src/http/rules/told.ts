// Rules that told somebody, or another program, who is told no more.

import type { SiteEdit } from '@nibber/core/check';
import type { Rule } from '@nibber/core/site';

/** They tell the others alone. */
export const stopNotifying = (rules: readonly Rule[], to: string): SiteEdit[] =>
  rules
    .filter((r) => r.notify?.some((t) => t.to === to))
    .map((r): SiteEdit => [['rules', r.id, 'notify'], r.notify!.filter((t) => t.to !== to)]);
