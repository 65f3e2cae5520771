// Care: what is kept stays within its bounds, and what no one holds any more goes.

import { log } from '../base/log';
import type { Ground } from '../db/ground';
import { station, type Station } from '../base/station';
import type { Recordings } from '../intake/recordings';

type Needs = Pick<Ground, 'site' | 'clock' | 'record' | 'schedule'> & { readonly recordings: Recordings };

export function startCare({ site, clock, record, schedule, recordings }: Needs): Station {
  let under: Promise<void> = Promise.resolve();
  const tidy = async () => {
    const inUse = new Set(site.file.cameras.flatMap((c) => (c.source.kind === 'streamed' ? [c.source.low] : [])));
    await recordings.tidy(inUse, clock.machine());
    const files = await record.media.tidy();
    record.keepRoom();
    const bytes = record.detections.tidy(clock.now());
    log.info({ files, bytes }, 'cleaned up: unreferenced files; bytes of recorded detections that stay');
  };
  const care = () => (under = tidy().catch((thrown: Error) => log.warn({ error: thrown.message }, 'not tidied up')));
  void care();
  schedule.every('0 7 * * * *', 'Cleanup', care);
  return station('care', { close: () => under });
}
