// Telling: what the outbox holds is worked off, a queue for each channel and one for descriptions, so that no one waits for another. It is
// done at least once, again after failures, also after the program was killed.

import type { Looks } from '@nibber/core/boxes';
import type { Schedule } from '../base/scheduler';
import { problemsOf, type Station, type StationProblem } from '../base/station';
import { alertJobs, type AlertNeeds, type Notified } from './alerts';
import type { AiServices } from '../ai-services';
import { describeJob } from './describe';
import { rerouteStuck } from './fallback';
import { questionJob, questionQueue } from './question';
import { runQueue } from './queue';
import { sumUp } from './summary';

export type Notify = Station & {
  /** Something is due. */
  wake(): void;
  /** Who is not reached, and why, in words. */
  unreached(): readonly StationProblem[];
};

export type NotifyNeeds = AlertNeeds & {
  readonly aiServices: AiServices;
  /** Called when something is known of how the thing of a track looks. */
  readonly learnt: (track: string, looks: Looks) => void;
  readonly schedule: Schedule;
};

/** A slow phone holds up no other: more jobs at once than there are phones. */
const alertsAtOnce = 256;
const descriptionsAtOnce = 4;
/** A question has its own service's turn to wait for, and no one else's. */
const questionsAtOnce = 32;

export function startNotify(needs: NotifyNeeds): Notify {
  const { record, clock, channels } = needs;
  const notified: Notified = new Map();
  const alerts = channels.map((channel) =>
    runQueue({
      record,
      clock,
      name: channel.name,
      atOnce: alertsAtOnce,
      kinds: alertJobs(needs, channel, notified, (isOver) => (isOver ? queues.forEach((q) => q.wake()) : descriptions.wake())),
    }),
  );
  const wakeAlerts = () => alerts.forEach((q) => q.wake());
  const failing = () => alerts.flatMap((q) => q.failing());
  const aiServices = describeJob({ ...needs, failing, described: wakeAlerts });
  const descriptions = runQueue({ record, clock, name: 'describe', atOnce: descriptionsAtOnce, kinds: { describe: aiServices } });
  const asking = questionJob({ ...needs, decided: wakeAlerts });
  const questions = runQueue({ record, clock, name: questionQueue, atOnce: questionsAtOnce, kinds: { question: asking } });
  const queues = [...alerts, questions, descriptions];
  const doing = (what: (needs: AlertNeeds) => Promise<string[]>) => async () => {
    const events = await what(needs);
    events.forEach(needs.changed);
    if (events.length > 0) wakeAlerts();
  };
  needs.schedule.every('*/5 * * * * *', 'Fallback', doing(rerouteStuck));
  needs.schedule.every('0 * * * * *', 'Summaries', doing(sumUp));
  return {
    name: 'notify',
    wake: () => queues.forEach((q) => q.wake()),
    problems() {
      const stuck = alerts.map((q) => q.problem()).find((t) => t !== undefined);
      const tried = [...notified.values()];
      const reachesNone = tried.length > 0 && tried.every((t) => t.why !== undefined);
      return [
        ...problemsOf('outage', stuck ?? (reachesNone ? `No alerts are being delivered: ${tried[0]!.why}` : undefined)),
        ...problemsOf('degraded', questions.problem(), descriptions.problem()),
      ];
    },
    unreached() {
      const people = new Map<string, string>();
      for (const { to, why } of notified.values()) if (why) people.set(to, why);
      // A person who was notified by one target has been reached.
      for (const { to, why } of notified.values()) if (!why) people.delete(to);
      const { people: all = [], receivers = [] } = needs.site.file;
      const nameOf = (id: string) => [...all, ...receivers].find((p) => p.id === id)?.name ?? id;
      return problemsOf('degraded', ...[...people].map(([id, why]) => `${nameOf(id)} cannot be reached: ${why}`));
    },
    async close() {
      await Promise.all(queues.map((q) => q.close()));
      await Promise.all(channels.map((c) => c.close?.()));
    },
  };
}
