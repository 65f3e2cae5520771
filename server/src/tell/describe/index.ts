// Describing an event is a job like any other: it comes after the alert, and its sentence fills the alert in.

import { composed, recognised, recognisedWords } from '@nibber/core/describing';
import { laneOf } from '../../record/jobs';
import type { AlertNeeds } from '../alerts';
import type { JobKind } from '../queue';
import { describe, type Describer } from './ask';

export type { Describer } from './ask';

const mostAttempts = 3;
const waitForAlertMs = 250;

type Needs = Pick<AlertNeeds, 'record' | 'clock' | 'changed' | 'channels' | 'site'> & {
  readonly describer: Describer | undefined;
  /** Lanes that do not answer: they are not waited for. */
  readonly failing: () => readonly string[];
  /** Called when there is something to fill in. */
  readonly described: () => void;
};

export function describeJob({ record, clock, site, channels, describer, failing, changed, described }: Needs): JobKind {
  // What is told once waits for the sentence itself.
  const waiting = channels.filter((c) => c.fillsIn !== true).map((c) => c.name);
  return {
    mostAttempts,
    async run(job) {
      const event = await record.events.find(job.event);
      if (!event) return { kind: 'given-up', why: 'The event is gone.' };
      if (!describer) return { kind: 'given-up', why: 'No describing service is set up.' };
      // The alert goes first; a phone that cannot be reached does not hold the sentence up for ever.
      if ((await record.jobs.untold(job.event, failing(), waiting)) > 0) return { kind: 'later', ms: waitForAlertMs };
      const held = (await record.media.of('event', [event.id])).get(event.id);
      if (!held?.picture || !held.marked || !event.pictureBox) return { kind: 'given-up', why: 'There is no picture of it.' };
      const read = await Promise.all([record.media.read(held.picture.name), record.media.read(held.marked.name)]).catch(() => undefined);
      if (!read) return { kind: 'given-up', why: 'The picture is gone.' };
      const [picture, marked] = read;
      const camera = site.file.cameras.find((c) => c.id === event.camera);
      if (!camera || camera.described === false)
        return { kind: 'given-up', why: 'Pictures of this camera are sent to no describing service.' };
      const what = event.type ?? event.class ?? 'thing';
      const asks = site.file.rules?.find((r) => r.id === event.rule)?.message?.asks ?? {};
      const sent = {
        event: event.id,
        camera: camera.id,
        service: new URL(describer.url).origin,
        model: describer.model,
        why: event.ruleName,
        picture: held.marked.name,
      };
      // What goes out is kept beside the event's own pictures, which a better one may take the place of.
      await record.media.using(async (keep) => {
        const file = await keep(marked, 'jpg');
        const holding = {
          holder: 'event',
          holderId: event.id,
          role: `sent ${file.name.slice(0, 8)}`,
          camera: camera.id,
          takenAt: event.at,
          file,
        } as const;
        await record.write(async (transaction) => {
          if (await record.events.has(event.id, transaction)) await record.media.hold(transaction, holding);
        });
      });
      const goes = async () => {
        const id = await record.sent.going({ ...sent, at: clock.now() });
        return (came: Parameters<typeof record.sent.went>[1]) => record.sent.went(id, came);
      };
      const answer = await describe(describer, asks, { picture, marked, box: event.pictureBox, what }, goes);
      if (!answer.ok) return { kind: 'failed', why: answer.why };
      await record.write(async (transaction) => {
        const { fields, faults } = answer;
        const trouble = faults.length ? `Not all of the answer could be used: ${faults.join('; ')}.` : null;
        const known = asks.fields ? { fields } : {};
        const line = composed(asks, answer);
        const who = recognised(site.file.known ?? [], asks, fields);
        const description = line && `${who ? recognisedWords(who) : ''}${line}`;
        await record.events.change(event.id, { description, ...known, descriptionTrouble: trouble }, transaction);
        const told = (await record.jobs.toldOf(event.id, transaction)).filter(
          ({ lane }) => !waiting.some((name) => lane.startsWith(`${name}/`)),
        );
        const jobs = told.map(({ alert, target, lane }) => ({ kind: 'fill-in' as const, event: event.id, alert, target, lane }));
        await record.jobs.add(jobs, clock.machine(), transaction);
      });
      return { kind: 'done' };
    },
    async settle({ event }, result, isLast, transaction) {
      if (isLast && 'why' in result) await record.events.change(event, { descriptionTrouble: result.why }, transaction);
    },
    settled({ event }, { kind }) {
      changed(event);
      if (kind === 'done') described();
    },
  };
}

/** The lane of a camera's descriptions. */
export const describeLane = (camera: string): string => laneOf('describe', camera);
