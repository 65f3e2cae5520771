// What failed unexpectedly, by station: it is logged, and is a problem until an hour has passed without another failure.

import { counted } from '@nibber/core/words';
import type { Clock } from './clock';
import { log } from './log';
import { problemsOf, type Station } from './station';

export type Failures = Pick<Station, 'name' | 'problems'> & {
  report(station: string, thrown: unknown): void;
};

/** For tools and tests: what fails ends them. */
export const throwing: Pick<Failures, 'report'> = {
  report(_station, thrown) {
    throw thrown;
  },
};

const shownMs = 3600_000;

type Failure = { readonly times: number; readonly at: number; readonly why: string };

export function openFailures(machine: Clock['machine']): Failures {
  const failures = new Map<string, Failure>();
  return {
    name: 'failures',
    report(station, thrown) {
      const error = thrown instanceof Error ? thrown : new Error(String(thrown));
      log.error({ station, error: error.message, stack: error.stack }, 'failed unexpectedly');
      failures.set(station, { times: (failures.get(station)?.times ?? 0) + 1, at: machine(), why: error.message });
    },
    problems() {
      for (const [station, { at }] of failures) if (machine() - at > shownMs) failures.delete(station);
      const texts = [...failures].map(
        ([station, { times, why }]) => `${station} failed ${counted(times, 'time')}: ${why}. Restart Nibber if this continues.`,
      );
      return problemsOf('degraded', ...texts);
    },
  };
}

/** One handler for what nothing else has caught: the program runs on, since an alert may be due (decision 47). */
export function catchUncaught({ report }: Pick<Failures, 'report'>): void {
  process.on('uncaughtException', (thrown) => report('Nibber', thrown));
  process.on('unhandledRejection', (thrown) => report('Nibber', thrown));
}
