// Spans of a day, as the site file writes them.

import { endText, parseEnd, type End } from './ends';

/** `to` at or before `from` ends on the next day. */
export type Span = { readonly from: End; readonly to: End };

export const weekdayKeys = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const;
export type WeekdayKey = (typeof weekdayKeys)[number];

/** `18:00-08:00` as a span; undefined where it is not one. */
export function parseSpan(text: string): Span | undefined {
  // A dash stands between the ends and may stand inside them, before minutes.
  for (let dash = text.indexOf('-'); dash >= 0; dash = text.indexOf('-', dash + 1)) {
    const [from, to] = [parseEnd(text.slice(0, dash)), parseEnd(text.slice(dash + 1))];
    if (from === undefined || to === undefined) continue;
    if (typeof from === 'number' && (from >= 1440 || from === to)) return undefined;
    return { from, to };
  }
  return undefined;
}

export const spanText = (s: Span): string => `${endText(s.from)}-${endText(s.to)}`;
