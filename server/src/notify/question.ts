// The check before alerting: its answer sends the waiting alerts or holds them back. It waits no longer than
// the rule says, and has lanes of its own, so that nothing else holds it up.

import type { Looks } from '@nibber/core/boxes';
import {
  promptOf,
  filledUp,
  questionPrompt,
  isWanting,
  looksAnswered,
  recognised,
  verdictOf,
  type RuleQuestion,
  type Verdict,
} from '@nibber/core/describing';
import type { AiServices } from '../ai-services';
import { askAbout } from '../ai-services/event';
import { laneOf } from '../db/jobs';
import type { EventRow, JobRow, StoredQuestion } from '../db/rows';
import type { AlertNeeds } from './alerts';
import type { JobKind } from './queue';
import { pause } from '../base/pause';

type Needs = Pick<AlertNeeds, 'record' | 'clock' | 'site' | 'changed'> & {
  readonly aiServices: AiServices;
  readonly learnt: (track: string, looks: Looks) => void;
  /** Called when an alert is due now. */
  readonly decided: () => void;
};

export const questionQueue = 'question';
export const questionLane = (event: string): string => laneOf(questionQueue, event);

/** So often, and so soon, a better picture is asked about. */
const maxAgain = 2;
const betterWithinMs = 3000;
const lookEveryMs = 150;
/** Longer than any question takes; what it decides comes before. */
const keptBackMs = 24 * 3_600_000;
/** When the waiting alerts are sent without an answer, ms. */
export const waitFor = ({ seconds, onTimeout }: RuleQuestion): number => (onTimeout === 'send' ? seconds * 1000 : keptBackMs);

export const openQuestion = ({ words, unlessKnown }: RuleQuestion): StoredQuestion => ({
  words: words ?? null,
  unlessKnown: unlessKnown === true,
  notifies: null,
  answer: null,
  known: null,
  why: 'No answer yet',
  seconds: null,
  service: null,
  pictures: [],
});

export function questionJob({ record, clock, site, aiServices, learnt, changed, decided }: Needs): JobKind {
  /** What came of it; written with the job. */
  const came = new Map<number, { readonly verdict: Verdict; readonly kept: Partial<StoredQuestion> }>();
  const pictureOf = async (id: string) => (await record.media.of('event', [id])).get(id)?.picture?.name;
  /** The event once it has another picture than now; undefined where none comes in time. */
  const betterPicture = async (id: string, before: string | undefined, milliseconds: number): Promise<EventRow | undefined> => {
    for (const until = performance.now() + milliseconds; performance.now() < until;) {
      if ((await pictureOf(id)) !== before) return record.events.find(id);
      await pause(lookEveryMs);
    }
    return undefined;
  };
  const settled = async (event: EventRow, job: JobRow): Promise<void> => {
    const rule = site.file.rules?.find((r) => r.id === event.rule);
    // A rule whose check was removed sends.
    const question = rule?.question ?? ({ seconds: 1, onTimeout: 'send' } as const);
    const prompt = rule?.question ? questionPrompt(rule.question, promptOf(site.file, rule, event.class)) : {};
    const known = site.file.known ?? [];
    const none = (why: string) => void came.set(job.id, { verdict: verdictOf(question, prompt, known, { noAnswer: why }), kept: {} });
    if (!rule?.question) return none('The rule no longer has a question');
    const alerts = await record.alerts.of([event.id]);
    const made = Math.min(clock.machine(), ...alerts.flatMap((a) => a.madeAtMachine ?? []));
    const left = made + question.seconds * 1000 - clock.machine();
    if (left <= 0) return none('No answer in time');
    if (site.file.cameras.find((c) => c.id === event.camera)?.allowAiService === false)
      return none('Pictures of this camera may not be sent to AI services');
    const ends = performance.now() + left;
    const ask = (about: EventRow) => {
      const maxMs = Math.max(1, ends - performance.now());
      return within(maxMs, askAbout({ record, site, aiServices }, about, 'questions', prompt, { maxMs }));
    };
    let asked = await pictureOf(event.id);
    let answer = await ask(event);
    if (!answer) return none('No answer in time');
    // A plate that cannot be made out yet is asked about again as soon as there is a better picture, while there is time.
    for (let again = maxAgain; again > 0 && answer.ok && rule.question.unlessKnown; again--) {
      if (!isWanting(prompt, answer.fields) || recognised(known, prompt, answer.fields)?.isSure) break;
      const better = await betterPicture(event.id, asked, Math.min(betterWithinMs, ends - performance.now()));
      asked = await pictureOf(event.id);
      const next = better && (await ask(better));
      if (!next?.ok) break;
      answer = {
        ...next,
        fields: filledUp(prompt, answer.fields, next.fields),
        seconds: answer.seconds + next.seconds,
        sent: [...new Set([...answer.sent, ...next.sent])],
      };
    }
    const looks = answer.ok ? looksAnswered(prompt, answer.fields) : undefined;
    if (looks && event.track) learnt(event.track, looks);
    const kept = { seconds: answer.seconds, service: answer.service, pictures: answer.sent };
    const said = answer.ok ? answer : { noAnswer: answer.why };
    came.set(job.id, { verdict: verdictOf(question, prompt, known, said), kept });
  };
  return {
    maxAttempts: 1,
    async run(job) {
      const event = await record.events.find(job.event);
      if (!event) return { kind: 'given-up', why: 'The event is no longer stored.' };
      if (event.question?.notifies !== null) return { kind: 'done' };
      await settled(event, job);
      return { kind: 'done' };
    },
    async settle(job, _result, _isLast, transaction) {
      const now = came.get(job.id);
      if (!now) return;
      came.delete(job.id);
      const event = await record.events.find(job.event, transaction);
      if (!event?.question) return;
      const { verdict, kept } = now;
      await record.events.change(event.id, { question: { ...event.question, ...kept, ...verdict } }, transaction);
      if (verdict.notifies) return record.jobs.dueNow(event.id, clock.machine(), transaction);
      await record.jobs.untell(event.id, verdict.why, transaction);
      await record.alerts.hold(event.id, verdict.why, transaction);
    },
    settled({ event }) {
      changed(event);
      decided();
    },
  };
}

/** Undefined where it takes longer. */
async function within<T>(milliseconds: number, work: Promise<T>): Promise<T | undefined> {
  let timer: NodeJS.Timeout;
  const late = new Promise<undefined>((resolve) => (timer = setTimeout(() => resolve(undefined), milliseconds)));
  return Promise.race([work, late]).finally(() => clearTimeout(timer));
}
