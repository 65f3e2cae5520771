// Asks a describing service for a sentence: the chat-completions shape that many hosted and local model servers accept.

import sharp from 'sharp';
import { isInfrared } from '@nibber/core/stills';
import { readBody } from '../body';
import { withoutSecrets } from '../without-secrets';

export type Describer = { readonly url: string; readonly model: string; readonly key: string | undefined };
export type Description = { readonly ok: true; readonly sentence: string } | { readonly ok: false; readonly why: string };

const timeoutMs = 20_000;
const mostAnswerBytes = 65_536;
const mostCharacters = 280;

export async function describe(service: Describer, jpeg: Buffer, what: string): Promise<Description> {
  const small = await sharp(jpeg).resize(120, 68, { fit: 'fill' }).removeAlpha().toColourspace('srgb').raw().toBuffer();
  const colourWords = isInfrared(small) ? ' The picture was taken by infrared light: say nothing about colours.' : '';
  const question = `The picture is from a fixed camera; a ${what} was noticed in it. Say in one short sentence what the ${what} looks like and is doing. Say only what can be seen.${colourWords}`;
  const body = {
    model: service.model,
    max_tokens: 120,
    messages: [
      {
        role: 'user',
        content: [
          { type: 'text', text: question },
          { type: 'image_url', image_url: { url: `data:image/jpeg;base64,${jpeg.toString('base64')}` } },
        ],
      },
    ],
  };
  try {
    const response = await fetch(`${service.url.replace(/\/$/, '')}/chat/completions`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', ...(service.key ? { authorization: `Bearer ${service.key}` } : {}) },
      body: JSON.stringify(body),
      signal: AbortSignal.timeout(timeoutMs),
      redirect: 'error',
    });
    if (!response.ok) return { ok: false, why: `The describing service answered ${response.status}.` };
    return sentenceOf((await readBody(response, mostAnswerBytes, timeoutMs)).toString('utf8'));
  } catch (thrown) {
    return { ok: false, why: withoutSecrets(`The describing service did not answer: ${(thrown as Error).message}`) };
  }
}

/** The sentence in an answer, cleaned for showing: one line, no control characters, not too long. */
export function sentenceOf(answer: string): Description {
  let content: unknown;
  try {
    content = (JSON.parse(answer) as { choices?: { message?: { content?: unknown } }[] }).choices?.[0]?.message?.content;
  } catch {
    return { ok: false, why: 'The describing service sent something that is not JSON.' };
  }
  if (typeof content !== 'string') return { ok: false, why: 'The describing service sent no text.' };
  const line = content
    .replace(/[\p{Cc}\p{Cf}\u2028\u2029]+/gu, ' ')
    .replace(/\s+/g, ' ')
    .trim();
  if (!/\p{L}{2}/u.test(line)) return { ok: false, why: 'The describing service sent no sentence.' };
  return { ok: true, sentence: line.length > mostCharacters ? `${line.slice(0, mostCharacters - 1).trimEnd()}…` : line };
}
