// Who is told of an event, by which channel, and what is to be done for it.

import { randomUUID } from 'node:crypto';
import type { Transaction } from 'sequelize';
import { recipientsOf, type PersonState } from '@nibber/core/recipients';
import type { SieveEvent } from '@nibber/core/sieve';
import type { AlertRow, Record } from '../record';
import { laneOf, type NewJob } from '../record/jobs';
import type { SiteBook } from '../record/site';
import type { Channel } from './channels';
import { describeLane } from './describe';

export type Decided = { readonly alerts: readonly AlertRow[]; readonly jobs: readonly NewJob[] };

/** All at once: an event that many are told of must not hold the database longer than another. */
export async function whoIsTold(
  { record, site, channels }: { readonly record: Record; readonly site: SiteBook; readonly channels: readonly Channel[] },
  event: string,
  passed: SieveEvent,
  isTest: boolean,
  transaction: Transaction,
): Promise<Decided> {
  const { at, rule: ruleId, camera, area } = passed;
  const rule = site.file.rules?.find((r) => r.id === ruleId);
  const reach = new Map(await Promise.all(channels.map(async (c) => [c.name, await c.reach(transaction)] as const)));
  // Only asked where a channel rests; a test does not.
  const rests = !isTest && rule && Object.values(site.file.channels ?? {}).some((c) => c?.restSeconds);
  const lastTold = rests ? await record.alerts.lastTold(ruleId, transaction) : undefined;
  const standing = (person: string): PersonState => ({
    snoozes: [],
    unreachable(channel) {
      const by = reach.get(channel);
      if (!by) return `Nobody can be told by ${channel} yet`;
      return by.of(person).length > 0 ? undefined : by.why;
    },
    lastTold: (channel) => lastTold?.get(`${person} ${channel}`),
  });
  const alerts: AlertRow[] = [];
  const jobs: NewJob[] = [];
  for (const told of recipientsOf(site.file, { at, rule: ruleId, camera, area }, (p) => standing(p.id))) {
    const person = told.person.id;
    const id = randomUUID();
    const row = { id, event, person, channel: told.channel, sentAt: null };
    if (told.stoppedAt !== null) {
      alerts.push({ ...row, state: told.stoppedAt === 'channel' ? 'undeliverable' : 'held', why: told.why });
      continue;
    }
    alerts.push({ ...row, state: 'waiting', why: null });
    for (const target of reach.get(told.channel)!.of(person))
      jobs.push({ kind: 'alert', event, alert: id, target, lane: laneOf(told.channel, target) });
  }
  if (rule?.message?.description) jobs.push({ kind: 'describe', event, lane: describeLane(camera ?? '') });
  return { alerts, jobs };
}
