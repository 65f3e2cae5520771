// Spans of a week with one end moved inwards.

import { parseSpan, spanText, type Span } from '../schedules';
import type { SiteFile } from '../site';

type Weekly = NonNullable<NonNullable<SiteFile['schedules']>[number]['weekly']>;

/** A span that would have no length left is dropped; one whose end hangs on the sun is moved from there. */
export function minutesOf(weekly: Weekly, end: 'from' | 'to', minutes: number): Weekly {
  const moved = (text: string): string[] => {
    const span = parseSpan(text);
    if (!span) return [text];
    const next = endMoved(span, end, end === 'from' ? minutes : -minutes);
    return next ? [spanText(next)] : [];
  };
  return Object.fromEntries(Object.entries(weekly).map(([day, spans]) => [day, (spans ?? []).flatMap(moved)])) as Weekly;
}

function endMoved(span: Span, end: 'from' | 'to', by: number): Span | undefined {
  const old = span[end];
  if (typeof old !== 'number') return { ...span, [end]: { ...old, offset: old.offset + by } };
  if (typeof span.from === 'number' && typeof span.to === 'number') {
    const length = span.to > span.from ? span.to - span.from : 1440 - span.from + span.to;
    if (length <= Math.abs(by)) return undefined;
  }
  const at = (((old + by) % 1440) + 1440) % 1440;
  return { ...span, [end]: end === 'to' && at === 0 ? 1440 : at };
}
