// The sieve of a day: how many tracks each gate stopped, and what came through.

import type { PersonAccess } from '@nibber/core/people';
import type { SeenPart } from '../../db/page';
import type { SiteBook } from '../../db/site';
import { count, named, object } from '../schema';
import type { Services } from '../services';
import { instant } from '../shapes';

const dayMs = 86_400_000;

/** What lists are cut down to for someone; undefined where they see everything. */
export const seenPart = ({ file }: Pick<SiteBook, 'file'>, visible: PersonAccess): SeenPart | undefined =>
  visible.isWhole
    ? undefined
    : { cameras: file.cameras.map((c) => c.id).filter(visible.camera), areas: file.areas.map((a) => a.id).filter(visible.area) };

export const sieveAnswer = named(
  'SieveOfADay',
  object({ since: instant, tracks: count, stoppedBy: { type: 'object', additionalProperties: count }, events: count, alerts: count }),
);

/**
 * Of the tracks of the last 24 hours, each counted at the gate to which the rule that let it come furthest let it.
 * @param visible only of what someone sees
 */
export async function sieveOfADay(
  { record: { longReads }, clock, site }: Pick<Services, 'record' | 'clock' | 'site'>,
  visible?: PersonAccess,
) {
  const seen = visible && seenPart(site, visible);
  const since = clock.now() - dayMs;
  const [tracks, stoppedBy, events, alerts] = await Promise.all([
    longReads.tracks.count(since, seen),
    longReads.tracks.stopped(since, seen),
    longReads.events.count(since, seen),
    longReads.alerts.count(since, seen),
  ]);
  return { since, tracks, stoppedBy, events, alerts };
}
