// What stands around the answer of a service that speaks chat completions: its parts, its thoughts, and what it says where it refuses.

import { isRecord } from '../problem';

/** The text of an answer: a string, or a list of parts of which the text is taken; undefined where there is none. */
export function contentIn(answer: unknown): string | undefined {
  const choices = isRecord(answer) && Array.isArray(answer.choices) ? (answer.choices as unknown[]) : [];
  const message = isRecord(choices[0]) && isRecord(choices[0].message) ? choices[0].message : {};
  const { content } = message;
  if (typeof content === 'string') return content;
  if (!Array.isArray(content)) return undefined;
  const texts = content.flatMap((part) => (isRecord(part) && typeof part.text === 'string' ? part.text : []));
  return texts.length ? texts.join('') : undefined;
}

/**
 * An answer without what a model thought before it. A beginning without an end is all thought (the answer was cut off), an end without a
 * beginning is the end of one that began before the text.
 */
export function withoutThoughts(content: string): string {
  const whole = content.replace(/<(think|thinking|reasoning)>[^]*?<\/\1>/gi, '');
  const end = /^[^]*<\/(?:think|thinking|reasoning)>/i.exec(whole);
  return (end ? whole.slice(end[0].length) : whole).replace(/<(?:think|thinking|reasoning)>[^]*$/i, '').trim();
}

const longestSaid = 200;

/** What a service says of a request that it refuses, on one line; undefined where it says nothing that people could read. */
export function refusalIn(text: string): string | undefined {
  let said: unknown = text;
  try {
    const answer: unknown = JSON.parse(text);
    const error = isRecord(answer) ? (answer.error ?? answer) : answer;
    said = isRecord(error) ? (error.message ?? error.detail ?? error.error) : error;
  } catch {
    // Plain text is as good; a page is not.
    if (/^\s*</.test(text)) return undefined;
  }
  const line = typeof said === 'string' ? said.replace(/\s+/g, ' ').trim().slice(0, longestSaid) : '';
  return line || undefined;
}

/** Whether a refusal asks for the limit of an answer under its newer name. */
export const wantsCompletionTokens = (said: string | undefined): boolean => said?.includes('max_completion_tokens') ?? false;
