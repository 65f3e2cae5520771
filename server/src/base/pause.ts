import { setTimeout } from 'node:timers/promises';

/** Resolves after so long, or as soon as the signal ends it. */
export const pause = (ms: number, signal?: AbortSignal): Promise<void> =>
  setTimeout(ms, undefined, signal ? { signal } : {}).catch(() => {});
