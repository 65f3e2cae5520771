// What goes out of here: the channels by which people are told, and the services that are asked.

import { route, type Route } from '../route';
import { count, list, maybeText, named, object, oneOf, text, yesNo } from '../schema';
import type { Services } from '../services';

const reached = object({ person: text, name: text, targets: count });
const channel = named('Channel', object({ name: text, waiting: count, trouble: maybeText, people: list(reached) }));
const service = named(
  'Service',
  object({ name: oneOf('describing', 'clips'), isSetUp: yesNo, address: maybeText, waiting: count, trouble: maybeText }),
);

type Used = Pick<Services, 'config' | 'record' | 'site' | 'channels' | 'canMakeClips'>;

export const outgoingRoutes = ({ config, record, site, channels, canMakeClips }: Used): Route[] => [
  route({
    method: 'get',
    path: '/api/channels',
    may: 'set up',
    summary: 'The channels by which people are told: whom each reaches, and what waits',
    answer: list(channel),
    handle: () =>
      Promise.all(
        channels.map(async ({ name, reach }) => {
          const { of } = await reach();
          const { waiting, lastError } = await record.jobs.waiting(name);
          const people = (site.file.people ?? []).map((p) => ({ person: p.id, name: p.name, targets: of(p.id).length }));
          return { name, waiting, trouble: lastError, people };
        }),
      ),
  }),
  route({
    method: 'get',
    path: '/api/services',
    may: 'set up',
    summary: 'What is asked for descriptions, and what makes clips: whether it is set up, and what waits',
    answer: list(service),
    async handle() {
      const { waiting, lastError } = await record.jobs.waiting('describe');
      const { describer } = config;
      return [
        // The address alone: a key may stand in the rest.
        { name: 'describing' as const, isSetUp: describer !== undefined, address: describer ? new URL(describer.url).origin : null, waiting, trouble: lastError }, // prettier-ignore
        { name: 'clips' as const, isSetUp: canMakeClips, address: null, waiting: 0, trouble: null },
      ];
    },
  }),
];
