// Events and the tracks that did not become one; a moment; the sieve of a day.

import { Trouble } from '@nibber/core/trouble';
import type { EventRow } from '../../record';
import type { PageAsked } from '../../record/page';
import { route, type Route } from '../route';
import { list, maybeText, object, oneOf, typed } from '../schema';
import type { Services } from '../services';
import { mark } from '../shapes';
import { sieveAnswer, sieveOfADay } from './sieve';
import {
  alertAnswer,
  clipAnswer,
  eventAnswer,
  eventItems,
  listItem,
  momentAnswer,
  namesOf,
  trackAnswer,
  trackItems,
  trailAnswer,
} from './answer';

const pageSize = 40;

const filter = object(
  { before: { type: 'string', pattern: '^\\d{1,16}(\\.[\\w-]{1,60})?$' }, camera: typed(40), class: typed(40), show: oneOf('all', 'told', 'stopped') }, // prettier-ignore
  ['before', 'camera', 'class', 'show'],
);
export function eventRoutes(services: Pick<Services, 'record' | 'clock' | 'site' | 'bus'>): Route[] {
  const { record, clock, site, bus } = services;
  const { events, alerts, tracks, media } = record;
  const names = namesOf({ site });

  const eventsPage = async (asked: PageAsked) => eventItems(services, await events.page(asked));
  const quietPage = async (asked: PageAsked) => trackItems(services, await tracks.quietPage(asked));
  const momentOfEvent = async (event: EventRow) => {
    const [track, trails, told, held] = await Promise.all([
      event.track === null ? undefined : tracks.find(event.track),
      event.track === null ? [] : tracks.trailsOf([event.track]),
      alerts.of([event.id]),
      media.of('event', [event.id]),
    ]);
    // What is of no track has come through its rule, and no other was asked.
    const own = { rule: event.rule ?? '', stoppedAt: null, why: '', at: event.at, steps: event.steps, track: '' };
    return {
      ...eventAnswer(event, held.get(event.id), names),
      path: track?.path ?? [],
      trails: (trails.length || event.rule === null ? trails : [own]).map((t) => trailAnswer(t, names)),
      alerts: told.map((a) => alertAnswer(a, names)),
      ...clipAnswer(event, held.get(event.id)),
      descriptionTrouble: event.descriptionTrouble,
    };
  };
  const momentOfTrack = async (id: string) => {
    const track = await tracks.find(id);
    if (!track) throw new Trouble('not-found', 'This moment is not kept here (any more).', 'Go back to Events.');
    const [trails, held] = await Promise.all([tracks.trailsOf([id]), media.of('track', [id])]);
    const none = { clip: null, clipFrom: null, clipTrouble: null, description: null, descriptionTrouble: null, mark: null };
    return {
      ...trackAnswer(track, held.get(id), trails, names),
      path: track.path,
      trails: trails.map((t) => trailAnswer(t, names)),
      alerts: [],
      ...none,
    };
  };

  return [
    route({
      method: 'get',
      path: '/api/events',
      may: 'look',
      summary: 'Events and tracks that became none, newest first; `before` is what `more` of the page before said',
      query: filter,
      answer: object({ items: list(listItem), more: maybeText }),
      async handle({ query: { before = String(Number.MAX_SAFE_INTEGER), camera, class: cls, show = 'all' } }) {
        const [at, id = ''] = before.split('.') as [string, string?];
        const asked: PageAsked = { before: { at: Number(at), id }, camera, class: cls, most: pageSize + 1 };
        const [told, quiet] = await Promise.all([show === 'stopped' ? [] : eventsPage(asked), show === 'told' ? [] : quietPage(asked)]);
        const all = [...told, ...quiet].sort((a, b) => b.at - a.at || (a.id < b.id ? 1 : -1));
        const items = all.slice(0, pageSize);
        const last = items.at(-1);
        return { items, more: last && all.length > pageSize ? `${last.at}.${last.id}` : null };
      },
    }),
    route({
      method: 'get',
      path: '/api/events/:event',
      may: 'look',
      summary: 'One moment: an event or a track, with its way, its trails and who was told',
      answer: momentAnswer,
      async handle({ params }) {
        const event = await events.find(params.event);
        return event ? momentOfEvent(event) : momentOfTrack(params.event);
      },
    }),
    route({
      method: 'put',
      path: '/api/events/:event/mark',
      may: 'judge',
      summary: 'Say whether an event was worth having',
      body: object({ mark }),
      answer: object({ mark }),
      async handle({ params: { event: id }, body, visitor }) {
        await record.write(async (transaction) => {
          if (!(await events.mark(id, body.mark, transaction)))
            throw new Trouble('not-found', 'There is no such event.', 'Only events can be marked.');
          const what =
            body.mark === null
              ? 'took a mark back'
              : body.mark === 'kept'
                ? 'said that an event was worth having'
                : 'said that an event was noise';
          await record.logbook.note(transaction, clock.now(), visitor.name, what, id);
        });
        bus.publish('event', { id });
        return { mark: body.mark };
      },
    }),
    route({
      method: 'get',
      path: '/api/sieve',
      may: 'look',
      summary:
        'Of the tracks of the last 24 hours: how many each gate stopped, by the rule that let each come furthest, and what came through',
      answer: sieveAnswer,
      handle: () => sieveOfADay(services),
    }),
  ];
}
