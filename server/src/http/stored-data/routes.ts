// What is stored of one event, of a camera, or of a person: how much, to take away, and to delete.

import { accessOf } from '@nibber/core/people';
import { may } from '@nibber/core/permissions';
import { Problem } from '@nibber/core/problem';
import type { Person } from '@nibber/core/site';
import { dateText, dayOf, startOfDay, wallTime } from '@nibber/core/time';
import { idOf } from '@nibber/core/words';
import type { Visitor } from '../../db/access';
import type { Span } from '../../db/camera-history';
import { namedCamera } from '../cameras/named';
import { route, type Route } from '../route';
import { count, maybeNumber, object } from '../schema';
import type { Services } from '../services';
import { onlyId } from '../shapes';
import { contentOfCamera, contentOfEvents, contentOfPerson } from './content';
import { sendZip } from './zip';

const zip = { bytes: 'application/zip' } as const;
const ofCamera = object({ tracks: count, events: count, clips: count, since: maybeNumber });
const ofPerson = object({ alerts: count, views: count, logbook: count, snoozes: count });
/** One day of the site's wall time; all of it if absent. */
const ofDay = object({ day: { type: 'string', pattern: '^\\d{4}-\\d{2}-\\d{2}$' } }, ['day']);

type Used = Pick<Services, 'record' | 'site' | 'clock' | 'bus'>;

export function storedDataRoutes(services: Used): Route[] {
  const { record, site, clock, bus } = services;
  const { events, tracks, past, longReads, personHistory, logbook } = record;

  const spanOf = (day: string | undefined, now = Number.MAX_SAFE_INTEGER): Span => {
    if (day === undefined) return { from: 0, to: now };
    const number = dayOf(day);
    if (Number.isNaN(number) || dateText(number) !== day)
      throw new Problem('bad-input', `${day} is not a date.`, 'Give the day as 2026-03-28.');
    const { timezone } = site.file.site;
    return { from: startOfDay(timezone, number), to: startOfDay(timezone, number + 1) - 1 };
  };
  const daySaid = (day: string | undefined) => day ?? 'the history';
  const fileName = (...parts: readonly string[]) => `${parts.map((p) => idOf(p, [], 'data')).join('-')}.zip`;
  const today = () => dateText(wallTime(site.file.site.timezone, clock.now()).day);

  const noEvent = () => new Problem('not-found', 'This event is no longer stored.', 'Go back to Events.');
  /** An event, or a track of which none came. */
  const find = async (id: string, { visible }: Visitor) => {
    const event = await events.find(id);
    const track = event ? undefined : await tracks.find(id);
    if (event ? !visible.happened(event) : !track || !visible.camera(track.camera)) throw noEvent();
    return { events: event ? [event] : [], tracks: track ? [track] : [] };
  };

  const noPerson = (id: string) => new Problem('not-found', `${id} not found.`, 'Only owners see the data of others.');
  const person = (id: string): Person => {
    const found = site.file.people?.find((p) => p.id === id);
    if (!found) throw noPerson(id);
    return found;
  };
  const ownOrOwner = (visitor: Visitor, id: string): Person => {
    if (visitor.person !== id && !may(visitor.role, 'change owners')) throw noPerson(id);
    return person(id);
  };

  return [
    route({
      method: 'get',
      path: '/api/events/:event/export',
      may: 'look',
      summary: 'One event or track as a ZIP file: JSON, pictures and clip',
      answer: zip,
      async handle({ params, visitor, response }) {
        const found = await find(params.event, visitor);
        const { at, called } = found.events[0]
          ? { at: found.events[0].at, called: found.events[0].ruleName }
          : { at: found.tracks[0]!.lastSeen, called: found.tracks[0]!.class };
        const { day } = wallTime(site.file.site.timezone, at);
        await sendZip(response, fileName(called, dateText(day)), contentOfEvents(services, found.events, found.tracks));
      },
    }),
    route({
      method: 'delete',
      path: '/api/events/:event',
      may: 'set up',
      summary: 'Delete an event or track for good, with its pictures, clip and alerts',
      answer: onlyId,
      async handle({ params: { event: id }, visitor }) {
        const found = await find(id, visitor);
        const { camera, called } = found.events[0]
          ? { camera: found.events[0].camera, called: `an event of ${found.events[0].ruleName}` }
          : { camera: found.tracks[0]!.camera, called: `a filtered-out ${found.tracks[0]!.class}` };
        await record.write(async (transaction) => {
          if (found.events.length > 0) await record.removal.events([id], transaction);
          else await record.removal.tracks([id], transaction);
          const where = camera === null ? '' : ` at ${site.compiled.cameras.get(camera)?.name ?? camera}`;
          await logbook.note(transaction, clock.now(), visitor, `deleted ${called}${where}`);
        });
        bus.publish('event', { id });
        return { id };
      },
    }),
    route({
      method: 'get',
      path: '/api/cameras/:camera/stored-data',
      may: 'set up',
      summary: 'How much data of a camera is stored, of one day or of all',
      query: ofDay,
      answer: ofCamera,
      handle: async ({ params, query }) => longReads.past.stored(namedCamera(site, params.camera).camera.id, spanOf(query.day)),
    }),
    route({
      method: 'get',
      path: '/api/cameras/:camera/stored-data/export',
      may: 'set up',
      summary: 'What is stored of a camera, of one day or of all, as a ZIP file: JSON, pictures and clips',
      query: ofDay,
      answer: zip,
      async handle({ params, query: { day }, visitor, response }) {
        const { id, name } = namedCamera(site, params.camera).camera;
        const span = spanOf(day);
        await logbook.noteDeed(clock.now(), visitor, `exported ${daySaid(day)} of ${name}`);
        await sendZip(response, fileName(name, day ?? `until ${today()}`), contentOfCamera(services, { id, name }, span));
      },
    }),
    route({
      method: 'delete',
      path: '/api/cameras/:camera/stored-data',
      may: 'set up',
      summary: 'Delete a camera’s history of one day or of all: tracks, events, pictures, clips, recorded detections',
      query: ofDay,
      answer: ofCamera,
      async handle({ params, query: { day }, visitor }) {
        const { id, name } = namedCamera(site, params.camera).camera;
        const span = spanOf(day, clock.now());
        const gone = await past.forget(id, span);
        if (span.to >= clock.now()) bus.publish('forgotten', { camera: id });
        const what = `${gone.events} events, ${gone.tracks} tracks`;
        await logbook.noteDeed(clock.now(), visitor, `deleted ${daySaid(day)} of ${name}: ${what}`);
        return gone;
      },
    }),
    route({
      method: 'get',
      path: '/api/people/:person/stored-data',
      may: 'own account',
      summary: 'How much data of a person is stored; of others for owners only',
      answer: ofPerson,
      handle: async ({ params, visitor }) => personHistory.stored(ownOrOwner(visitor, params.person).id),
    }),
    route({
      method: 'get',
      path: '/api/people/:person/stored-data/export',
      may: 'own account',
      summary: 'What is stored of a person as a ZIP file: alerts with their pictures, views, logbook; of others for owners only',
      answer: zip,
      async handle({ params, visitor, response }) {
        const of = ownOrOwner(visitor, params.person);
        await logbook.noteDeed(clock.now(), visitor, `exported the data of ${of.name}`);
        await sendZip(response, fileName(of.name, today()), contentOfPerson(services, of, accessOf(site.file, of)));
      },
    }),
    route({
      method: 'delete',
      path: '/api/people/:person/stored-data',
      may: 'change owners',
      confirms: true,
      summary: 'Delete a person’s alerts, views and snoozes, and their name from what they did',
      answer: ofPerson,
      async handle({ params, visitor }) {
        const { id, name } = person(params.person);
        const gone = await personHistory.forget(id, name);
        await logbook.noteDeed(clock.now(), visitor, `deleted the data of ${name}: ${gone.alerts} alerts, ${gone.views} views`);
        return gone;
      },
    }),
  ];
}
