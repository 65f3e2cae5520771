// Words of the pages of Site.

/** How often what changes by itself is asked for. */
export const everyMs = 10_000;

export const waitingWords = (waiting: number): string =>
  waiting === 0 ? 'Nothing waits.' : waiting === 1 ? 'One is waiting to be sent.' : `${waiting} are waiting to be sent.`;

const units = ['bytes', 'kB', 'MB', 'GB', 'TB'] as const;

/** Decimal, as disks are sold (IEC 80000-13 keeps kB for 1000). */
export function bytesWords(bytes: number): string {
  const step = bytes < 1 ? 0 : Math.min(units.length - 1, Math.floor(Math.log10(bytes) / 3));
  const value = bytes / 1000 ** step;
  return `${step > 0 && value < 10 ? value.toFixed(1) : Math.round(value)} ${units[step]}`;
}
