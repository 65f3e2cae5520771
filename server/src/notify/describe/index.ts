// Describing an event is a job like any other: it comes after the alert, and its sentence fills the alert in.

import type { Transaction } from 'sequelize';
import type { Looks } from '@nibber/core/boxes';
import { promptOf, composed, filledUp, isWanting, looksAnswered, recognised, recognisedWords } from '@nibber/core/describing';
import type { SiteFile } from '@nibber/core/site';
import { laneOf, type NewJob } from '../../db/jobs';
import type { EventRow } from '../../db/rows';
import type { AiServices } from '../../ai-services';
import { askAbout } from '../../ai-services/event';
import type { AlertNeeds } from '../alerts';
import type { JobKind } from '../queue';

const maxAttempts = 3;
const waitForAlertMs = 250;
/** A track that is over is shown at so many moments, where its rule does not ask for more. */
const closeUpsAfterwards = 3;

type Needs = Pick<AlertNeeds, 'record' | 'clock' | 'changed' | 'channels' | 'site'> & {
  readonly aiServices: AiServices;
  readonly learnt: (track: string, looks: Looks) => void;
  /** Lanes that do not answer: they are not waited for. */
  readonly failing: () => readonly string[];
  /** Called when there is something to fill in. */
  readonly described: () => void;
};

export function describeJob({ record, clock, site, channels, aiServices, learnt, failing, changed, described }: Needs): JobKind {
  // A channel that sends once waits for the description itself.
  const waiting = channels.filter((c) => c.fillsIn !== true).map((c) => c.name);
  const pictureOf = async (id: string, transaction?: Transaction) =>
    (await record.media.of('event', [id], transaction)).get(id)?.picture?.name;
  return {
    maxAttempts,
    async run(job) {
      const event = await record.events.find(job.event);
      if (!event) return { kind: 'given-up', why: 'The event is no longer stored.' };
      if (aiServices.services('descriptions').length === 0) return { kind: 'given-up', why: 'No AI service is set up.' };
      // The alert goes first; a phone that cannot be reached does not hold the sentence up for ever.
      if ((await record.jobs.untold(job.event, failing(), waiting)) > 0) return { kind: 'later', ms: waitForAlertMs };
      const camera = site.file.cameras.find((c) => c.id === event.camera);
      if (!camera || camera.allowAiService === false)
        return { kind: 'given-up', why: 'Pictures of this camera may not be sent to AI services.' };
      const rule = site.file.rules?.find((r) => r.id === event.rule);
      const prompt = promptOf(site.file, rule, event.class);
      // Asked once more where something was not known and there are other pictures now.
      const before = event.description === null ? null : event.fields;
      if (before && !isWanting(prompt, before)) return { kind: 'done' };
      const more = before ? { closeUps: Math.max(prompt.closeUps ?? 1, closeUpsAfterwards) } : {};
      const askedWith = await pictureOf(event.id);
      const answer = await askAbout({ record, site, aiServices }, event, 'descriptions', { ...prompt, ...more });
      const looks = answer.ok ? looksAnswered(prompt, answer.fields) : undefined;
      if (looks && event.track) learnt(event.track, looks);
      if (!answer.ok && before) return { kind: 'done' };
      if (!answer.ok) return { kind: answer.isGone ? 'given-up' : 'failed', why: answer.why };
      if (before && answer.sentence === null && prompt.sentence !== false) return { kind: 'done' };
      await record.write(async (transaction) => {
        const { problems } = answer;
        const fields = before ? filledUp(prompt, before, answer.fields) : answer.fields;
        const problem = problems.length ? `Part of the answer could not be used: ${problems.join('; ')}.` : null;
        const known = prompt.fields ? { fields } : {};
        const line = composed(prompt, { sentence: answer.sentence, fields });
        const who = recognised(site.file.known ?? [], prompt, fields);
        const description = line && `${who ? recognisedWords(who) : ''}${line}`;
        await record.events.change(event.id, { description, ...known, descriptionProblem: problem }, transaction);
        // A clearly better picture came while it was asked with the one before.
        if (isWanting(prompt, fields) && (await pictureOf(event.id, transaction)) !== askedWith)
          await record.jobs.add(askedAgain(site.file, event), clock.machine(), transaction);
        if (description === event.description) return;
        const notified = (await record.jobs.notifiedOf(event.id, transaction)).filter(
          ({ lane }) => !waiting.some((name) => lane.startsWith(`${name}/`)),
        );
        const jobs = notified.map(({ alert, target, lane }) => ({ kind: 'fill-in' as const, event: event.id, alert, target, lane }));
        await record.jobs.add(jobs, clock.machine(), transaction);
      });
      return { kind: 'done' };
    },
    async settle({ event }, result, isLast, transaction) {
      if (isLast && 'why' in result) await record.events.change(event, { descriptionProblem: result.why }, transaction);
    },
    settled({ event }, { kind }) {
      changed(event);
      if (kind === 'done') described();
    },
  };
}

/** An event is described again where other pictures may answer more: once its track has ended, and when a clearly better one came. */
export function askedAgain(site: SiteFile, event: Pick<EventRow, 'id' | 'rule' | 'camera' | 'class' | 'test'>): NewJob[] {
  const rule = site.rules?.find((r) => r.id === event.rule);
  if (event.test !== null || !rule?.message?.description || !isWanting(promptOf(site, rule, event.class), {})) return [];
  return [{ kind: 'describe', event: event.id, lane: describeLane(event.camera ?? '') }];
}

/** The lane of a camera's descriptions. */
export const describeLane = (camera: string): string => laneOf('describe', camera);
