// What is sent to try a channel: it goes the whole way, and says on arrival that it is a test.

import { randomUUID } from 'node:crypto';
import { isoInstant, wallWords } from '@nibber/core/time';
import type { Clock } from '../place/clock';
import type { SiteBook } from '../record/site';
import type { Notice } from './channels';

export const ringNotice = (site: SiteBook, clock: Pick<Clock, 'now'>, publicUrl: string, to: string): Notice => {
  const at = clock.now();
  return {
    id: randomUUID(),
    kind: 'alert',
    title: `Test for ${to}`,
    body: `Alerts of ${site.file.site.name} arrive here.`,
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
    of: { event: 'test', rule: null, camera: null, area: site.file.areas[0]?.id ?? '', class: null, type: null, description: null },
  };
};
