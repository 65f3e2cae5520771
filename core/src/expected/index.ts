// What a good answer about a stored moment holds, as one writes it down, one a line: `contains white`, `never dog`, `plate = XK21?`, `people 1 to 3`.

import { likeness } from '../sieve';
import type { Answered } from '../describing';

export type AnswerCheck =
  | { readonly kind: 'contains' | 'never'; readonly words: string }
  | { readonly kind: 'equals'; readonly field: string; readonly value: string }
  | { readonly kind: 'within'; readonly field: string; readonly min: number; readonly max: number };

const within = /^(.+?)\s+(-?\d+(?:[.,]\d+)?)\s*(?:to|–|\.\.)\s*(-?\d+(?:[.,]\d+)?)$/;
const number = (text: string) => Number(text.replace(',', '.'));

/** Undefined where a line is none. */
export function checkOfLine(line: string): AnswerCheck | undefined {
  const text = line.trim();
  const said = /^(contains|never)\s+(.+)$/i.exec(text);
  if (said) return { kind: said[1]!.toLowerCase() as 'contains' | 'never', words: said[2]!.trim() };
  const equal = /^([^=]+?)\s*=\s*(.+)$/.exec(text);
  if (equal) return { kind: 'equals', field: equal[1]!.trim(), value: equal[2]!.trim() };
  const range = within.exec(text);
  if (!range) return undefined;
  const [min, max] = [number(range[2]!), number(range[3]!)];
  return min <= max ? { kind: 'within', field: range[1]!.trim(), min, max } : undefined;
}

/** The first line that is none is named. */
export function checksOfLines(text: string): { readonly checks: readonly AnswerCheck[]; readonly wrong?: string } {
  const lines = text
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean);
  const wrong = lines.find((l) => !checkOfLine(l));
  const checks = lines.flatMap((l) => checkOfLine(l) ?? []);
  return wrong === undefined ? { checks } : { checks, wrong: `${wrong}: contains …, never …, field = …, or field 1 to 3` };
}

export function lineOfCheck(check: AnswerCheck): string {
  switch (check.kind) {
    case 'equals':
      return `${check.field} = ${check.value}`;
    case 'within':
      return `${check.field} ${check.min} to ${check.max}`;
    default:
      return `${check.kind} ${check.words}`;
  }
}

/** Whether an answer holds it; capitals do not matter, and `?` stands for any one character of a field. */
export function answerHolds(check: AnswerCheck, line: string | null, fields: Answered['fields']): boolean {
  const own = (name: string) => Object.entries(fields).find(([n]) => n.toLowerCase() === name.toLowerCase())?.[1];
  switch (check.kind) {
    case 'contains':
      return (line ?? '').toLowerCase().includes(check.words.toLowerCase());
    case 'never':
      return !(line ?? '').toLowerCase().includes(check.words.toLowerCase());
    case 'equals': {
      const value = own(check.field);
      const text = value === true ? 'yes' : value === false ? 'no' : value;
      return text !== undefined && likeness(check.value, String(text));
    }
    case 'within': {
      const value = own(check.field);
      return typeof value === 'number' && value >= check.min && value <= check.max;
    }
  }
}
