// The stand-in describing service: the chat-completions shape, and the ways in which such a service fails.

import path from 'node:path';
import express, { Router } from 'express';
import type { Box } from '@nibber/core/boxes';
import { startThread } from '@nibber/server/watch/thread';

export const describerFaults = ['none', 'late', 'fail', 'rubbish', 'refuse'] as const;
export type DescriberFault = (typeof describerFaults)[number];

/** The place that a question speaks of, 0..1 of the picture; undefined where it speaks of none. */
export function placeIn(question: string): Box | undefined {
  const found = /from (\d+) to (\d+) % of its width and (\d+) to (\d+) % of its height/.exec(question);
  if (!found) return undefined;
  const [x0, x1, y0, y1] = found.slice(1).map((v) => Number(v) / 100) as [number, number, number, number];
  return [x0, y0, x1 - x0, y1 - y0];
}

type Answer = {
  readonly id: number;
  readonly sentence?: string;
  readonly facts?: { readonly [name: string]: string | number | boolean };
  readonly wrong?: string;
};
type Shape = { readonly json_schema?: { readonly schema?: { readonly properties?: object } } };
type Content = { readonly type: string; readonly text?: string; readonly image_url?: { readonly url: string } };

/** In the shape that is asked for, null for whatever it does not know; the sentence alone where none is. */
function shaped({ sentence, facts = {} }: Answer, format: Shape | undefined): string | undefined {
  const properties = format?.json_schema?.schema?.properties;
  if (!properties) return sentence;
  const names = Object.keys(properties);
  return JSON.stringify(
    Object.fromEntries(names.map((name) => [name, name === 'sentence' ? sentence : (facts[name.toLowerCase()] ?? null)])),
  );
}

const lateMs = 30_000;

export function describer(): { router: Router; setFault(fault: DescriberFault): void; asked(): number; close(): Promise<unknown> } {
  const eyes = startThread(path.join(__dirname, 'eyes.worker.ts'));
  const waiting = new Map<number, (answer: Answer) => void>();
  let [asked, fault] = [0, 'none' as DescriberFault];
  eyes.on('message', (answer: Answer) => {
    waiting.get(answer.id)?.(answer);
    waiting.delete(answer.id);
  });
  const router = Router();
  router.post('/v1/chat/completions', express.json({ limit: '8mb' }), async (request, response) => {
    const id = ++asked;
    if (fault === 'refuse') return void response.destroy();
    if (fault === 'fail') return void response.status(500).json({ error: { message: 'out of order' } });
    if (fault === 'rubbish')
      return void response.json({ choices: [{ message: { role: 'assistant', content: { nested: ['not', 'a', 'sentence'] } } }] });
    if (fault === 'late') await new Promise((r) => setTimeout(r, lateMs));
    const content = (request.body as { messages?: { content?: Content[] }[] }).messages?.[0]?.content ?? [];
    const url = content.find((c) => c.type === 'image_url')?.image_url?.url ?? '';
    const jpeg = Buffer.from(url.replace(/^data:image\/jpeg;base64,/, ''), 'base64');
    const question = content.map((c) => c.text ?? '').join(' ');
    const withColours = !question.includes('infrared');
    const meant = placeIn(question);
    const answer = await new Promise<Answer>((resolve) => {
      waiting.set(id, resolve);
      eyes.postMessage({ id, jpeg, withColours, meant });
    });
    if (answer.wrong) return void response.status(400).json({ error: { message: answer.wrong } });
    response.json({
      id: `standin-${id}`,
      object: 'chat.completion',
      model: 'standin',
      choices: [
        {
          index: 0,
          message: { role: 'assistant', content: shaped(answer, (request.body as { response_format?: Shape }).response_format) },
          finish_reason: 'stop',
        },
      ],
    });
  });
  return { router, setFault: (next) => void (fault = next), asked: () => asked, close: () => eyes.terminate() };
}
