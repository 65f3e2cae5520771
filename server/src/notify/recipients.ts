// Chooses recipients and channels, and the jobs that notify them.

import { randomUUID } from 'node:crypto';
import type { Transaction } from 'sequelize';
import { recipientsOf, notifierOf, type RecipientState } from '@nibber/core/recipients';
import type { SieveEvent } from '@nibber/core/sieve';
import type { Clock } from '../base/clock';
import type { AlertRow, Record } from '../db';
import { laneOf, type NewJob } from '../db/jobs';
import { snoozeOf } from '../db/people';
import type { SiteBook } from '../db/site';
import type { Channel } from './channels';
import { describeLane } from './describe';
import { openQuestion, questionLane, waitFor } from './question';

export type Decided = { readonly alerts: readonly AlertRow[]; readonly jobs: readonly NewJob[] };

export type DecideNeeds = {
  readonly record: Record;
  readonly site: SiteBook;
  readonly clock: Pick<Clock, 'machine'>;
  readonly channels: readonly Channel[];
};

/** More alerts than so many in a minute are joined into one for a person, where the site says no other number. */
const maxPerMinute = 12;
const minuteMs = 60_000;
const describedAfterMs = 250;
/** What is joined is said in the one that is there; it is filled in no oftener than this. */
const joinedAgainMs = 10_000;

/** All in one statement: an event with many recipients must not hold the database longer than another. */
export async function whoIsNotified(
  { record, site, clock, channels }: DecideNeeds,
  event: string,
  passed: Pick<SieveEvent, 'at' | 'rule' | 'camera' | 'area'>,
  isTest: boolean,
  transaction: Transaction,
): Promise<Decided> {
  const { at, rule: ruleId, camera, area } = passed;
  const rule = site.file.rules?.find((r) => r.id === ruleId);
  const notifier = notifierOf(site.file, ruleId);
  const reach = new Map(await Promise.all(channels.map(async (c) => [c.name, await c.reach(transaction)] as const)));
  // Only asked where a channel rests; a test does not.
  const rests = !isTest && notifier && Object.values(site.file.channels ?? {}).some((c) => typeof c === 'object' && c.cooldownSeconds);
  const lastNotified = rests ? await record.alerts.lastNotified(ruleId, transaction) : undefined;
  const snoozes = isTest ? [] : await record.people.snoozes(at, undefined, transaction);
  const standing = (to: string): RecipientState => ({
    snoozes: snoozes.filter((s) => s.person === to).map(snoozeOf),
    unreachable(channel) {
      const by = reach.get(channel);
      if (!by) return `No one can be notified by ${channel} yet`;
      return by.of(to).length > 0 ? undefined : by.why(to);
    },
    lastNotified: (channel) => lastNotified?.get(`${to} ${channel}`),
  });
  const alerts: AlertRow[] = [];
  const jobs: NewJob[] = [];
  const question = isTest ? undefined : rule?.question;
  const people = new Set(site.file.people?.map((p) => p.id));
  for (const notified of recipientsOf(site.file, { at, rule: ruleId, camera, area }, standing)) {
    const { to, channel, stoppedAt, why, inSummary } = notified;
    const id = randomUUID();
    const row = { id, event, person: to, channel, sentAt: null, combinedInto: null, inSummary, madeAtMachine: clock.machine() };
    if (stoppedAt !== null) {
      alerts.push({ ...row, state: stoppedAt === 'channel' ? 'undeliverable' : 'suppressed', why });
      continue;
    }
    // What waits for an answer may still be kept back: it is joined to nothing.
    const isLimited = !isTest && !notifier?.urgent && !question && people.has(to);
    const combinedInto = isLimited ? await joinsTo(to, site.file.channels?.maxPerMinute ?? maxPerMinute) : undefined;
    if (combinedInto && combinedInto !== 'begin') {
      alerts.push({ ...row, state: 'combined', combinedInto: combinedInto.id, why: 'Combined with other alerts at the same time' });
      for (const target of reach.get(combinedInto.channel)?.of(to) ?? [])
        jobs.push({
          kind: 'fill-in',
          event: combinedInto.event,
          alert: combinedInto.id,
          target,
          lane: laneOf(combinedInto.channel, target),
          afterMs: joinedAgainMs,
        });
      continue;
    }
    alerts.push({ ...row, state: 'waiting', why: null, combinedInto: combinedInto === 'begin' ? id : null });
    for (const target of reach.get(channel)!.of(to))
      jobs.push({
        kind: 'alert',
        event,
        alert: id,
        target,
        lane: laneOf(channel, target),
        ...(question ? { afterMs: waitFor(question) } : {}),
      });
  }
  if (question && alerts.some((a) => a.state === 'waiting')) {
    jobs.push({ kind: 'question', event, lane: questionLane(event) });
    await record.events.change(event, { question: openQuestion(question) }, transaction);
  }
  // The alert has the machine to itself first.
  if (rule?.message?.description) jobs.push({ kind: 'describe', event, lane: describeLane(camera ?? ''), afterMs: describedAfterMs });
  return { alerts, jobs };

  /** The alert that another is joined to; `begin` where it is the first of those that are too many; none while they are not. */
  async function joinsTo(person: string, max: number): Promise<AlertRow | 'begin' | undefined> {
    const recent = await record.alerts.notifiedSince(person, clock.machine() - minuteMs, transaction);
    const summing = recent.find((a) => a.combinedInto === a.id && !a.inSummary);
    // Two channels for one event count as one alert.
    return summing ?? (new Set(recent.map((a) => a.event)).size >= max ? 'begin' : undefined);
  }
}
