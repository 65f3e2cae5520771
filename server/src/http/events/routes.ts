// Events and the tracks that did not become one; a moment; the sieve of a day.

import { Problem } from '@nibber/core/problem';
import type { PageAsked } from '../../db/page';
import { route, type Route } from '../route';
import { list, maybeText, object, oneOf, typed } from '../schema';
import type { Services } from '../services';
import { eventPictures, showBetter } from '../../persist/pictures';
import { mark, onlyId } from '../shapes';
import { detailsOf } from './detail';
import { seenPart, sieveAnswer, sieveOfADay } from './sieve';
import { eventItems, listItem, eventDetailAnswer, trackItems } from './answer';

const pageSize = 40;

const filter = object(
  {
    before: { type: 'string', pattern: '^\\d{1,16}(\\.[\\w-]{1,60})?$' },
    camera: typed(40),
    class: typed(40),
    show: oneOf('all', 'notified', 'stopped'),
  },
  ['before', 'camera', 'class', 'show'],
);
const noMoment = () => new Problem('not-found', 'This event is no longer stored.', 'Go back to Events.');

export function eventRoutes(services: Pick<Services, 'record' | 'clock' | 'site' | 'bus' | 'channels' | 'wake'>): Route[] {
  const { record, clock, site, bus, channels, wake } = services;
  const { events, tracks, media } = record;

  const eventsPage = async (asked: PageAsked) => eventItems(services, await events.page(asked));
  const quietPage = async (asked: PageAsked) => trackItems(services, await tracks.quietPage(asked));
  const details = detailsOf(services);

  return [
    route({
      method: 'get',
      path: '/api/events',
      may: 'look',
      summary: 'Events and filtered-out tracks, newest first; `before` is `more` of the previous page',
      query: filter,
      answer: object({ items: list(listItem), more: maybeText }),
      async handle({ query: { before = String(Number.MAX_SAFE_INTEGER), camera, class: cls, show = 'all' }, visitor }) {
        const [at, id = ''] = before.split('.') as [string, string?];
        const seen = seenPart(site, visitor.visible);
        const asked: PageAsked = { before: { at: Number(at), id }, camera, class: cls, max: pageSize + 1, seen };
        const [notified, quiet] = await Promise.all([
          show === 'stopped' ? [] : eventsPage(asked),
          show === 'notified' ? [] : quietPage(asked),
        ]);
        const all = [...notified, ...quiet].sort((a, b) => b.at - a.at || (a.id < b.id ? 1 : -1));
        const items = all.slice(0, pageSize);
        const last = items.at(-1);
        return { items, more: last && all.length > pageSize ? `${last.at}.${last.id}` : null };
      },
    }),
    route({
      method: 'get',
      path: '/api/events/:event',
      may: 'look',
      summary: 'One event or track, with its path, its trails and its alerts',
      answer: eventDetailAnswer,
      async handle({ params, visitor }) {
        const event = await events.find(params.event);
        if (!event) {
          const track = await tracks.find(params.event);
          if (!track || !visitor.visible.camera(track.camera)) throw noMoment();
          return details.ofTrack(track);
        }
        if (!visitor.visible.happened(event)) throw noMoment();
        // Recipients can see who has viewed it.
        if (visitor.person !== undefined && (await record.people.look(event.id, visitor.person, clock.now())))
          bus.publish('event', { id: event.id });
        return details.ofEvent(event);
      },
    }),
    route({
      method: 'put',
      path: '/api/events/:event/mark',
      may: 'judge',
      summary: 'Mark an event as useful or noise',
      body: object({ mark }),
      answer: object({ mark }),
      async handle({ params: { event: id }, body, visitor }) {
        const event = await events.find(id);
        if (event && !visitor.visible.happened(event)) throw new Problem('not-found', 'Event not found.', 'Only events can be marked.');
        await record.write(async (transaction) => {
          if (!(await events.mark(id, body.mark, transaction)))
            throw new Problem('not-found', 'Event not found.', 'Only events can be marked.');
          const what =
            body.mark === null ? 'removed a mark' : body.mark === 'useful' ? 'marked an event as useful' : 'marked an event as noise';
          await record.logbook.note(transaction, clock.now(), visitor, what, id);
        });
        bus.publish('event', { id });
        return { mark: body.mark };
      },
    }),
    route({
      method: 'put',
      path: '/api/events/:event/picture',
      may: 'judge',
      summary: 'Choose another picture for an event, also in its alerts',
      body: object({ snapshot: { type: 'integer', minimum: 0, maximum: 20 } }),
      answer: onlyId,
      async handle({ params: { event: id }, body, visitor }) {
        const event = await events.find(id);
        const snapshot = event?.snapshots?.[body.snapshot];
        const file = (await media.of('event', [id])).get(id)?.[`snapshot ${body.snapshot}`];
        if (!event || !snapshot || !file || !visitor.visible.happened(event))
          throw new Problem('not-found', 'Picture not found.', 'Reload the page.');
        const jpeg = await media.read(file.name);
        await media.using(async (storeFile) => {
          const pictures = await eventPictures(storeFile, jpeg, snapshot.box, event.class ?? 'other');
          await record.write(async (transaction) => {
            const by = { record, channels, machine: clock.machine() };
            await showBetter(by, id, pictures, { at: snapshot.at, box: snapshot.box, by: visitor.name }, transaction);
            await record.logbook.note(transaction, clock.now(), visitor, 'chose another picture of an event', id);
          });
        });
        bus.publish('event', { id });
        wake();
        return { id };
      },
    }),
    route({
      method: 'get',
      path: '/api/sieve',
      may: 'look',
      summary: 'Tracks of the last 24 hours: how many each gate stopped, by the rule in which each got furthest, and how many passed',
      answer: sieveAnswer,
      handle: ({ visitor }) => sieveOfADay(services, visitor.visible),
    }),
  ];
}
