// The sieve of a day: how many tracks each gate stopped, and what came through.

import { count, named, object } from '../schema';
import type { Services } from '../services';
import { instant } from '../shapes';

const dayMs = 86_400_000;

export const sieveAnswer = named('SieveOfADay', object({ since: instant, tracks: count, stoppedBy: { type: 'object', additionalProperties: count }, events: count, alerts: count })); // prettier-ignore

/** Of the tracks of the last 24 hours, each counted at the gate to which the rule that let it come furthest let it. */
export async function sieveOfADay({ record, clock }: Pick<Services, 'record' | 'clock'>) {
  const since = clock.now() - dayMs;
  const [tracks, rows, events, alerts] = await Promise.all([
    record.tracks.count(since),
    record.tracks.stopped(since),
    record.events.count(since),
    record.alerts.count(since),
  ]);
  const furthest = new Map<string, (typeof rows)[number]>();
  for (const row of rows) {
    const known = furthest.get(row.track);
    const isFurther = !known || row.stoppedAt === null || (known.stoppedAt !== null && row.reached > known.reached);
    if (isFurther) furthest.set(row.track, row);
  }
  const stoppedBy: { [gate: string]: number } = {};
  for (const { stoppedAt } of furthest.values()) if (stoppedAt) stoppedBy[stoppedAt] = (stoppedBy[stoppedAt] ?? 0) + 1;
  return { since, tracks, stoppedBy, events, alerts };
}
