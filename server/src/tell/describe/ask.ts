// Asks a describing service about a picture: the chat-completions shape that many hosted and local model servers accept, with the answer's JSON
// Schema where the service takes one, and in words where it does not.

import sharp from 'sharp';
import type { Box } from '@nibber/core/boxes';
import { answerSchema, onceMore, questionOf, readAnswer, together, type Answered } from '@nibber/core/describing';
import type { Asks } from '@nibber/core/site';
import { isInfrared } from '@nibber/core/stills';
import { readBody } from '../../net/body';
import { withoutSecrets } from '../../without-secrets';

export type Describer = { readonly url: string; readonly model: string; readonly key: string | undefined };
export type Description = ({ readonly ok: true } & Answered) | { readonly ok: false; readonly why: string };

const timeoutMs = 20_000;
const mostAnswerBytes = 65_536;
const mostTokens = 400;

/** What is to be described: the picture, the same with the thing framed in it, where the frame is, and what is in it. */
export type Described = { readonly picture: Buffer; readonly marked: Buffer; readonly box: Box; readonly what: string };
/** Called for each time that the picture goes out, before it does; what it returns is called when an answer has come, or none. */
export type Goes = () => Promise<
  (came: { readonly ms: number; readonly outcome: 'answered' | 'failed'; readonly said: string }) => Promise<void>
>;

type Turn = { readonly role: 'user' | 'assistant'; readonly content: unknown };
type Said = { readonly content: string } | { readonly status: number } | { readonly why: string };

/** Services that refused an answer's schema, by their address: they are asked in words. */
const inWords = new Set<string>();

/** One more try where something of the answer cannot be used; what can is kept. */
export async function describe(
  service: Describer,
  asks: Asks,
  { picture, marked, box, what }: Described,
  goes: Goes,
): Promise<Description> {
  const small = await sharp(picture).resize(120, 68, { fit: 'fill' }).removeAlpha().toColourspace('srgb').raw().toBuffer();
  const question: Turn = {
    role: 'user',
    content: [
      { type: 'text', text: questionOf(asks, { what, box, isInfrared: isInfrared(small) }) },
      { type: 'image_url', image_url: { url: `data:image/jpeg;base64,${marked.toString('base64')}` } },
    ],
  };
  const first = await answerTo(service, asks, [question], goes);
  if ('why' in first) return { ok: false, why: first.why };
  const read = readAnswer(asks, first.content);
  if (read.faults.length === 0) return { ok: true, ...read };
  const again: Turn[] = [
    question,
    { role: 'assistant', content: first.content.slice(0, mostAnswerBytes / 8) },
    { role: 'user', content: onceMore(read.faults) },
  ];
  const second = await answerTo(service, asks, again, goes);
  const both = 'why' in second ? read : together(read, readAnswer(asks, second.content));
  if (both.sentence === null && Object.keys(both.fields).length === 0 && both.faults.length > 0)
    return { ok: false, why: `The describing service gave nothing that can be used: ${both.faults[0]}.` };
  return { ok: true, ...both };
}

async function answerTo(
  service: Describer,
  asks: Asks,
  turns: readonly Turn[],
  goes: Goes,
): Promise<{ readonly content: string } | { readonly why: string }> {
  const isShaped = asks.fields !== undefined && !inWords.has(service.url);
  const said = await send(service, isShaped ? answerSchema(asks) : undefined, turns, goes);
  // A service that does not know what is asked of it that way refuses the whole request.
  if (
    isShaped &&
    'status' in said &&
    said.status >= 400 &&
    said.status < 500 &&
    said.status !== 401 &&
    said.status !== 403 &&
    said.status !== 429
  ) {
    const plainly = await send(service, undefined, turns, goes);
    if ('content' in plainly) inWords.add(service.url);
    return 'status' in plainly ? { why: `The describing service answered ${plainly.status}.` } : plainly;
  }
  return 'status' in said ? { why: `The describing service answered ${said.status}.` } : said;
}

async function send(service: Describer, schema: object | undefined, messages: readonly Turn[], goes: Goes): Promise<Said> {
  const body = {
    model: service.model,
    max_tokens: mostTokens,
    messages,
    ...(schema ? { response_format: { type: 'json_schema', json_schema: { name: 'answer', strict: true, schema } } } : {}),
  };
  const came = await goes();
  const began = performance.now();
  const end = async (said: Said): Promise<Said> => {
    const words = 'content' in said ? said.content.slice(0, 1000) : 'status' in said ? `It answered ${said.status}.` : said.why;
    await came({ ms: Math.round(performance.now() - began), outcome: 'content' in said ? 'answered' : 'failed', said: words });
    return said;
  };
  try {
    const response = await fetch(`${service.url.replace(/\/$/, '')}/chat/completions`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', ...(service.key ? { authorization: `Bearer ${service.key}` } : {}) },
      body: JSON.stringify(body),
      signal: AbortSignal.timeout(timeoutMs),
      redirect: 'error',
    });
    if (!response.ok) return await end({ status: response.status });
    return await end(contentOf((await readBody(response, mostAnswerBytes, timeoutMs)).toString('utf8')));
  } catch (thrown) {
    return end({ why: withoutSecrets(`The describing service did not answer: ${(thrown as Error).message}`) });
  }
}

/** What a service said, out of the chat-completions shape. */
export function contentOf(answer: string): { readonly content: string } | { readonly why: string } {
  try {
    const content = (JSON.parse(answer) as { choices?: { message?: { content?: unknown } }[] }).choices?.[0]?.message?.content;
    return typeof content === 'string' ? { content } : { why: 'The describing service sent no text.' };
  } catch {
    return { why: 'The describing service sent something that is not JSON.' };
  }
}
