// One exchange with an AI service: the chat-completions shape that many hosted and local model servers accept, with the answer's JSON
// Schema where the service takes one, and in words where it does not.

import {
  answerSchema,
  contentIn,
  headersWith,
  onceMore,
  readAnswer,
  refusalIn,
  together,
  usageIn,
  defaultSeconds,
  wantsCompletionTokens,
  withoutThoughts,
  type Answered,
  type Usage,
} from '@nibber/core/describing';
import type { Prompt, AiService } from '@nibber/core/site';
import { callPublic, type PublicAnswer } from '../net/public-address';
import { withoutSecrets } from '../base/without-secrets';

/** A service with what it is reached by. */
export type Reachable = Omit<AiService, 'id'> & { readonly key: string | undefined };
export type Picture = { readonly jpeg: Buffer };

/** `content` is what it said; `status` what it refused with, and what it said to that. */
export type Said =
  | { readonly kind: 'content'; readonly content: string; readonly usage: Usage | null }
  | { readonly kind: 'status'; readonly status: number; readonly said: string | undefined }
  | { readonly kind: 'nothing'; readonly why: string };
export type Description = ({ readonly ok: true } & Answered) | { readonly ok: false; readonly why: string; readonly isService: boolean };

/** Called for each time that something goes out, before it does; what it returns is called when an answer has come, or none. */
export type Goes = () => Promise<(came: { readonly ms: number; readonly said: Said }) => Promise<void>>;

export type Exchange = {
  readonly service: Reachable;
  /** Origins on private addresses that may be called. */
  readonly own: readonly string[];
  /** How long it is waited for, ms; what is set up for the service where it is shorter. */
  readonly maxMs?: number | undefined;
  readonly goes: Goes;
};

const maxAnswerBytes = 65_536;
const maxTokens = 400;
/** Under its newer name the limit counts what a model thinks as well. */
const maxWithThoughts = 4000;

type Turn = { readonly role: 'user' | 'assistant'; readonly content: unknown };

export const questionTurn = (words: string, pictures: readonly Picture[]): Turn => ({
  role: 'user',
  content: [
    { type: 'text', text: words },
    ...pictures.map(({ jpeg }) => ({ type: 'image_url', image_url: { url: `data:image/jpeg;base64,${jpeg.toString('base64')}` } })),
  ],
});

/** How a service wants to be asked, as far as it is known; the functions are called with the results. */
export type Shape = {
  /** It takes no schema. */
  readonly isInWords: boolean;
  takesNone(): void;
  /** It knows the limit of an answer by its newer name alone. */
  readonly isLimitNew: boolean;
  wantsNewLimit(): void;
};

/**
 * Asks one service. One more try where something of the answer cannot be used; what can is kept.
 */
export async function converse(exchange: Exchange, prompt: Prompt, question: Turn, shape: Shape): Promise<Description> {
  const ends = exchange.maxMs === undefined ? undefined : performance.now() + exchange.maxMs;
  const left = () => (ends === undefined ? exchange : { ...exchange, maxMs: Math.max(1, ends - performance.now()) });
  const wants = prompt.fields !== undefined;
  let isShaped = wants && !shape.isInWords;
  let isLimitNew = shape.isLimitNew;
  const sent = async (schema: object | undefined, turns: readonly Turn[]): Promise<Said> => {
    const said = await send(left(), schema, turns, isLimitNew);
    if (isLimitNew || said.kind !== 'status' || !wantsCompletionTokens(said.said)) return said;
    isLimitNew = true;
    shape.wantsNewLimit();
    return send(left(), schema, turns, true);
  };
  const ask = async (turns: readonly Turn[]): Promise<Said> => {
    const said = await sent(isShaped ? answerSchema(prompt) : undefined, turns);
    // A service that does not know what is asked of it that way refuses the whole request.
    if (!isShaped || said.kind !== 'status' || !refusesShape(said.status)) return said;
    const plainly = await sent(undefined, turns);
    if (plainly.kind === 'content') {
      isShaped = false;
      shape.takesNone();
    }
    return plainly;
  };
  const first = await ask([question]);
  if (first.kind !== 'content') return { ok: false, why: whyOf(first), isService: true };
  const read = readAnswer(prompt, first.content);
  if (read.problems.length === 0) return { ok: true, ...read };
  const second = await ask([
    question,
    { role: 'assistant', content: first.content.slice(0, maxAnswerBytes / 8) },
    { role: 'user', content: onceMore(read.problems) },
  ]);
  const both = second.kind === 'content' ? together(read, readAnswer(prompt, second.content)) : read;
  if (both.sentence === null && Object.keys(both.fields).length === 0 && both.problems.length > 0)
    return { ok: false, why: `The AI service gave no usable answer: ${both.problems[0]}.`, isService: false };
  return { ok: true, ...both };
}

const refusesShape = (status: number) => status >= 400 && status < 500 && ![401, 402, 403, 404, 408, 429].includes(status);

export const whyOf = (said: Exclude<Said, { kind: 'content' }>): string =>
  said.kind === 'status' ? `The AI service answered ${statusWords(said)}` : said.why;

/** `400: “the picture is too large”.` */
export const statusWords = ({ status, said }: Extract<Said, { kind: 'status' }>): string =>
  said === undefined ? `${status}.` : `${status}: “${said}”.`;

/** Sends one request, and says what came of it; it never throws. */
export async function send(
  { service, own, maxMs, goes }: Exchange,
  schema: object | undefined,
  messages: readonly Turn[],
  isLimitNew = false,
): Promise<Said> {
  const body = {
    model: service.model,
    ...(isLimitNew ? { max_completion_tokens: maxWithThoughts } : { max_tokens: maxTokens }),
    messages,
    ...(schema ? { response_format: { type: 'json_schema', json_schema: { name: 'answer', strict: true, schema } } } : {}),
  };
  const came = await goes();
  const began = performance.now();
  const said = await callPublic(`${service.url.replace(/\/$/, '')}/chat/completions`, own, {
    headers: { 'content-type': 'application/json', ...headersWith(service.headers, service.key) },
    body: Buffer.from(JSON.stringify(body)),
    milliseconds: Math.min((service.seconds ?? defaultSeconds) * 1000, maxMs ?? Infinity),
    maxBytes: maxAnswerBytes + 1,
  }).then(
    (answer) => saidBy(answer, service.key),
    (thrown: Error): Said => ({ kind: 'nothing', why: withoutSecrets(`The AI service did not answer: ${thrown.message}`) }),
  );
  await came({ ms: Math.round(performance.now() - began), said });
  return said;
}

/** What a service said, out of the chat-completions shape. @param key cut out of what it says: some repeat what they were sent */
export function saidBy({ status, text }: PublicAnswer, key?: string): Said {
  const shown = (words: string | undefined) => words && withoutSecrets(key ? words.replaceAll(key, '…') : words);
  if (status < 200 || status > 299) return { kind: 'status', status, said: shown(refusalIn(text)) };
  if (Buffer.byteLength(text) > maxAnswerBytes) return { kind: 'nothing', why: `The AI service sent more than ${maxAnswerBytes} bytes.` };
  try {
    const answer: unknown = JSON.parse(text);
    const content = contentIn(answer);
    return content !== undefined
      ? { kind: 'content', content: withoutThoughts(content), usage: usageIn(answer as object) }
      : { kind: 'nothing', why: 'The AI service sent no text.' };
  } catch {
    return { kind: 'nothing', why: 'The AI service sent something that is not JSON.' };
  }
}
