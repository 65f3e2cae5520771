// Telling: one job for each target of an alert, and one that fills it in when more is known.

import type { Transaction } from 'sequelize';
import type { Clock } from '../base/clock';
import type { AlertRow, JobRow } from '../db';
import { laneOf } from '../db/jobs';
import type { Channel } from './channels';
import { reroute } from './fallback';
import { noticeOf, type NoticeNeeds } from './notice';
import type { JobKind, Result } from './queue';

export type AlertNeeds = NoticeNeeds & {
  readonly clock: Clock;
  readonly channels: readonly Channel[];
  /** Called when what is known of an event has changed. */
  readonly changed: (event: string) => void;
};

/** What a target last answered: whose it is, and what was wrong; nothing if it accepted. */
export type Notified = Map<string, { readonly to: string; readonly why: string | undefined }>;

const maxAttempts = 14;
const maxFillIns = 6;
const waitForAlertMs = 1000;
const waitForSentenceMs = 1000;

/**
 * @param told is updated with every attempt
 * @param settled called when what became of one is on disk; `isOver` where it did not go through: another channel may have it now
 */
export function alertJobs(
  needs: AlertNeeds,
  channel: Channel,
  notified: Notified,
  settled: (isOver: boolean) => void,
): { alert: JobKind; 'fill-in': JobKind } {
  const { record, site, clock } = needs;
  const send = async (job: JobRow, alert: AlertRow): Promise<Result> => {
    const target = job.target ?? '';
    const [event, to] = await Promise.all([record.events.find(job.event), channel.recipientOf(target)]);
    if (!event || to === undefined) return { kind: 'given-up', why: 'The phone is no longer registered.' };
    const person = site.file.people?.find((p) => p.id === to);
    const isProgram = site.file.receivers?.some((r) => r.id === to);
    if (!person && !isProgram) return { kind: 'given-up', why: 'The person is no longer part of the site.' };
    const isAwaited = typeof channel.fillsIn === 'number' && awaitsSentence(needs, alert, event, channel.fillsIn);
    if (isAwaited) return { kind: 'later', ms: waitForSentenceMs };
    const answer = await channel.send(target, await noticeOf(needs, job, alert, event, person ?? to));
    if (answer.kind === 'gone') {
      notified.delete(target);
      return { kind: 'given-up', why: answer.why };
    }
    notified.set(target, { to, why: answer.kind === 'failed' ? answer.why : undefined });
    return answer.kind === 'accepted' ? { kind: 'done' } : answer;
  };
  const run = async (job: JobRow): Promise<Result> => {
    const alert = await record.alerts.find(job.alert!);
    if (!alert) return { kind: 'given-up', why: 'The event is no longer stored.' };
    if (alert.state === 'rerouted') return { kind: 'given-up', why: alert.why ?? 'Sent by another channel.' };
    return send(job, alert);
  };
  const noteState = async (job: JobRow, result: Result, transaction: Transaction) => {
    const key = laneOf(channel.name, job.target!);
    if (result.kind === 'done') await record.channelStates.accepted(key, clock.now(), transaction);
    else if ('why' in result) await record.channelStates.refused(key, clock.now(), result.why, transaction);
  };
  const settle = async (job: JobRow, result: Result, isLast: boolean, transaction: Transaction) => {
    const id = job.alert!;
    await noteState(job, result, transaction);
    if (result.kind === 'done') await record.alerts.change(id, { state: 'sent', why: null, sentAt: clock.now() }, transaction);
    else if (isLast && 'why' in result && (await record.jobs.open(id, transaction)) === 0) {
      const alert = await record.alerts.find(id, transaction);
      if (alert?.state === 'waiting' && !(await reroute(needs, alert, result.why, transaction)))
        await record.alerts.change(id, { state: 'undeliverable', why: result.why }, transaction);
    }
  };
  const changed = (job: JobRow, { kind }: Result) => {
    needs.changed(job.event);
    settled(kind !== 'done');
  };
  return {
    alert: { maxAttempts, run, settle, settled: changed },
    'fill-in': {
      maxAttempts: maxFillIns,
      async run(job) {
        const first = await record.jobs.first(job.alert!, job.target!);
        if (first?.state === 'given-up') return { kind: 'given-up', why: 'The alert itself did not arrive.' };
        return first?.state === 'due' ? { kind: 'later', ms: waitForAlertMs } : run(job);
      },
      settled: changed,
    },
  };
}

/** Whether a sentence is still to come, and there is time to wait for it. */
function awaitsSentence(
  { site, clock }: AlertNeeds,
  alert: AlertRow,
  event: { readonly rule: string | null; readonly description: string | null; readonly descriptionProblem: string | null },
  forMs: number,
): boolean {
  const isAsked = site.file.rules?.find((r) => r.id === event.rule)?.message?.description === true;
  const isOpen = isAsked && event.description === null && event.descriptionProblem === null;
  return isOpen && clock.machine() - (alert.madeAtMachine ?? 0) < forMs;
}
