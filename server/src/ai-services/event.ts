// Asking about an event: its pictures as they are sent, kept as they went, and the question that goes with them.

import { questionOf } from '@nibber/core/describing';
import type { Prompt, AiService, AiUse } from '@nibber/core/site';
import { wallWords } from '@nibber/core/time';
import type { EventRow, Record } from '../db';
import type { SiteBook } from '../db/site';
import { sendableOf } from './pictures';
import type { Answer, AiServices } from './index';

type Needs = { readonly record: Record; readonly site: SiteBook; readonly aiServices: AiServices };
export type Asking = {
  readonly maxMs?: number;
  /** One service instead of those that are set up for the use. */
  readonly service?: AiService;
  /** For what it is asked, in the list of what was sent; the rule's name if absent. */
  readonly why?: string;
};

/** @returns what was answered; `isGone` where there is nothing to be asked about */
export async function askAbout(
  { record, site, aiServices }: Needs,
  event: EventRow,
  use: AiUse,
  prompt: Prompt,
  { maxMs, service, why = event.ruleName }: Asking = {},
): Promise<Answer & { readonly isGone: boolean; readonly sent: readonly string[] }> {
  const began = performance.now();
  const sendable = await sendableOf(record.media, event, prompt);
  if ('why' in sendable)
    return { ok: false, why: sendable.why, isService: false, service: null, seconds: 0, cost: null, isGone: true, sent: [] };
  const { pictures, shown, isInfrared } = sendable;
  // What goes out is kept beside the event's own pictures, which a better one may take the place of.
  const sent = await record.media.using(async (keep) => {
    const files = await Promise.all(pictures.map(({ jpeg }) => keep(jpeg, 'jpg')));
    const holding = { holder: 'event', holderId: event.id, camera: event.camera, takenAt: event.at } as const;
    await record.write(async (transaction) => {
      if (await record.events.has(event.id, transaction))
        await record.media.hold(transaction, ...files.map((file) => ({ ...holding, role: `sent ${file.name.slice(0, 8)}`, file })));
    });
    return files.map((f) => f.name);
  });
  const what = event.type ?? event.class ?? 'thing';
  const where = site.file.cameras.find((c) => c.id === event.camera)?.name;
  const words = questionOf(prompt, {
    what,
    box: event.pictureBox!,
    isInfrared,
    shown,
    when: wallWords(site.file.site.timezone, event.at),
    ...(where ? { where } : {}),
  });
  const left = maxMs === undefined ? {} : { maxMs: Math.max(1, maxMs - (performance.now() - began)) };
  const question = { prompt, words, pictures, of: { event: event.id, camera: event.camera ?? '', why, pictures: sent }, ...left };
  const answer = service ? await aiServices.askOne(service, use, question) : await aiServices.ask(use, question);
  return { ...answer, isGone: false, sent };
}
