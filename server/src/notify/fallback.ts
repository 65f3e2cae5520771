// A channel that does not reach a person falls back to their next one: at once where it has given up, otherwise after failing for two minutes.

import { randomUUID } from 'node:crypto';
import type { Transaction } from 'sequelize';
import { reroutes } from '@nibber/core/recipients';
import { channelText, personChannels, type PersonChannel } from '@nibber/core/channels';
import type { Clock } from '../base/clock';
import type { AlertRow, Record } from '../db';
import { laneOf } from '../db/jobs';
import type { SiteBook } from '../db/site';
import type { Channel } from './channels';

type Needs = { readonly record: Record; readonly site: SiteBook; readonly clock: Clock; readonly channels: readonly Channel[] };

export const rerouteAfterMs = 2 * 60_000;

const isOfPeople = (channel: string): channel is PersonChannel => (personChannels as readonly string[]).includes(channel);

/** @returns whether there is another channel that reaches them, which notifies them from now on */
export async function reroute(
  { record, site, clock, channels }: Needs,
  alert: AlertRow,
  why: string,
  transaction: Transaction,
): Promise<boolean> {
  const person = site.file.people?.find((p) => p.id === alert.person);
  if (!person || !isOfPeople(alert.channel)) return false;
  const tried = (await record.alerts.of([alert.event], transaction))
    .filter((a) => a.person === person.id && a.combinedInto === alert.combinedInto)
    .map((a) => a.channel);
  for (const name of reroutes(person, alert.channel)) {
    const channel = channels.find((c) => c.name === name);
    const targets = tried.includes(name) ? [] : ((await channel?.reach(transaction))?.of(person.id) ?? []);
    if (targets.length === 0) continue;
    const id = randomUUID();
    // A combined alert stays combined under its new id.
    const isJoiner = alert.combinedInto === alert.id;
    await record.alerts.add(
      [
        {
          ...alert,
          id,
          channel: name,
          state: 'waiting',
          why: null,
          sentAt: null,
          combinedInto: isJoiner ? id : alert.combinedInto,
          madeAtMachine: clock.machine(),
        },
      ],
      transaction,
    );
    if (isJoiner) await record.alerts.rejoin(alert.id, id, transaction);
    await record.alerts.change(
      alert.id,
      {
        state: 'rerouted',
        why: `The ${channelText[alert.channel]} did not reach ${person.name}: ${why} Sent by ${channelText[name]} instead.`,
      },
      transaction,
    );
    await record.jobs.endOf(alert.id, 'Sent by another channel.', transaction);
    const job = { kind: 'alert' as const, event: alert.event, alert: id };
    await record.jobs.add(
      targets.map((target) => ({ ...job, target, lane: laneOf(name, target) })),
      clock.machine(),
      transaction,
    );
    return true;
  }
  return false;
}

/** Hands over what has waited long enough. @returns the events of which something changed */
export async function rerouteStuck(needs: Needs): Promise<string[]> {
  const { record, clock } = needs;
  const stuck = await record.alerts.waitingSince(clock.machine() - rerouteAfterMs);
  const changed: string[] = [];
  for (const alert of stuck) {
    const failed = await record.jobs.lastErrorOf(alert.id);
    if (failed === undefined) continue;
    const isRerouted = await record.write(async (transaction) => {
      // It may have gone through while this was being asked.
      const now = await record.alerts.find(alert.id, transaction);
      return now?.state === 'waiting' && reroute(needs, now, failed, transaction);
    });
    if (isRerouted) changed.push(alert.event);
  }
  return changed;
}
