// Whether a camera's own clock is right.

/** Common practice: two seconds are near enough for what a camera writes into its pictures to match the moments here. */
export const maxClockMs = 2000;

export const isClockRight = (aheadMs: number): boolean => Math.abs(aheadMs) <= maxClockMs;

/** How far a clock is off: `90 s slow`, `5 min fast`. */
export function offWords(aheadMs: number): string {
  const seconds = Math.round(Math.abs(aheadMs) / 1000);
  const span = seconds < 120 ? `${seconds} s` : seconds < 7200 ? `${Math.round(seconds / 60)} min` : `${Math.round(seconds / 3600)} h`;
  return `${span} ${aheadMs > 0 ? 'fast' : 'slow'}`;
}

/** The Date header of HTTP (RFC 9110, 6.6.1) has whole seconds: on average the clock was half a second further. */
const halfSecondMs = 500;

/**
 * How far the clock of the host that answered is ahead, ms; undefined where the header gives no time.
 * @param asked when it was asked, and `answered` when the answer came, by one clock
 */
export function aheadByDate(header: string | null | undefined, asked: number, answered: number): number | undefined {
  const theirs = header ? Date.parse(header) : NaN;
  return Number.isNaN(theirs) ? undefined : Math.round(theirs + halfSecondMs - (asked + answered) / 2);
}

/** An event may take so long on its way without anyone's clock being wrong. */
const longWayMs = 60_000;

/**
 * What the events of a camera say about its clock: none can have happened after it came, and the promptest gives the largest lag.
 * @param events when each happened by the camera's clock, and when it came by ours
 */
export function aheadByEvents(events: readonly { readonly at: number; readonly arrivedAt: number }[]): number | undefined {
  if (events.length === 0) return undefined;
  const max = Math.max(...events.map((e) => e.at - e.arrivedAt));
  return max > 0 || max < -longWayMs ? max : 0;
}
