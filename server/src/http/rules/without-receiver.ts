// Rules without a receiver or a person who gets no more alerts.

import type { SiteEdit } from '@nibber/core/check';
import type { Rule } from '@nibber/core/site';

/** They still notify the others. */
export const stopNotifying = (rules: readonly Rule[], to: string): SiteEdit[] =>
  rules
    .filter((r) => r.notify?.some((t) => t.to === to))
    .map((r): SiteEdit => [['rules', r.id, 'notify'], r.notify!.filter((t) => t.to !== to)]);
