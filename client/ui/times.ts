// Times in the wall time of the site, relative while fresh.

import { DateTime } from 'luxon';
import { durationText } from '@nibber/core/words';

const wall = (at: number, zone: string) => DateTime.fromMillis(at, { zone, locale: 'en-GB' });

export const clock = (at: number, zone: string): string => wall(at, zone).toFormat('HH:mm');
export const clockWithSeconds = (at: number, zone: string): string => wall(at, zone).toFormat('HH:mm:ss');
export const day = (at: number, zone: string): string => wall(at, zone).toFormat('cccc d MMMM');
export const exact = (at: number, zone: string): string => `${day(at, zone)}, ${clockWithSeconds(at, zone)}`;

/** `just now`, `4 min ago`, then the time of day, then the day too. */
export function ago(at: number, now: number, zone: string): string {
  const seconds = (now - at) / 1000;
  if (seconds >= 0 && seconds < 45) return 'just now';
  if (seconds >= 45 && seconds < 3600) return `${Math.max(1, Math.round(seconds / 60))} min ago`;
  return wall(at, zone).hasSame(wall(now, zone), 'day') ? clock(at, zone) : wall(at, zone).toFormat('ccc d MMM, HH:mm');
}

/** `300` → `5 min`. */
export const duration = (seconds: number): string => (seconds === 0 ? 'no minimum interval' : durationText(seconds));
