// The ends of spans: a time of the wall clock, or one that hangs on the sun.

import { clockText } from '../time';

/** Minutes after midnight, 0..1440, or so many minutes after (below 0: before) sunrise or sunset. */
export type End = number | { readonly sun: 'sunrise' | 'sunset'; readonly offset: number };

const clockForm = /^(\d{2}):(\d{2})$/;
const sunForm = /^(sunrise|sunset)(?: ?([+-]) ?(\d{1,3}) ?min)?$/;

/** `18:00`, `sunset`, `sunset - 30 min`; undefined where it is no end. */
export function parseEnd(text: string): End | undefined {
  const clock = clockForm.exec(text.trim());
  if (clock) {
    const [hour, minute] = [Number(clock[1]), Number(clock[2])];
    return minute < 60 && hour * 60 + minute <= 1440 ? hour * 60 + minute : undefined;
  }
  const sun = sunForm.exec(text.trim());
  if (!sun) return undefined;
  return { sun: sun[1] as 'sunrise' | 'sunset', offset: Number(sun[3] ?? 0) * (sun[2] === '-' ? -1 : 1) };
}

export const endText = (end: End): string =>
  typeof end === 'number'
    ? clockText(end)
    : end.offset === 0
      ? end.sun
      : `${end.sun} ${end.offset < 0 ? '-' : '+'} ${Math.abs(end.offset)} min`;
