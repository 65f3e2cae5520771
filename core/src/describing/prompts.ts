// What is asked of a thing: what the rule asks, or what is asked of every thing of its class; and what of it is still to be known.

import type { ClassName } from '../boxes';
import type { Prompt, Rule, SiteFile } from '../site';
import { platesTogether } from './known';
import { shownOf, type FieldValue } from './request';

/** @param cls of the thing; of one without a class the rule's own is asked */
export function promptOf(site: Pick<SiteFile, 'ai'>, rule: Pick<Rule, 'message'> | undefined, cls: ClassName | null): Prompt {
  return rule?.message?.prompt ?? (cls === null ? undefined : site.ai?.prompts?.[cls]) ?? {};
}

/** Whether a thing is shown close up for what is asked of it, so that its pixels count. */
export const looksClosely = (prompt: Prompt): boolean => shownOf(prompt).close > 0;

/** Whether other close-ups may answer more: a plate is uncertain, or a field is unknown and several close-ups are asked for. */
export const isWanting = (prompt: Prompt, fields: Readonly<Record<string, FieldValue>>): boolean =>
  (prompt.fields ?? []).some(({ name, kind }) =>
    fields[name] === undefined ? kind === 'plate' || (prompt.closeUps ?? 1) > 1 : kind === 'plate' && String(fields[name]).includes('?'),
  );

/** What was known before, with what a later answer, which had more pictures, knows better; of a plate the signs that either is sure of. */
export function filledUp(
  prompt: Prompt,
  before: Readonly<Record<string, FieldValue>>,
  later: Readonly<Record<string, FieldValue>>,
): Record<string, FieldValue> {
  const plates = new Set((prompt.fields ?? []).flatMap(({ name, kind }) => (kind === 'plate' ? [name] : [])));
  const both = Object.keys(before).filter((name) => plates.has(name) && later[name] !== undefined);
  return {
    ...before,
    ...later,
    ...Object.fromEntries(both.map((name) => [name, platesTogether(String(before[name]), String(later[name]))])),
  };
}
