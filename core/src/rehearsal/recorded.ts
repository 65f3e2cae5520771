// What was recorded, through the sieve again. With the settings that were live it gives exactly the events that happened.

import type { Recorded } from '../recorded';
import { startState, step, type SieveEvent, type SieveState } from '../sieve';
import type { CompiledSite } from '../site';

/**
 * The events that come of a recording. What was fed twice, as after the program was killed, makes one.
 * @param siteOf the settings to go by, by the version that was live; a rehearsal gives the same for all
 */
export function eventsIn(recorded: Iterable<Recorded>, siteOf: (version: number) => CompiledSite): SieveEvent[] {
  const events = new Map<string, SieveEvent>();
  let state: SieveState = startState();
  let site: CompiledSite | undefined;
  for (const entry of recorded) {
    if (entry.kind === 'site') site = siteOf(entry.version);
    else if (entry.kind === 'start') state = startState(entry.modes, entry.lasts);
    else if (entry.kind === 'resting')
      for (const [key, at] of entry.lasts) state.lastEvents.set(key, Math.max(at, state.lastEvents.get(key) ?? -Infinity));
    else if (site) {
      const result = step(site, state, entry.input);
      state = result.state;
      for (const o of result.outcomes) if (o.kind === 'event') events.set(eventKey(o), o);
    }
  }
  return [...events.values()];
}

/** What tells one event from another: the rule, what it is of, and when. */
export const eventKey = ({ rule, camera, sensor, track, at }: SieveEvent): string =>
  JSON.stringify([rule, camera ?? sensor, track?.name, at]);
