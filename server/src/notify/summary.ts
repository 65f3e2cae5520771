// The morning summary: a person's suppressed alerts in one alert, at their time.

import { randomUUID } from 'node:crypto';
import { reroutes, defaultSummary } from '@nibber/core/recipients';
import type { Person } from '@nibber/core/site';
import { instantsAt, wallTime, type Instant } from '@nibber/core/time';
import { laneOf } from '../db/jobs';
import type { AlertNeeds } from './alerts';

/** The last time, up to an instant, at which the wall showed their time for it. A time that a clock change leaves out is the day's no more. */
export function lastSummaryTime(person: Pick<Person, 'summary'>, zone: string, now: Instant): Instant {
  const [hour = 0, minute = 0] = (person.summary?.at ?? defaultSummary).split(':').map(Number);
  const { day } = wallTime(zone, now);
  for (let d = day; d > day - 3; d--) {
    const at = instantsAt(zone, d, hour * 60 + minute)[0];
    if (at !== undefined && at <= now) return at;
  }
  return now - 3 * 86_400_000;
}

/** Sums up for everyone whose time has come. @returns the events that were summed up */
export async function sumUp({ record, site, clock, channels }: AlertNeeds): Promise<string[]> {
  const summed: string[] = [];
  for (const id of await record.alerts.keptBackFor()) {
    const person = site.file.people?.find((p) => p.id === id);
    if (!person) continue;
    const upTo = lastSummaryTime(person, site.file.site.timezone, clock.now());
    await record.write(async (transaction) => {
      const kept = await record.alerts.keptBack(id, upTo, transaction);
      const newest = kept.at(-1);
      if (!newest) return;
      const [first = 'push'] = person.channels ?? [];
      const alert = { id: randomUUID(), event: newest.event, person: id, sentAt: null, inSummary: true, madeAtMachine: clock.machine() };
      for (const name of reroutes(person, first)) {
        const targets = (await channels.find((c) => c.name === name)?.reach(transaction))?.of(id) ?? [];
        if (targets.length === 0) continue;
        await record.alerts.add([{ ...alert, channel: name, state: 'waiting', why: null, combinedInto: alert.id }], transaction);
        for (const { id: one } of kept)
          await record.alerts.change(one, { state: 'combined', combinedInto: alert.id, inSummary: false }, transaction);
        const job = { kind: 'alert' as const, event: newest.event, alert: alert.id };
        await record.jobs.add(
          targets.map((target) => ({ ...job, target, lane: laneOf(name, target) })),
          clock.machine(),
          transaction,
        );
        summed.push(...kept.map((k) => k.event));
        return;
      }
      // Nothing reaches her: it is kept until something does.
    });
  }
  return summed;
}
