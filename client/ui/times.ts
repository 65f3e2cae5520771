// Times in the wall time of the place, relative while fresh.

const formats = new Map<string, Intl.DateTimeFormat>();

function format(zone: string, options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  const key = zone + JSON.stringify(options);
  let made = formats.get(key);
  if (!made) formats.set(key, (made = new Intl.DateTimeFormat('en-GB', { timeZone: zone, hourCycle: 'h23', ...options })));
  return made;
}

export const clock = (at: number, zone: string): string => format(zone, { hour: '2-digit', minute: '2-digit' }).format(at);
export const clockWithSeconds = (at: number, zone: string): string =>
  format(zone, { hour: '2-digit', minute: '2-digit', second: '2-digit' }).format(at);
export const day = (at: number, zone: string): string => format(zone, { weekday: 'long', day: 'numeric', month: 'long' }).format(at);
export const exact = (at: number, zone: string): string => `${day(at, zone)}, ${clockWithSeconds(at, zone)}`;

/** `just now`, `4 min ago`, then the time of day, then the day too. */
export function ago(at: number, now: number, zone: string): string {
  const seconds = (now - at) / 1000;
  if (seconds >= 0 && seconds < 45) return 'just now';
  if (seconds >= 45 && seconds < 3600) return `${Math.max(1, Math.round(seconds / 60))} min ago`;
  if (day(at, zone) === day(now, zone)) return clock(at, zone);
  return `${format(zone, { weekday: 'short', day: 'numeric', month: 'short' }).format(at)}, ${clock(at, zone)}`;
}

/** `300` → `5 min`. */
export function duration(seconds: number): string {
  if (seconds === 0) return 'no rest';
  if (seconds < 60) return `${seconds} s`;
  if (seconds < 3600) return `${Math.round(seconds / 6) / 10} min`;
  return `${Math.round(seconds / 360) / 10} h`;
}
