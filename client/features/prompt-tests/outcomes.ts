// The results of prompt tests, summed up.

import type { PromptTestsAnswer, PromptTestResult } from '../../state/api/types';

export type Outcome = {
  readonly promptVersion: string;
  readonly service: string;
  /** Of all checks of all moments; null where nothing is checked. */
  readonly held: { readonly holds: number; readonly of: number } | null;
  readonly answered: number;
  readonly of: number;
  readonly medianSeconds: number | null;
  readonly cost: number | null;
};

/** For each prompt with each service it was tested with, the best first. */
export function outcomesOf(
  { examples, results }: Pick<PromptTestsAnswer, 'examples' | 'results'>,
  promptVersions: readonly string[],
): Outcome[] {
  const pairs = new Map<string, PromptTestResult[]>();
  for (const r of results)
    if (promptVersions.includes(r.promptVersion))
      pairs.set(`${r.promptVersion} ${r.service}`, [...(pairs.get(`${r.promptVersion} ${r.service}`) ?? []), r]);
  const all = [...pairs.values()].map((own): Outcome => {
    const checks = own.flatMap((r) => r.holds);
    const seconds = own.map((r) => r.seconds).sort((a, b) => a - b);
    const costs = own.flatMap((r) => r.cost ?? []);
    return {
      promptVersion: own[0]!.promptVersion,
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

/** Two prompts are the same if they ask the same. */
export const isSame = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
