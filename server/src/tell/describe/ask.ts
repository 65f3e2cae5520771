// Asks a describing service for a sentence: the chat-completions shape that many hosted and local model servers accept.

import sharp from 'sharp';
import { onPicture, type Box } from '@nibber/core/boxes';
import { isInfrared } from '@nibber/core/stills';
import { readBody } from '../../net/body';
import { withoutSecrets } from '../../without-secrets';

export type Describer = { readonly url: string; readonly model: string; readonly key: string | undefined };
export type Description = { readonly ok: true; readonly sentence: string } | { readonly ok: false; readonly why: string };

const timeoutMs = 20_000;
const mostAnswerBytes = 65_536;
const mostCharacters = 280;

/** What is to be described: the picture, the same with the thing framed in it, where the frame is, and what is in it. */
export type Described = { readonly picture: Buffer; readonly marked: Buffer; readonly box: Box; readonly what: string };

/** Whoever else is in the picture is not asked about: the one that is meant is framed, and the request says where. */
export async function describe(service: Describer, { picture, marked, box, what }: Described): Promise<Description> {
  const small = await sharp(picture).resize(120, 68, { fit: 'fill' }).removeAlpha().toColourspace('srgb').raw().toBuffer();
  const colourWords = isInfrared(small) ? ' The picture was taken by infrared light: say nothing about colours.' : '';
  const question = `The picture is from a fixed camera; a ${what} was noticed in it, the one that is framed, ${placeWords(box)}. Say in one short sentence what this ${what} looks like and is doing; the frame itself is drawn, not seen. Say only what can be seen.${colourWords}`;
  const body = {
    model: service.model,
    max_tokens: 120,
    messages: [
      {
        role: 'user',
        content: [
          { type: 'text', text: question },
          { type: 'image_url', image_url: { url: `data:image/jpeg;base64,${marked.toString('base64')}` } },
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

/** Where a box is, in whole shares of the picture. */
function placeWords(box: Box): string {
  const [x, y, w, h] = onPicture(box).map((v) => Math.round(v * 100)) as [number, number, number, number];
  return `from ${x} to ${x + w} % of its width and ${y} to ${y + h} % of its height`;
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
