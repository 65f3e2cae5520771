// What is sent without an event: to try a channel, which goes the whole way and says on arrival that it is a test; that a password was changed.

import { randomUUID } from 'node:crypto';
import { isoInstant, wallWords } from '@nibber/core/time';
import type { Clock } from '../base/clock';
import type { SiteBook } from '../db/site';
import { log } from '../base/log';
import type { Channel, Notice } from './channels';

export const ringNotice = (site: SiteBook, clock: Pick<Clock, 'now'>, publicUrl: string, to: string): Notice =>
  ownNotice(site, clock, publicUrl, { title: `Test for ${to}`, body: `Alerts of ${site.file.site.name} arrive here.`, event: 'test' });

/** Something that is said to one person, and is of no event. */
export const ownNotice = (
  site: SiteBook,
  clock: Pick<Clock, 'now'>,
  publicUrl: string,
  { title, body, event }: { readonly title: string; readonly body: string; readonly event: string },
): Notice => {
  const at = clock.now();
  return {
    id: randomUUID(),
    kind: 'alert',
    title,
    body,
    at: isoInstant(at),
    when: wallWords(site.compiled.zone, at),
    picture: null,
    small: null,
    open: `${publicUrl}/`,
    live: null,
    thread: null,
    joins: false,
    count: 1,
    silent: false,
    badge: 0,
    actions: [],
    of: { event, rule: null, camera: null, area: site.file.areas[0]?.id ?? '', class: null, type: null, description: null },
  };
};

/** Tells a person by every channel that reaches them that their password was changed (ASVS 2.5.5). What one does not take, another may. */
export async function notifyOfPassword(channels: readonly Channel[], person: string, notice: Notice): Promise<void> {
  for (const channel of channels)
    for (const target of (await channel.reach()).of(person)) {
      const answer = await channel.send(target, notice);
      if (answer.kind !== 'accepted') log.warn({ channel: channel.name, why: answer.why }, 'no notice of a changed password was sent');
    }
}
