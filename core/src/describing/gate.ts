// The question that decides whether an alert goes out, asked about the picture once the gates have let the event through.

import type { AskedField, Prompt, Rule, SiteFile } from '../site';
import { recognised } from './known';
import type { Answered } from './request';

export type RuleQuestion = NonNullable<Rule['question']>;
export const questionGate = 'question';

/** What came of it. `answer` is null where no one said yes or no; `known` the name of what was recognised. */
export type Verdict = {
  readonly notifies: boolean;
  readonly answer: boolean | null;
  readonly known: string | null;
  readonly why: string;
};

const answerField: AskedField = { name: 'the answer', kind: 'yes or no' };
const plateField: AskedField = { name: 'plate', kind: 'plate' };

/** What is asked: yes or no, and what a known thing is known by. */
/** @param asks what is asked of the thing beside */
export function questionPrompt(question: RuleQuestion | undefined, prompt: Prompt): Prompt {
  const known = question?.unlessKnown ? (prompt.fields ?? [plateField]) : [];
  const hasPlate = known.some((f) => f.kind === 'plate');
  const fields = [...known, ...(question?.unlessKnown && !hasPlate ? [plateField] : []), ...(question?.words ? [answerField] : [])];
  return {
    sentence: false,
    fields: fields.slice(-12),
    shows: 'both',
    ...(question?.words ? { words: `"${answerField.name}" is the answer to this, about the one that is meant: ${question.words}` } : {}),
  };
}

/** @param said what was answered, or why nothing was */
export function verdictOf(
  question: RuleQuestion,
  prompt: Prompt,
  known: NonNullable<SiteFile['known']>,
  said: Pick<Answered, 'fields'> | { readonly noAnswer: string },
): Verdict {
  const notifiesOtherwise = question.onTimeout === 'send';
  const instead = notifiesOtherwise ? 'sent anyway' : 'kept back';
  if ('noAnswer' in said)
    return { notifies: notifiesOtherwise, answer: null, known: null, why: `${said.noAnswer.replace(/\.$/, '')}: ${instead}` };
  // A partly read plate may be another's, so the alert is sent: its trail says why.
  const who = question.unlessKnown ? recognised(known, prompt, said.fields) : undefined;
  if (who?.isSure) return { notifies: false, answer: null, known: who.name, why: `It is known: ${who.name}` };
  if (!question.words)
    return { notifies: true, answer: null, known: null, why: who ? `It may be ${who.name}, but this is not certain` : 'It is not known' };
  const answer = said.fields[answerField.name];
  if (typeof answer !== 'boolean') return { notifies: notifiesOtherwise, answer: null, known: null, why: `No clear answer: ${instead}` };
  const notifies = answer === ((question.alertIf ?? 'yes') === 'yes');
  return { notifies, answer, known: null, why: `${question.words} ${answer ? 'Yes' : 'No'}` };
}
