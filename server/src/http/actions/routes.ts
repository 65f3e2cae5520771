// What is done from a notification: by its token alone, since the application may be closed and no one signed in there.

import { Problem } from '@nibber/core/problem';
import { wallWords } from '@nibber/core/time';
import { may } from '@nibber/core/permissions';
import { route, type Route } from '../route';
import { object, text, typed } from '../schema';
import type { Services } from '../services';

const hourMs = 3_600_000;
const notNow = () => new Problem('not-allowed', 'This action has expired.', 'Open the application and do it there.');

type Used = Pick<Services, 'actions' | 'record' | 'site' | 'access' | 'clock' | 'bus'>;

export const actionRoutes = ({ actions, record, site, access, clock, bus }: Used): Route[] => [
  route({
    method: 'post',
    path: '/api/actions',
    may: 'anyone',
    summary: 'Run an action of a notification by its token; each works once',
    body: object({ token: typed(600) }),
    answer: object({ done: text }),
    async handle({ body }) {
      const claim = actions.read(body.token);
      const alert = claim && (await record.alerts.find(claim.alert));
      const event = alert && (await record.events.find(alert.event));
      const person = site.file.people?.find((p) => p.id === claim?.person);
      // Who has been taken out meanwhile, or may not see it any more, does nothing.
      if (!claim || !event || !person || alert.person !== person.id || !access.visibleNow(person.id)?.happened(event)) throw notNow();
      if (claim.action === 'noise' && !may(person.role, 'judge')) throw notNow();
      const at = clock.now();
      const until = at + hourMs;
      const done = claim.action === 'quiet' ? `Quiet until ${wallWords(site.file.site.timezone, until)}` : 'Marked as noise';
      await record.write(async (transaction) => {
        // Pressed twice, or sent twice by a poor line: done once.
        if (!(await record.people.useAction(alert.id, claim.action, at, transaction))) return;
        if (claim.action === 'quiet') {
          await record.people.snooze(
            { person: person.id, rule: event.rule, camera: event.camera, area: null, until, madeAt: at },
            transaction,
          );
          await record.logbook.note(
            transaction,
            at,
            { name: person.name, person: person.id },
            `snoozed ${event.ruleName} for an hour, from the notification`,
            event.id,
          );
        } else {
          await record.events.mark(event.id, 'noise', transaction);
          await record.logbook.note(
            transaction,
            at,
            { name: person.name, person: person.id },
            'marked an event as noise, from the notification',
            event.id,
          );
        }
      });
      await record.people.look(event.id, person.id, at);
      bus.publish('event', { id: event.id });
      return { done };
    },
  }),
];
