// What came of trying wordings, summed up.

import type { TriesAnswer, TryResult } from '../../state/api/types';

export type Outcome = {
  readonly wording: string;
  readonly service: string;
  /** Of all checks of all moments; null where nothing is checked. */
  readonly held: { readonly holds: number; readonly of: number } | null;
  readonly answered: number;
  readonly of: number;
  readonly medianSeconds: number | null;
  readonly cost: number | null;
};

/** Of each wording with each service that it was tried with, the best first. */
export function outcomesOf({ examples, results }: Pick<TriesAnswer, 'examples' | 'results'>, wordings: readonly string[]): Outcome[] {
  const pairs = new Map<string, TryResult[]>();
  for (const r of results) if (wordings.includes(r.wording)) pairs.set(`${r.wording} ${r.service}`, [...(pairs.get(`${r.wording} ${r.service}`) ?? []), r]); // prettier-ignore
  const all = [...pairs.values()].map((own): Outcome => {
    const checks = own.flatMap((r) => r.holds);
    const seconds = own.map((r) => r.seconds).sort((a, b) => a - b); // prettier-ignore
    const costs = own.flatMap((r) => r.cost ?? []);
    return {
      wording: own[0]!.wording,
      service: own[0]!.service,
      held: checks.length ? { holds: checks.filter(Boolean).length, of: checks.length } : null,
      answered: own.filter((r) => r.line !== null).length,
      of: examples.length,
      medianSeconds: seconds[seconds.length >> 1] ?? null,
      cost: costs.length ? costs.reduce((sum, c) => sum + c, 0) : null,
    };
  });
  const share = (o: Outcome) => (o.held ? o.held.holds / o.held.of : o.answered / Math.max(1, o.of));
  return all.sort((a, b) => share(b) - share(a) || (a.medianSeconds ?? 0) - (b.medianSeconds ?? 0));
}

/** A, B, C, … */
export const letter = (i: number): string => String.fromCharCode(65 + (i % 26));

/** Wordings are the same where what is asked is. */
export const isSame = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
