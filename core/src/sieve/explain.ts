// A trail as a person would read it, in lines of plain text.

import type { Trail } from './words';

/** `ruleName`: what happened, and each gate that was asked: what was found, and what was wanted where that differs. */
export function explainTrail(ruleName: string, trail: Trail): string[] {
  const outcome = trail.stoppedAt === null ? 'passed every gate' : `stopped at ${trail.stoppedAt}. ${trail.why}`;
  const widest = Math.max(0, ...trail.steps.map((s) => s.gate.length));
  return [
    `${ruleName}: ${outcome}.`,
    ...trail.steps.map((s) => {
      const wanted = s.wanted === '' || s.wanted === s.found ? '' : `; expected: ${s.wanted}`;
      return `  ${s.passes ? 'passed ' : 'stopped'}  ${s.gate.padEnd(widest)}  ${s.found}${wanted}`;
    }),
  ];
}
