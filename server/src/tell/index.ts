// Telling: what the outbox holds is worked off, a queue for each channel and one for descriptions, so that nobody waits for another. It is
// done at least once, again after failures, also after the program was killed.

import type { Station } from '../place/station';
import { alertJobs, type AlertNeeds, type Told } from './alerts';
import type { Channel } from './channels';
import { describeJob, type Describer } from './describe';
import { runQueue } from './queue';

export type Tell = Station & {
  /** Something is due. */
  wake(): void;
  /** Who is not reached, and why, in words. */
  unreached(): string[];
};

export type TellNeeds = AlertNeeds & { readonly channels: readonly Channel[]; readonly describer: Describer | undefined };

/** A phone is told whatever others do: more at once than there are phones. */
const alertsAtOnce = 256;
const descriptionsAtOnce = 4;

export function startTell(needs: TellNeeds): Tell {
  const { record, clock, channels } = needs;
  const told: Told = new Map();
  const alerts = channels.map((channel) =>
    runQueue({
      record,
      clock,
      name: channel.name,
      atOnce: alertsAtOnce,
      kinds: alertJobs(needs, channel, told, () => descriptions.wake()),
    }),
  );
  const wakeAlerts = () => alerts.forEach((q) => q.wake());
  const failing = () => alerts.flatMap((q) => q.failing());
  const describing = describeJob({ ...needs, failing, described: wakeAlerts });
  const descriptions = runQueue({ record, clock, name: 'describe', atOnce: descriptionsAtOnce, kinds: { describe: describing } });
  const queues = [...alerts, descriptions];
  return {
    name: 'tell',
    wake: () => queues.forEach((q) => q.wake()),
    trouble() {
      const stuck = queues.map((q) => q.trouble()).find((t) => t !== undefined);
      const tried = [...told.values()];
      const reachesNone = tried.length > 0 && tried.every((t) => t.why !== undefined);
      return [...(stuck ? [stuck] : reachesNone ? [`Alerts reach no phone: ${tried[0]!.why}`] : [])];
    },
    unreached() {
      const people = new Map<string, string>();
      for (const { person, why } of told.values()) if (why) people.set(person, why);
      // Who was told by one is reached.
      for (const { person, why } of told.values()) if (!why) people.delete(person);
      return [...people].map(([id, why]) => `${needs.site.file.people?.find((p) => p.id === id)?.name ?? id} is not reached: ${why}`);
    },
    close: async () => void (await Promise.all(queues.map((q) => q.close()))),
  };
}
