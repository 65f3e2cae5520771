// What is kept stays within its days and the disk within its limits; what no one holds any more goes.

import { retentionOf } from '@nibber/core/retention';
import { log } from '../base/log';
import type { Ground } from '../db/ground';
import { station, type Station } from '../base/station';
import type { Recordings } from '../intake/recordings';
import { openRetention, type RetentionNeeds, type StorageState } from './retention';

type Needs = Pick<Ground, 'site' | 'clock' | 'record' | 'schedule'> & RetentionNeeds & { readonly recordings: Recordings };

export type Cleanup = Station & { state(): Promise<StorageState> };

/** What is too old is looked for once a day. */
const byAgeEveryMs = 20 * 3_600_000;
const lastRunKey = 'retention last run';

export function startCleanup(needs: Needs): Cleanup {
  const { site, clock, record, schedule, recordings } = needs;
  const retention = openRetention(needs);
  const closing = new AbortController();
  const { signal } = closing;
  let under: Promise<void> = Promise.resolve();

  const tidy = async () => {
    const inUse = new Set(site.file.cameras.flatMap((c) => (c.source.kind === 'streamed' ? [c.source.low] : [])));
    await recordings.tidy(inUse, clock.machine());
    const files = await record.media.tidy(signal);
    record.keepRoom();
    const bytes = record.detections.tidy(clock.now(), retentionOf(site.file).days.detections);
    log.info({ files, bytes }, 'cleaned up: unreferenced files; bytes of recorded detections that stay');
  };
  const byAge = async () => {
    const last = Number((await record.settings.get(lastRunKey)) ?? 0);
    if (Math.abs(clock.machine() - last) < byAgeEveryMs) return;
    await retention.byAge(signal);
    if (!signal.aborted) await record.settings.set(lastRunKey, String(clock.machine()));
  };
  /** One after the other: two cleanups at once would look for the same. */
  const inTurn = (work: () => Promise<unknown>) =>
    (under = under
      .then(async () => {
        if (!signal.aborted) await work();
      })
      .catch((thrown: Error) => log.warn({ error: thrown.message }, 'not cleaned up')));
  const hourly = () => inTurn(() => retention.byPressure(signal, true).then(byAge).then(tidy));
  void hourly();
  schedule.every('0 7 * * * *', 'Cleanup', hourly);
  schedule.every('30 * * * * *', 'Disk space', () => inTurn(() => retention.byPressure(signal, false)));
  return {
    ...station('cleanup', {
      problems: retention.problems,
      close() {
        closing.abort();
        return under;
      },
    }),
    state: retention.state,
  };
}
